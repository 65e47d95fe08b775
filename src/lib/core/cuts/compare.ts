/** A new cut of a recording laid beside the old one by its sound. */
import { SAMPLES_A_MS } from '../audio';
import { clamp, wholeMs, toSpan, type Ms, type ReckonedSpan, type Span } from '../time';
import { fingerprintsOf, STEP } from './fingerprint';
import { matchFingerprints } from './match';
import { readPadded, type Sound } from './sound';

/** A stretch that is in both cuts: it begins at `newMs` in the new one and at `oldMs` in the old one. */
export interface SharedStretch {
  readonly newMs: Ms;
  readonly oldMs: Ms;
  readonly lengthMs: Ms;
  /** Kept in its order among the others, or moved out of it. */
  readonly state: 'kept' | 'moved';
}

export interface CutComparison {
  /** In the order of the new cut; none overlaps another there. */
  readonly shared: readonly SharedStretch[];
  /** What of the old cut is in none of them. */
  readonly removed: readonly Span[];
  /** What of the new cut is in none of them. */
  readonly added: readonly Span[];
}

/** How far the exact place of a piece may lie from the one that the fingerprints tell: one frame of them. */
const OFFSET_REACH = STEP + 64;
const PROBE = 8000;
const PROBES = 7;
/** Likeness of two waveforms, -1 to 1, from which one is taken for the other. */
const LEAST_LIKENESS = 0.45;
/** Borders are looked for so far to either side of where the fingerprints change, block by block. */
const BORDER_REACH_MS = 240;
const BLOCK_MS = 5;
/** What a block of no match costs, where one that matches wholly costs 0 and one that does not at all 1. */
const NOTHING_COST = 0.6;
/** What a block costs in which both are silent: it may belong to either side. */
const SILENCE_COST = 0.3;
/** Levels of 16 bits. */
const SILENT_LEVEL = 20;
/** Sounds are followed in such steps, and over so many of them that are unlike. */
const FOLLOW_STEP_MS = 40;
const MOST_UNLIKE = 8;
/** Stretches apart by less are one: what drifts, and what the fingerprints lost for a moment. */
const SAME_OFFSET_MS = 12;
/** What both cuts leave out or put in below this is no change. */
const LEAST_CHANGE_MS = 60;
/** A hole between two stretches of one offset is closed where it is no longer than this: the fingerprints see no more. */
const BRIEF_MS = 2000;
/** Quiet, against the level of the whole: what lies there may drown in something laid under the new cut. */
const QUIET_SHARE = 0.08;
const LEAST_QUIET_LEVEL = 60;
/** So much louder than quiet may be what was laid under it. */
const BED = 3;

interface Pair {
  readonly old: Sound;
  readonly now: Sound;
  /** Below this level of 16 bits the old sound is quiet. */
  readonly quietLevel: number;
}

interface Piece {
  readonly fromMs: number;
  readonly toMs: number;
  /** Samples: old = new - offset. */
  readonly offset: number;
}

/** Throws nothing: two sounds that share nothing are all removed and all added. `onProgress` is told 0 to 1. */
export function compareCuts(old: Sound, now: Sound, onProgress: (progress: number) => void = () => {}): CutComparison {
  const oldPrints = fingerprintsOf(old, (progress) => onProgress(progress * 0.45));
  const newPrints = fingerprintsOf(now, (progress) => onProgress(0.45 + progress * 0.45));
  const rough = matchFingerprints(oldPrints, newPrints);
  onProgress(0.95);
  const pair = { old, now, quietLevel: Math.max(LEAST_QUIET_LEVEL, QUIET_SHARE * levelOf(old)) };
  const placed = rough.map(({ from, to, offset }) => ({
    fromMs: (from * STEP) / SAMPLES_A_MS,
    toMs: Math.min(now.length, to * STEP) / SAMPLES_A_MS,
    offset: exactOffset(pair, from * STEP, Math.min(now.length, to * STEP), offset * STEP)
  }));
  const pieces = joinPieces(pair, withBorders(pair, extend(pair, placed)));
  const oldEndMs = Math.round(old.length / SAMPLES_A_MS);
  const shared = toStretches(pieces, oldEndMs);
  return {
    shared,
    removed: outside(
      shared.map(({ oldMs, lengthMs }) => ({ startMs: oldMs, endMs: oldMs + lengthMs })),
      oldEndMs
    ),
    added: outside(
      shared.map(({ newMs, lengthMs }) => ({ startMs: newMs, endMs: newMs + lengthMs })),
      Math.round(now.length / SAMPLES_A_MS)
    )
  };
}

