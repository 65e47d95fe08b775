/** Where recorded time plays: a trim laid out in trimmed time, and both ways between the two, exact. */
import { firstWhere } from '../bisect';
import { lastStartingBy, wholeMs, type Ms } from '../time';
import { playedMs, type Piece, type Trim } from './trim';

/** A piece as it plays. `room`: the sound of the room in place of a gap or in a pause. */
export interface LaidPiece {
  readonly piece: Piece;
  /** Its index in the trim. */
  readonly at: number;
  /** Trimmed time. */
  readonly startMs: Ms;
  readonly endMs: Ms;
  readonly plays: 'sound' | 'nothing' | 'room';
  /** Recorded time of its beginning; `null`: a pause, which was not recorded. */
  readonly fromMs: Ms | null;
}

export interface TrimMap {
  /** What plays, in playing order; each begins where the one before it ends. */
  readonly laid: readonly LaidPiece[];
  readonly lengthMs: Ms;
  /** Index in `laid` of what plays at a trimmed time; -1 outside. */
  readonly indexAt: (trimmedMs: number) => number;
  /** Recorded time that plays then; `null` in a put-in pause and outside. */
  readonly recordedAt: (trimmedMs: number) => number | null;
  /** All trimmed times at which a recorded instant plays, in order: none where it is taken out. */
  readonly trimmedAt: (recordedMs: number) => readonly number[];
}

const known = new WeakMap<readonly Piece[], TrimMap>();

/** The map of a trim; made once for its pieces. */
export function mapOf({ pieces }: Pick<Trim, 'pieces'>): TrimMap {
  const map = known.get(pieces) ?? makeMap(pieces);
  known.set(pieces, map);
  return map;
}

function makeMap(pieces: readonly Piece[]): TrimMap {
  const laid: LaidPiece[] = [];
  let startMs = 0;
  pieces.forEach((piece, at) => {
    const endMs = startMs + playedMs(piece);
    if (endMs > startMs) {
      const isStretch = piece.kind === 'stretch';
      laid.push({
        ...{ piece, at, startMs: wholeMs(startMs), endMs: wholeMs(endMs) },
        plays: !isStretch || piece.out === 'gap' ? 'room' : piece.silent ? 'nothing' : 'sound',
        fromMs: isStretch ? piece.fromMs : null
      });
    }
    startMs = endMs;
  });
  const indexAt = (trimmedMs: number): number => {
    if (trimmedMs < 0 || trimmedMs >= startMs) return -1;
    return lastStartingBy(laid, trimmedMs);
  };
  const byRecorded = indexByRecorded(laid);
  return {
    laid,
    lengthMs: wholeMs(startMs),
    indexAt,
    recordedAt: (trimmedMs) => {
      const one = laid[indexAt(trimmedMs)];
      return one === undefined || one.fromMs === null ? null : trimmedMs - one.startMs + one.fromMs;
    },
    trimmedAt: (recordedMs) =>
      byRecorded(recordedMs)
        .map((one) => recordedMs - one.fromMs! + one.startMs)
        .sort((a, b) => a - b)
  };
}

/** Finds what holds a recorded instant, without a walk through all of it. */
function indexByRecorded(laid: readonly LaidPiece[]): (recordedMs: number) => LaidPiece[] {
  const sorted = laid.filter(({ fromMs }) => fromMs !== null).sort((a, b) => a.fromMs! - b.fromMs!);
  const endOf = (one: LaidPiece): number => one.fromMs! + one.endMs - one.startMs;
  const lastEnds: number[] = [];
  for (const one of sorted) lastEnds.push(Math.max(lastEnds.at(-1) ?? 0, endOf(one)));
  return (recordedMs) => {
    const behind = firstWhere(sorted.length, (at) => sorted[at]!.fromMs! > recordedMs);
    const found: LaidPiece[] = [];
    for (let at = behind - 1; at >= 0 && lastEnds[at]! > recordedMs; at--)
      if (endOf(sorted[at]!) > recordedMs) found.push(sorted[at]!);
    return found;
  };
}

/** Where one piece ends and the next begins that does not go on from it. */
export interface Join {
  /** Trimmed time. */
  readonly atMs: Ms;
  /** Indices in `laid`; `null` at the beginning or the end. */
  readonly before: LaidPiece;
  readonly after: LaidPiece;
}

/** In playing order. */
export const joinsOf = ({ laid }: TrimMap): readonly Join[] =>
  laid.slice(1).map((after, at) => ({ atMs: after.startMs, before: laid[at]!, after }));
