/** The picture of a trim without a new encoding: whole packets, from key frames on. */
import { firstWhere } from '../bisect';
import { wholeMs, type Ms } from '../time';
import { makeStretch, mapOf, type LaidPiece, type Piece, type Trim } from '../trims';

/** A coded frame, in recorded time. */
export interface PicturePacket {
  readonly shownMs: number;
  /** `null`: the file does not say it. */
  readonly decodedMs: number | null;
  readonly isKey: boolean;
}

/** Where a picture can be parted between its packets. */
interface CopyPoints {
  /** Of key frames that nothing needs which comes before them, and that need nothing themselves. */
  readonly starts: readonly number[];
  /** Everything that is shown before `shownMs` is decoded before `decodedMs`; `null`: to the end. */
  readonly ends: readonly { readonly shownMs: number; readonly decodedMs: number | null }[];
}

/** One file's worth of packets that play one after the other. Recorded time. */
export interface CopiedPassage {
  readonly fromMs: number;
  /** Time of decoding before which its packets lie; `null`: to the end. */
  readonly untilDecodedMs: number | null;
  /** Until the next one begins; its last picture stands as long. */
  readonly lengthMs: Ms;
}

export interface CopiedCut {
  /** With what is copied beyond the edges of its pieces, over which the sound of the room plays. */
  readonly trim: Trim;
  readonly passages: readonly CopiedPassage[];
  /** Before the first passage, where no picture is. */
  readonly delayMs: Ms;
  /** By how much the picture begins before its sound, and goes on behind it, at most. */
  readonly mostEarlyMs: number;
  readonly mostLateMs: number;
  /** Joins whose picture begins early. */
  readonly earlyCount: number;
}

/** Trimmed times of joins at which the picture cannot be parted. */
export interface NotCopied {
  readonly atMs: readonly Ms[];
}

function copyPointsOf(packets: readonly PicturePacket[]): CopyPoints {
  const starts: number[] = [];
  const ends: { shownMs: number; decodedMs: number | null }[] = [];
  const leastBehind = new Float64Array(packets.length + 1).fill(Number.POSITIVE_INFINITY);
  for (let at = packets.length - 1; at >= 0; at--)
    leastBehind[at] = Math.min(leastBehind[at + 1]!, packets[at]!.shownMs);
  let latest = Number.NEGATIVE_INFINITY;
  packets.forEach(({ shownMs, isKey }, at) => {
    if (isKey && shownMs >= 0 && shownMs > latest && leastBehind[at + 1]! > shownMs) starts.push(shownMs);
    latest = Math.max(latest, shownMs);
    const next = packets[at + 1];
    if (next === undefined || leastBehind[at + 1]! <= latest || next.decodedMs === null) return;
    ends.push({ shownMs: leastBehind[at + 1]!, decodedMs: next.decodedMs });
  });
  ends.push({ shownMs: Number.POSITIVE_INFINITY, decodedMs: null });
  return { starts, ends };
}

/** What goes on in the recording without a cut. */
interface Run {
  readonly pieces: LaidPiece[];
  readonly fromMs: number;
  toMs: number;
  startMs: Ms;
}

/** Put-in pauses have no run of their own. */
function runsOf(laid: readonly LaidPiece[]): (Run | LaidPiece)[] {
  const runs: (Run | LaidPiece)[] = [];
  for (const one of laid) {
    const last = runs.at(-1);
    const { fromMs, startMs, endMs } = one;
    if (fromMs === null) runs.push(one);
    else if (last !== undefined && 'pieces' in last && last.toMs === fromMs) {
      last.pieces.push(one);
      last.toMs = fromMs + endMs - startMs;
    } else runs.push({ pieces: [one], fromMs, toMs: fromMs + endMs - startMs, startMs });
  }
  return runs;
}

/**
 * `packets`: in the order of the file, one at least, the first a key frame. Each passage begins at the last key frame by its
 * beginning and ends where its last frame is decoded: what that adds is the room's to hear, so nothing is heard that was
 * taken out.
 */
export function copyPicture(trim: Trim, packets: readonly PicturePacket[]): CopiedCut | NotCopied {
  const { starts, ends } = copyPointsOf(packets);
  // Behind its last frame, which stands as long as the one before it, there is no picture.
  const lastTimes = packets
    .slice(-64)
    .map(({ shownMs }) => shownMs)
    .sort((a, b) => a - b);
  const lastMs = lastTimes.at(-1)!;
  const pictureEndMs = lastMs + Math.max(1, lastMs - (lastTimes.at(-2) ?? lastMs));
  const pieces: Piece[] = [];
  const passages: { fromMs: number; untilDecodedMs: number | null; lengthMs: Ms }[] = [];
  const unparted: Ms[] = [];
  let [delayMs, mostEarlyMs, mostLateMs, earlyCount] = [0, 0, 0, 0];
  let behind: { readonly toMs: number; readonly shownToMs: number } | null = null;
  const hold = (lengthMs: number): void => {
    const last = passages.at(-1);
    if (last === undefined) delayMs += lengthMs;
    else last.lengthMs = wholeMs(last.lengthMs + lengthMs);
  };
  for (const run of runsOf(mapOf(trim).laid)) {
    if (!('pieces' in run)) {
      pieces.push(run.piece);
      hold(run.endMs - run.startMs);
      continue;
    }
    const { fromMs, toMs } = run;
    const stretches = run.pieces.map(({ piece }) => piece);
    const startMs = starts[firstWhere(starts.length, (at) => starts[at]! > fromMs) - 1] ?? fromMs;
    if (fromMs >= pictureEndMs) {
      pieces.push(...stretches);
      hold(toMs - fromMs);
      continue;
    }
    if (behind !== null && fromMs >= behind.toMs && startMs < behind.shownToMs) unparted.push(run.startMs);
    const end = ends[firstWhere(ends.length, (at) => ends[at]!.shownMs >= toMs)]!;
    const endMs = Number.isFinite(end.shownMs) ? end.shownMs : toMs;
    const [early, late] = [wholeMs(fromMs) - wholeMs(startMs), wholeMs(endMs) - wholeMs(toMs)];
    const beyond = (name: string, from: number, to: number): Piece[] =>
      to > from ? [makeStretch(`${run.pieces[0]!.piece.id} ${name}`, from, to, { out: 'gap' })] : [];
    pieces.push(...beyond('early', wholeMs(startMs), fromMs), ...stretches, ...beyond('late', toMs, wholeMs(endMs)));
    passages.push({
      ...{ fromMs: startMs, untilDecodedMs: end.decodedMs },
      lengthMs: wholeMs(early + toMs - fromMs + late)
    });
    behind = { toMs, shownToMs: endMs };
    if (early > 0) earlyCount++;
    mostEarlyMs = Math.max(mostEarlyMs, early);
    mostLateMs = Math.max(mostLateMs, late);
  }
  if (unparted.length > 0) return { atMs: unparted };
  return {
    trim: { ...trim, pieces },
    ...{ passages, delayMs: wholeMs(delayMs), mostEarlyMs, mostLateMs, earlyCount }
  };
}