/** To the sample, by the waveforms where they are loudest; the rough one where they are too unlike. */
function exactOffset({ old, now }: Pair, from: number, to: number, rough: number): number {
  const probes: { readonly at: number; readonly energy: number }[] = [];
  const count = clamp(Math.floor((to - from) / PROBE), 1, 60);
  for (let at = 0; at < count; at++) {
    const start = from + Math.floor(((to - from - PROBE) * (at + 0.5)) / count);
    probes.push({ at: start, energy: energyOf(readPadded(now, start, PROBE)) });
  }
  const found: number[] = [];
  for (const { at } of probes.sort((a, b) => b.energy - a.energy).slice(0, PROBES)) {
    const best = bestLag(
      readPadded(now, at, PROBE),
      readPadded(old, at - rough - OFFSET_REACH, PROBE + 2 * OFFSET_REACH)
    );
    if (best.likeness >= LEAST_LIKENESS) found.push(rough + OFFSET_REACH - best.lag);
  }
  found.sort((a, b) => a - b);
  return found[found.length >> 1] ?? rough;
}

const energyOf = (samples: Int16Array): number => samples.reduce((sum, sample) => sum + sample * sample, 0);
const rms = (samples: Int16Array): number => Math.sqrt(energyOf(samples) / Math.max(1, samples.length));

/** Of the whole, from a tenth of it. */
function levelOf(sound: Sound): number {
  const block = 1600;
  const levels: number[] = [];
  for (let from = 0; from < sound.length; from += 10 * block) levels.push(rms(readPadded(sound, from, block)) ** 2);
  return Math.sqrt(levels.reduce((sum, level) => sum + level, 0) / Math.max(1, levels.length));
}

/** Where in the longer sound the shorter one lies best, and how alike they are there (normalised cross-correlation). */
function bestLag(short: Int16Array, long: Int16Array): { readonly lag: number; readonly likeness: number } {
  const own = energyOf(short);
  let there = energyOf(long.subarray(0, short.length));
  let best = { lag: 0, likeness: 0 };
  for (let lag = 0; lag + short.length <= long.length; lag++) {
    let product = 0;
    for (let at = 0; at < short.length; at++) product += short[at]! * long[lag + at]!;
    const likeness = own === 0 || there === 0 ? 0 : product / Math.sqrt(own * there);
    if (likeness > best.likeness) best = { lag, likeness };
    there += (long[lag + short.length] ?? 0) ** 2 - long[lag]! ** 2;
  }
  return best;
}

/**
 * The pieces with what lies beside them and is the same by its waveform: a bell that dies away, a silence, have little
 * that their fingerprints could hold on to.
 */
function extend(pair: Pair, pieces: readonly Piece[]): Piece[] {
  const wide = pieces.map((piece) => ({ ...piece }));
  for (const [at, piece] of wide.entries()) {
    // Where the old sound is: before and behind it all silence would be alike.
    const oldStartMs = piece.offset / SAMPLES_A_MS;
    const oldEndMs = oldStartMs + pair.old.length / SAMPLES_A_MS;
    const leastMs = Math.max(wide[at - 1]?.toMs ?? 0, Math.min(piece.fromMs, oldStartMs));
    const newEndMs = pair.now.length / SAMPLES_A_MS;
    const mostMs = Math.min(wide[at + 1]?.fromMs ?? newEndMs, Math.max(piece.toMs, oldEndMs));
    piece.fromMs = followEdge(pair, piece.fromMs, leastMs, piece.offset);
    piece.toMs = followEdge(pair, piece.toMs, mostMs, piece.offset);
  }
  return wide;
}

/** How far the sounds go on alike, from one place of the new one towards another. */
function followEdge(pair: Pair, fromMs: number, toMs: number, offset: number): number {
  const way = Math.sign(toMs - fromMs);
  let last = fromMs;
  let unlike = 0;
  for (let ms = fromMs; (toMs - ms) * way > 0; ms += way * FOLLOW_STEP_MS) {
    const startMs = way > 0 ? ms : ms - FOLLOW_STEP_MS;
    const here = howAlike(pair, startMs - FOLLOW_STEP_MS, 3 * FOLLOW_STEP_MS, offset);
    if (here === 'unlike' && ++unlike === MOST_UNLIKE) return last;
    if (here !== 'alike') continue;
    unlike = 0;
    last = way > 0 ? Math.min(toMs, ms + FOLLOW_STEP_MS) : Math.max(toMs, ms - FOLLOW_STEP_MS);
  }
  return unlike === 0 ? toMs : last;
}

