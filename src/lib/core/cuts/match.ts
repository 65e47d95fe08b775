/** Which stretches of one sound are stretches of another, by their fingerprints. */

/** Frames `from` to before `to` of the new sound are those of the old one `offset` frames earlier: old = new - offset. */
export interface FramePiece {
  readonly from: number;
  readonly to: number;
  readonly offset: number;
}

/** Frames of a vote, and between votes: 4 and 2 s. */
const VOTE_FRAMES = 128;
const VOTE_STEP = 64;
const LEAST_VOTES = 3;
const CANDIDATES_A_VOTE = 4;
/** A fingerprint found more often than this is of silence or a steady sound. */
const MOST_PLACES = 48;
/** Share of the bits that differ: by chance a half; of one sound in two codecs a fifth. */
const SAME_BELOW = 0.34;
const LOST_ABOVE = 0.42;
/** Frames over which that is asked: 1 s. */
const REACH = 32;
/** Costs of the way through the candidates, in shares of bits: a frame of no match, a change of the offset. */
const NOTHING_COST = 0.37;
const CHANGE_COST = 4;

/** In the order of the new sound, none overlapping another there. */
export function matchFingerprints(old: Uint32Array, now: Uint32Array): FramePiece[] {
  return bestWay(old, now, growAll(old, now, voteOffsets(old, now)));
}

function bitsSet(value: number): number {
  let bits = value - ((value >>> 1) & 0x55555555);
  bits = (bits & 0x33333333) + ((bits >>> 2) & 0x33333333);
  return (((bits + (bits >>> 4)) & 0x0f0f0f0f) * 0x01010101) >>> 24;
}

/** Share of the bits of a frame that differ at an offset; half where one of the sounds has ended. */
function difference(old: Uint32Array, now: Uint32Array, frame: number, offset: number): number {
  const there = frame - offset;
  if (there < 0 || there >= old.length || frame < 0 || frame >= now.length) return 0.5;
  return bitsSet((old[there]! ^ now[frame]!) >>> 0) / 32;
}

interface Vote {
  readonly frame: number;
  readonly offset: number;
  readonly votes: number;
}

/** The offsets that most frames of a stretch agree on, for stretches all along the new sound. */
function voteOffsets(old: Uint32Array, now: Uint32Array): Vote[] {
  const find = placesOf(old);
  const offsetsAt: number[][] = [];
  for (let frame = 0; frame < now.length; frame++) {
    const offsets: number[] = [];
    // The frame as it is, and with each of its bits the other way: few frames come through a codec whole.
    for (let bit = -1; bit < 32; bit++)
      find((bit < 0 ? now[frame]! : now[frame]! ^ (1 << bit)) >>> 0, (there) => offsets.push(frame - there));
    offsetsAt.push(offsets);
  }
  const votes: Vote[] = [];
  for (let from = 0; from < now.length; from += VOTE_STEP) {
    const counts = new Map<number, number>();
    for (const offset of offsetsAt.slice(from, from + VOTE_FRAMES).flat())
      counts.set(offset, (counts.get(offset) ?? 0) + 1);
    const near = (offset: number): number =>
      (counts.get(offset - 1) ?? 0) + counts.get(offset)! + (counts.get(offset + 1) ?? 0);
    const middle = Math.min(now.length - 1, from + VOTE_FRAMES / 2);
    const best = [...counts.keys()]
      .map((offset) => ({ frame: middle, offset, votes: near(offset) }))
      .filter((vote) => vote.votes >= LEAST_VOTES)
      .sort((a, b) => b.votes - a.votes || a.offset - b.offset);
    votes.push(...best.slice(0, CANDIDATES_A_VOTE));
  }
  return votes.sort((a, b) => b.votes - a.votes || a.frame - b.frame);
}

/** Tells each place of a fingerprint, unless there are too many of them to mean anything. */
function placesOf(prints: Uint32Array): (print: number, tell: (place: number) => void) => void {
  const BUCKETS = 1 << 20;
  const bucket = (print: number): number => print >>> 12;
  const starts = new Uint32Array(BUCKETS + 1);
  for (const print of prints) starts[bucket(print) + 1]!++;
  for (let at = 0; at < BUCKETS; at++) starts[at + 1]! += starts[at]!;
  const next = starts.slice();
  const places = new Uint32Array(prints.length);
  prints.forEach((print, place) => (places[next[bucket(print)]!++] = place));
  return (print, tell) => {
    const [from, to] = [starts[bucket(print)]!, starts[bucket(print) + 1]!];
    if (to - from > MOST_PLACES) return;
    for (let at = from; at < to; at++) if (prints[places[at]!] === print) tell(places[at]!);
  };
}