/** Compares a stretch of the new sound with the old one at an offset; quiet sound can be told neither way. */
function howAlike(
  { old, now, quietLevel }: Pair,
  startMs: number,
  lengthMs: number,
  offset: number
): 'alike' | 'quiet' | 'unlike' {
  const from = Math.round(startMs * SAMPLES_A_MS);
  const count = Math.round(lengthMs * SAMPLES_A_MS);
  const ours = readPadded(now, from, count);
  const theirs = readPadded(old, from - offset, count);
  if ((alike(ours, theirs, 0, count) ?? 1) >= LEAST_LIKENESS) return 'alike';
  return rms(theirs) < quietLevel && rms(ours) < BED * quietLevel ? 'quiet' : 'unlike';
}

/** Normalised correlation of a stretch of two sounds, 0 to 1; `null` where both are silent. */
function alike(ours: Int16Array, theirs: Int16Array, from: number, to: number): number | null {
  let product = 0;
  let own = 0;
  let there = 0;
  for (let at = from; at < to; at++) {
    const a = ours[at]!;
    const b = theirs[at]!;
    product += a * b;
    own += a * a;
    there += b * b;
  }
  const silent = SILENT_LEVEL ** 2 * (to - from);
  return own < silent && there < silent ? null : clamp(product / Math.sqrt(own * there + 1), 0, 1);
}

/** The pieces with the places where each begins and ends, made exact by the waveforms. */
function withBorders(pair: Pair, pieces: readonly Piece[]): Piece[] {
  const exact = pieces.map((piece) => ({ ...piece }));
  const newEndMs = pair.now.length / SAMPLES_A_MS;
  const oldEndMs = pair.old.length / SAMPLES_A_MS;
  for (let at = 0; at <= exact.length; at++) {
    const before = exact[at - 1];
    const after = exact[at];
    const doTouch = before !== undefined && after !== undefined && after.fromMs - before.toMs < 1;
    if (doTouch) {
      const cut = borderAt(pair, before.toMs, before.offset, after.offset);
      before.toMs = after.fromMs = clamp(cut, before.fromMs, after.toMs);
    } else {
      // Where either sound ends, there is nothing to look for.
      if (before !== undefined && before.toMs < Math.min(newEndMs, oldEndMs + before.offset / SAMPLES_A_MS))
        before.toMs = clamp(borderAt(pair, before.toMs, before.offset, null), before.fromMs, after?.fromMs ?? newEndMs);
      if (after !== undefined && after.fromMs > Math.max(0, after.offset / SAMPLES_A_MS))
        after.fromMs = clamp(borderAt(pair, after.fromMs, null, after.offset), before?.toMs ?? 0, after.toMs);
    }
  }
  return exact.filter((piece) => piece.toMs - piece.fromMs >= LEAST_CHANGE_MS);
}

/** Where the new sound stops following the old one at one offset and goes on at another; `null` for none. */
function borderAt(pair: Pair, roughMs: number, before: number | null, after: number | null): number {
  const blocks = (2 * BORDER_REACH_MS) / BLOCK_MS;
  const startMs = Math.round(roughMs) - BORDER_REACH_MS;
  const costs = (offset: number | null): number[] =>
    offset === null ? Array<number>(blocks).fill(NOTHING_COST) : blockDifferences(pair, startMs, blocks, offset);
  const [first, second] = [costs(before), costs(after)];
  let cost = second.reduce((sum, one) => sum + one, 0);
  let best = { at: 0, cost };
  for (let at = 0; at < blocks; at++) {
    cost += first[at]! - second[at]!;
    // Where both offsets fit equally well, the border of the fingerprints stays.
    const isNearer = Math.abs(at + 1 - blocks / 2) < Math.abs(best.at - blocks / 2);
    if (cost < best.cost - 0.05 || (cost < best.cost + 0.05 && isNearer))
      best = { at: at + 1, cost: Math.min(cost, best.cost) };
  }
  return startMs + best.at * BLOCK_MS;
}