/** Candidates extended in both directions while they match, best first; those inside another one are dropped. */
function growAll(old: Uint32Array, now: Uint32Array, votes: readonly Vote[]): FramePiece[] {
  const grown: FramePiece[] = [];
  const byOffset = new Map<number, FramePiece[]>();
  for (const { frame, offset } of votes) {
    const isKnown = [offset - 1, offset, offset + 1].some((near) =>
      byOffset.get(near)?.some((piece) => piece.from <= frame && frame < piece.to)
    );
    if (isKnown) continue;
    const exact = [offset - 1, offset, offset + 1]
      .map((near) => ({ near, differs: meanDifference(old, now, frame, near) }))
      .sort((a, b) => a.differs - b.differs)[0]!;
    if (exact.differs > SAME_BELOW) continue;
    const piece = {
      from: growTo(old, now, frame, exact.near, -1),
      to: growTo(old, now, frame, exact.near, 1) + 1,
      offset: exact.near
    };
    grown.push(piece);
    byOffset.set(piece.offset, [...(byOffset.get(piece.offset) ?? []), piece]);
  }
  return grown;
}

function meanDifference(old: Uint32Array, now: Uint32Array, frame: number, offset: number): number {
  let sum = 0;
  for (let at = frame - REACH; at < frame + REACH; at++) sum += difference(old, now, at, offset);
  return sum / (2 * REACH);
}

/** The last frame that way that still belongs to it, and some beyond: where exactly it ends is found later. */
function growTo(old: Uint32Array, now: Uint32Array, frame: number, offset: number, way: 1 | -1): number {
  let sum = 0;
  const last: number[] = [];
  let at = frame;
  for (; at >= 0 && at < now.length; at += way) {
    const differs = difference(old, now, at, offset);
    last.push(differs);
    sum += differs;
    if (last.length > REACH) sum -= last[last.length - 1 - REACH]!;
    if (last.length >= REACH && sum / REACH > LOST_ABOVE) break;
  }
  return Math.max(0, Math.min(now.length - 1, at));
}

/** The cheapest way through the new sound: on each frame one of the candidates, or none (Viterbi). */
function bestWay(old: Uint32Array, now: Uint32Array, candidates: readonly FramePiece[]): FramePiece[] {
  const NONE = candidates.length;
  const states = [...candidates, { from: 0, to: now.length }];
  const starting = new Map<number, number[]>();
  candidates.forEach(({ from }, state) => starting.set(from, [...(starting.get(from) ?? []), state]));
  const costs = new Float64Array(states.length).fill(Number.POSITIVE_INFINITY);
  costs[NONE] = 0;
  /** Where each state came from, on each of its own frames. */
  const cameFrom = states.map(({ from, to }) => new Int32Array(to - from));
  const cheapestOf = (some: readonly number[]): number =>
    some.reduce((best, state) => (costs[state]! < costs[best]! ? state : best), NONE);
  let live = [NONE];
  for (let frame = 0; frame < now.length; frame++) {
    const cheapest = cheapestOf(live);
    const changed = costs[cheapest]! + CHANGE_COST;
    live = [...live.filter((state) => states[state]!.to > frame), ...(starting.get(frame) ?? [])];
    for (const state of live) {
      const stays = costs[state]! <= changed;
      const cost = state === NONE ? NOTHING_COST : difference(old, now, frame, candidates[state]!.offset);
      cameFrom[state]![frame - states[state]!.from] = stays ? state : cheapest;
      costs[state] = Math.min(costs[state]!, changed) + cost;
    }
  }
  let state = cheapestOf(live);
  const pieces: FramePiece[] = [];
  for (let frame = now.length - 1, to = now.length; frame >= 0; frame--) {
    const before = cameFrom[state]![frame - states[state]!.from]!;
    if (before !== state || frame === 0) {
      if (state !== NONE) pieces.push({ from: frame, to, offset: candidates[state]!.offset });
      to = frame;
    }
    state = before;
  }
  return pieces.reverse();
}