/** How unlike the two sounds are at an offset, block by block: 0 the same at some level, 1 nothing in common. */
function blockDifferences({ old, now }: Pair, startMs: number, blocks: number, offset: number): number[] {
  const size = BLOCK_MS * SAMPLES_A_MS;
  const from = startMs * SAMPLES_A_MS;
  // Blocks are short: the likeness is asked over three of them, so that a low voice still has a period in it.
  const ours = readPadded(now, from - size, (blocks + 2) * size);
  const theirs = readPadded(old, from - size - offset, (blocks + 2) * size);
  return Array.from({ length: blocks }, (_, block) => {
    const there = from + block * size - offset;
    if (there < 0 || there >= old.length) return 1;
    return 1 - (alike(ours, theirs, block * size, (block + 3) * size) ?? 1 - SILENCE_COST);
  });
}

/** Neighbours of one offset are one piece where nothing lies between them, or nothing that is heard. */
function joinPieces(pair: Pair, pieces: readonly Piece[]): Piece[] {
  const out: Piece[] = [];
  for (const piece of pieces) {
    const last = out.at(-1);
    const isOne =
      last !== undefined &&
      Math.abs(last.offset - piece.offset) <= SAME_OFFSET_MS * SAMPLES_A_MS &&
      (piece.fromMs - last.toMs < BRIEF_MS || isQuietBetween(pair, last, piece));
    if (isOne) out[out.length - 1] = { ...last, toMs: piece.toMs };
    else out.push(piece);
  }
  return out;
}

function isQuietBetween({ old, now, quietLevel }: Pair, before: Piece, after: Piece): boolean {
  const from = Math.round(before.toMs * SAMPLES_A_MS);
  const count = Math.round(after.fromMs * SAMPLES_A_MS) - from;
  const isQuiet = rms(readPadded(old, from - before.offset, count)) < quietLevel;
  return isQuiet && rms(readPadded(now, from, count)) < BED * quietLevel;
}

/** Pieces in whole milliseconds; those in the heaviest order of the old cut are kept, the others moved. */
function toStretches(pieces: readonly Piece[], oldEndMs: number): SharedStretch[] {
  const stretches = pieces.flatMap(({ fromMs, toMs, offset }) => {
    const newMs = wholeMs(fromMs);
    const oldMs = wholeMs(Math.max(0, fromMs - offset / SAMPLES_A_MS));
    const lengthMs = wholeMs(Math.min(wholeMs(toMs) - newMs, oldEndMs - oldMs));
    return lengthMs < LEAST_CHANGE_MS ? [] : [{ newMs, oldMs, lengthMs }];
  });
  const kept = inOrder(stretches);
  return stretches.map((stretch, at) => ({ ...stretch, state: kept.has(at) ? 'kept' : 'moved' }));
}

/** The run of stretches, old and new in order, that is longest in time. */
function inOrder(stretches: readonly Omit<SharedStretch, 'state'>[]): ReadonlySet<number> {
  const best = stretches.map(({ lengthMs }): number => lengthMs);
  const before = stretches.map(() => -1);
  for (let at = 0; at < stretches.length; at++) {
    for (let earlier = 0; earlier < at; earlier++) {
      const { oldMs, lengthMs } = stretches[earlier]!;
      const isInOrder = oldMs + lengthMs <= stretches[at]!.oldMs + LEAST_CHANGE_MS;
      if (isInOrder && best[earlier]! + stretches[at]!.lengthMs > best[at]!) {
        best[at] = best[earlier]! + stretches[at]!.lengthMs;
        before[at] = earlier;
      }
    }
  }
  const kept = new Set<number>();
  for (let at = best.indexOf(Math.max(...best)); at >= 0; at = before[at]!) kept.add(at);
  return kept;
}

/** What lies between 0 and the end outside all spans, and is long enough to be told. */
function outside(spans: readonly ReckonedSpan[], endMs: number): Span[] {
  const gaps: Span[] = [];
  let freeMs = 0;
  for (const span of [...spans].sort((a, b) => a.startMs - b.startMs).concat({ startMs: endMs, endMs })) {
    if (span.startMs - freeMs >= LEAST_CHANGE_MS) gaps.push(toSpan({ startMs: freeMs, endMs: span.startMs }));
    freeMs = Math.max(freeMs, span.endMs);
  }
  return gaps;
}
