/**
 * The shift and speed that lay captions made elsewhere on a recording's speech, and where something was taken out or put
 * in. For each speed that a mix-up of frame rates can make, every stretch of the track is tried at every offset; the
 * best way through the offsets (dynamic programming: Viterbi, "Error bounds for convolutional codes", 1967) may drift
 * slowly for free and jump at a price. What it finds is made exact on the onsets of speech.
 */
import { speechRegions, type SpeechMap } from '../audio';
import { clamp, lastStartingBy, overlapMs, type ReckonedSpan } from '../time';
import { Evidence, GRID_MS } from './evidence';
import { fitLine, type Line, type Pair } from './line';

/** `new = old × speed + shift` for what starts in `fromMs <= t < toMs`, in the track's present time. */
export interface SyncSegment {
  readonly fromMs: number;
  readonly toMs: number;
  readonly shiftMs: number;
  readonly speed: number;
}

export interface SyncEstimate {
  readonly shiftMs: number;
  readonly speed: number;
  /** Where one line does not do: in order, without gaps. */
  readonly segments?: readonly SyncSegment[];
  /** 0: this says nothing. 1: it is certain. */
  readonly confidence: number;
}

/** Where a span lies once the estimate is taken. */
export function syncedSpan({ startMs, endMs }: ReckonedSpan, { segments, ...whole }: SyncEstimate): ReckonedSpan {
  const { speed, shiftMs } = segments?.find(({ fromMs, toMs }) => startMs >= fromMs && startMs < toMs) ?? whole;
  return { startMs: startMs * speed + shiftMs, endMs: endMs * speed + shiftMs };
}

/** Ratios that arise where a file timed for one frame rate is played at another. */
export const FRAME_RATE_MIX_UPS: readonly { readonly from: number; readonly to: number }[] = [
  { from: 23.976, to: 25 },
  { from: 25, to: 23.976 },
  { from: 24, to: 25 },
  { from: 25, to: 24 },
  { from: 23.976, to: 29.97 },
  { from: 29.97, to: 23.976 },
  { from: 25, to: 29.97 },
  { from: 29.97, to: 25 },
  { from: 23.976, to: 24 },
  { from: 24, to: 23.976 }
];
/** The speed that puts right captions timed for pictures at `from` a second where `to` are shown. */
export const speedOfMixUp = ({ from, to }: { readonly from: number; readonly to: number }): number =>
  exact(from) / exact(to);
const exact = (rate: number): number => (rate === 23.976 ? 24_000 / 1001 : rate === 29.97 ? 30_000 / 1001 : rate);

/** Speeds to try; those that a stretch drifts through for free are found from their neighbour. */
const TRIED_SPEEDS: readonly number[] = [
  1,
  ...new Set(FRAME_RATE_MIX_UPS.map(speedOfMixUp).filter((speed) => Math.abs(speed - 1) > 0.002))
];

/** Offsets tried to both sides. */
const FARTHEST_MS = 75_000;
/** Step of the offsets. */
const STEP_MS = 40;
/** Cues are taken together until they have this much time on screen. */
const STRETCH_MS = 24_000;
/** Drift that goes on for free besides the speed itself: half a per cent and a little. */
const FREE_DRIFT = 0.007;
/** What a jump costs, in the spread of a stretch's scores. */
const JUMP_COST = 7;
/** What is laid nearer than this to where it stands is left alone. */
const ALONE_MS = 60;

interface Stretch {
  readonly cues: readonly ReckonedSpan[];
  /** Where the stretch is, in the track's time at the speed tried. */
  readonly middleMs: number;
}

interface Way {
  readonly speed: number;
  readonly stretches: readonly Stretch[];
  /** For each stretch the offset it takes. */
  readonly offsetsMs: readonly number[];
  /** Mean over the stretches of how far the offset taken stands out, in spreads; jumps taken off. */
  readonly score: number;
}

const HOUR_MS = 3_600_000;

/**
 * What lays the cues on the speech. Cues in order of start; `durationMs` of the recording. Captions that count from a
 * time code of their own, as from one hour, and so lie behind the recording, are brought to its start first.
 */
export function estimateSync(cues: readonly ReckonedSpan[], speech: SpeechMap, durationMs: number): SyncEstimate {
  const [first, last] = [cues[0], cues.at(-1)];
  const speaks = speechRegions(speech, durationMs)[0];
  if (first === undefined || last === undefined || speaks === undefined || first.startMs < durationMs)
    return estimateFrom(cues, speech, durationMs);
  const hoursMs = Math.floor(first.startMs / HOUR_MS) * HOUR_MS;
  return [hoursMs, first.startMs - speaks.startMs]
    .map((codeMs) => {
      const counted = cues.map((cue) => ({ startMs: cue.startMs - codeMs, endMs: cue.endMs - codeMs }));
      return countedFrom(codeMs, estimateFrom(counted, speech, durationMs, 0));
    })
    .reduce((one, other) => (other.confidence > one.confidence ? other : one));
}

/** The estimate for times that count from `codeMs`. */
function countedFrom(codeMs: number, { segments, confidence, ...whole }: SyncEstimate): SyncEstimate {
  const moved = <L extends { readonly shiftMs: number; readonly speed: number }>(line: L): L => ({
    ...line,
    shiftMs: Math.round(line.shiftMs - codeMs * line.speed)
  });
  return {
    ...moved(whole),
    ...(segments !== undefined && {
      segments: segments.map((one, at) => ({
        ...moved(one),
        fromMs: at === 0 ? 0 : one.fromMs + codeMs,
        toMs: one.toMs + codeMs
      }))
    }),
    confidence
  };
}

/** `aloneMs`: what is laid nearer than this to where it stands is left alone. */
function estimateFrom(
  cues: readonly ReckonedSpan[],
  speech: SpeechMap,
  durationMs: number,
  aloneMs = ALONE_MS
): SyncEstimate {
  const nothing: SyncEstimate = { shiftMs: 0, speed: 1, confidence: 0 };
  const usable = cues.filter((cue) => cue.endMs - cue.startMs < 60_000);
  const regions = speechRegions(speech, durationMs, { padMs: 0 });
  if (usable.length < 3 || regions.length < 2) return nothing;
  const evidence = new Evidence(speech, durationMs, {
    latestMs: Math.max(...usable.map((cue) => cue.endMs)) * Math.max(...TRIED_SPEEDS),
    farthestMs: FARTHEST_MS
  });
  const ways = TRIED_SPEEDS.map((speed) => findWay(usable, speed, evidence));
  // The speed as it is wins where another is hardly better.
  const best = ways.reduce((one, other) => (other.score > one.score * 1.05 + 0.2 ? other : one));
  const onsets = onsetsOf(speech, regions);
  const runs = runsOf(best).map((run) => ({ ...run, line: exactLine(run.cues, run.line, onsets) }));
  const joined = joinRuns(runs);
  const bounds = boundsBetween(joined, evidence);
  const segments = joined.map(({ line }, at): SyncSegment => ({
    fromMs: bounds[at]!,
    toMs: bounds[at + 1]!,
    ...settle(line, joined[at]!.cues, aloneMs)
  }));
  const main = joined.reduce((one, other) => (other.cues.length > one.cues.length ? other : one));
  return {
    ...settle(main.line, main.cues, aloneMs),
    ...(segments.length > 1 && { segments }),
    confidence: confidenceOf(best, findWay(backwards(usable), best.speed, evidence).score, joined, regions, durationMs)
  };
}

/** Whole milliseconds; a line that leaves everything all but where it is leaves it wholly. */
function settle(line: Line, cues: readonly ReckonedSpan[], aloneMs: number): { shiftMs: number; speed: number } {
  const moved = Math.max(...[cues[0]!, cues.at(-1)!].map(({ startMs }) => Math.abs(at(line, startMs) - startMs)));
  if (moved <= aloneMs) return { shiftMs: 0, speed: 1 };
  return { shiftMs: Math.round(line.shiftMs), speed: Number(line.speed.toFixed(7)) };
}

const at = (line: Line, ms: number): number => ms * line.speed + line.shiftMs;

/** The way through the offsets for one speed. */
function findWay(cues: readonly ReckonedSpan[], speed: number, evidence: Evidence): Way {
  const stretches = stretchesOf(cues, speed);
  const half = Math.round(FARTHEST_MS / STEP_MS);
  const states = 2 * half + 1;
  let costs: Float64Array | undefined;
  const cameFrom: Int32Array[] = [];
  for (const [index, stretch] of stretches.entries()) {
    const scores = scoresOf(stretch, states, evidence);
    const from = new Int32Array(states);
    const next = new Float64Array(states);
    if (costs === undefined) next.set(scores);
    else {
      const before = stretches[index - 1]!;
      const drift = Math.max(1, Math.ceil(((stretch.middleMs - before.middleMs) * FREE_DRIFT) / STEP_MS));
      const free = slidingBest(costs, drift);
      let top = 0;
      for (let state = 1; state < states; state++) if (costs[state]! > costs[top]!) top = state;
      for (let state = 0; state < states; state++) {
        const near = free[state]!;
        const isJump = costs[near]! < costs[top]! - JUMP_COST;
        from[state] = isJump ? top : near;
        next[state] = scores[state]! + (isJump ? costs[top]! - JUMP_COST : costs[near]!);
      }
    }
    cameFrom.push(from);
    costs = next;
  }
  let state = 0;
  const last = costs!;
  for (let other = 1; other < states; other++) if (last[other]! > last[state]!) state = other;
  const score = last[state]! / stretches.length;
  const offsets = new Array<number>(stretches.length);
  for (let index = stretches.length - 1; index >= 0; index--) {
    offsets[index] = (state - half) * STEP_MS;
    state = cameFrom[index]![state]!;
  }
  return { speed, stretches, offsetsMs: offsets, score };
}

function stretchesOf(cues: readonly ReckonedSpan[], speed: number): Stretch[] {
  const stretches: Stretch[] = [];
  let open: ReckonedSpan[] = [];
  let shownMs = 0;
  const close = (): void => {
    stretches.push({ cues: open, middleMs: ((open[0]!.startMs + open.at(-1)!.endMs) / 2) * speed });
    open = [];
    shownMs = 0;
  };
  for (const cue of cues) {
    open.push(cue);
    shownMs += cue.endMs - cue.startMs;
    if (shownMs >= STRETCH_MS) close();
  }
  if (open.length > 0) {
    // A rest too short to be found on its own goes with the stretch before it.
    const before = shownMs < STRETCH_MS / 2 ? stretches.pop() : undefined;
    if (before !== undefined) open = [...before.cues, ...open];
    close();
  }
  return stretches.map((stretch) => ({
    ...stretch,
    cues: stretch.cues.map(({ startMs, endMs }) => ({ startMs: startMs * speed, endMs: endMs * speed }))
  }));
}

/** Of each offset how far its score stands out, in spreads of all of them. */
function scoresOf({ cues }: Stretch, states: number, evidence: Evidence): Float64Array {
  const scores = new Float64Array(states);
  for (const cue of cues) evidence.add(cue, scores, STEP_MS / GRID_MS);
  let [sum, squares] = [0, 0];
  for (const score of scores) {
    sum += score;
    squares += score * score;
  }
  const mean = sum / states;
  const spread = Math.sqrt(Math.max(1e-9, squares / states - mean * mean));
  for (let state = 0; state < states; state++) scores[state] = (scores[state]! - mean) / spread;
  return scores;
}

/** For each state the best of those at most `reach` away (a queue of falling values). */
function slidingBest(values: Float64Array, reach: number): Int32Array {
  const best = new Int32Array(values.length);
  const queue: number[] = [];
  let head = 0;
  for (let next = 0; next < values.length + reach; next++) {
    if (next < values.length) {
      while (queue.length > head && values[queue.at(-1)!]! <= values[next]!) queue.pop();
      queue.push(next);
    }
    const state = next - reach;
    if (state < 0) continue;
    while (queue[head]! < state - reach) head++;
    best[state] = queue[head]!;
  }
  return best;
}

interface Run {
  /** In the track's present time. */
  readonly cues: readonly ReckonedSpan[];
  readonly line: Line;
}

/** Stretches whose offsets lie on one line, with that line. */
function runsOf({ speed, stretches, offsetsMs }: Way): Run[] {
  const runs: { from: number; to: number }[] = [];
  stretches.forEach((stretch, index) => {
    const before = stretches[index - 1];
    const stepMs = before === undefined ? 0 : Math.abs(offsetsMs[index]! - offsetsMs[index - 1]!);
    const freeMs =
      before === undefined
        ? 0
        : Math.max(1, Math.ceil(((stretch.middleMs - before.middleMs) * FREE_DRIFT) / STEP_MS)) * STEP_MS;
    if (before === undefined || stepMs > freeMs) runs.push({ from: index, to: index + 1 });
    else runs.at(-1)!.to = index + 1;
  });
  return runs.map(({ from, to }) => {
    const some = stretches.slice(from, to);
    const pairs = some.map(({ middleMs }, step): Pair => ({
      fromMs: middleMs / speed,
      toMs: middleMs + offsetsMs[from + step]!,
      weight: 1
    }));
    const cues = some.flatMap((stretch) =>
      stretch.cues.map(({ startMs, endMs }) => ({ startMs: startMs / speed, endMs: endMs / speed }))
    );
    return { cues, line: fitLine(pairs, speed, { leastPairs: 4 }) };
  });
}

/** When speech begins after a pause, between the frames, by where its probability passes a half. */
function onsetsOf({ probabilities, frameMs }: SpeechMap, regions: readonly ReckonedSpan[]): number[] {
  return regions.map(({ startMs }) => {
    const frame = Math.round(startMs / frameMs);
    const [before, here] = [probabilities[frame - 1] ?? 0, probabilities[frame] ?? 1];
    const part = here > before ? clamp((0.5 - before) / (here - before), 0, 1) : 1;
    return Math.max(0, (frame - 0.5 + part) * frameMs - ONSET_LATE_MS);
  });
}
/** The model says that speech has begun a little after it has: measured against a synthesiser's own times. */
const ONSET_LATE_MS = 30;

/** The line through the starts of cues and the onsets of speech they lie near, nearer and nearer. */
function exactLine(cues: readonly ReckonedSpan[], rough: Line, onsets: readonly number[]): Line {
  const starts = onsets.map((startMs) => ({ startMs }));
  let line = rough;
  for (const reachMs of [700, 450, 300, 200, 150, 120]) {
    const pairs = cues.flatMap(({ startMs }, index): Pair[] => {
      const laidMs = at(line, startMs);
      const near = lastStartingBy(starts, laidMs);
      const [before, after] = [onsets[near], onsets[near + 1]];
      const onset = before === undefined || (after !== undefined && after - laidMs < laidMs - before) ? after : before;
      // A cue that follows another at once begins where it was broken, not where somebody began to speak.
      const previous = cues[index - 1];
      const isFree = previous === undefined || startMs - previous.endMs > 60;
      if (onset === undefined || Math.abs(onset - laidMs) > reachMs) return [];
      return [{ fromMs: startMs, toMs: onset, weight: isFree ? 1 : 0.35 }];
    });
    if (pairs.length < 4) return line;
    line = fitLine(pairs, rough.namedSpeed, { leastPairs: 8 });
  }
  return line;
}

/** Neighbouring runs that turn out to lie on the same line are one. */
function joinRuns(runs: readonly Run[]): Run[] {
  const joined: Run[] = [];
  for (const run of runs) {
    const last = joined.at(-1);
    const seamMs = run.cues[0]!.startMs;
    const isSame = last !== undefined && Math.abs(at(last.line, seamMs) - at(run.line, seamMs)) < 150;
    if (!isSame) joined.push(run);
    else
      joined[joined.length - 1] = {
        cues: [...last.cues, ...run.cues],
        line: last.cues.length >= run.cues.length ? last.line : run.line
      };
  }
  return joined;
}

/** Cues that would overlap by more than this across a seam speak against it, as much as so many seconds of speech. */
const FOLD_MS = 200;
const FOLD_COST = 4;

/** Where one line gives way to the next: before the cue from which on the next one is worth more. */
function boundsBetween(runs: readonly Run[], evidence: Evidence): number[] {
  const worth = ({ startMs, endMs }: ReckonedSpan, line: Line): number =>
    evidence.of({ startMs: at(line, startMs), endMs: at(line, endMs) });
  const inner = runs.slice(1).map((run, index) => {
    const before = runs[index]!;
    const around = [...before.cues.slice(-30), ...run.cues.slice(0, 30)];
    let value = around.reduce((sum, cue) => sum + worth(cue, run.line), 0);
    let best = { value: value - FOLD_COST, at: 0 };
    around.forEach((cue, step) => {
      value += worth(cue, before.line) - worth(cue, run.line);
      const next = around[step + 1];
      // Captions do not run over each other where a piece is missing.
      const isFolded = next !== undefined && at(run.line, next.startMs) < at(before.line, cue.endMs) - FOLD_MS;
      const worthHere = value - (isFolded ? FOLD_COST : 0);
      if (worthHere > best.value) best = { value: worthHere, at: step + 1 };
    });
    const first = around[best.at] ?? run.cues[0]!;
    return Math.floor(first.startMs);
  });
  const endMs = Math.ceil(runs.at(-1)!.cues.at(-1)!.endMs) + 1;
  return [0, ...inner, Math.max(endMs, ...inner.map((ms) => ms + 1))];
}

/** The same cues from the last to the first: what is found for them is found by chance. */
function backwards(cues: readonly ReckonedSpan[]): ReckonedSpan[] {
  const wholeMs = cues[0]!.startMs + Math.max(...cues.map((cue) => cue.endMs));
  return cues.map(({ startMs, endMs }) => ({ startMs: wholeMs - endMs, endMs: wholeMs - startMs })).reverse();
}

/** How far the way stands out from what chance gives, and how much of the captions lies on speech: the worse of the two. */
function confidenceOf(
  way: Way,
  chanceScore: number,
  runs: readonly Run[],
  regions: readonly ReckonedSpan[],
  durationMs: number
): number {
  const stretches = way.stretches.length;
  const standsOut = clamp((way.score - chanceScore - 0.25 - 1.2 / Math.sqrt(stretches)) / 1.8, 0, 1);
  const spokenMs = regions.reduce((sum, region) => sum + region.endMs - region.startMs, 0);
  let [shownMs, onSpeechMs] = [0, 0];
  for (const run of runs)
    for (const { startMs, endMs } of run.cues) {
      const laid = { startMs: at(run.line, startMs), endMs: at(run.line, startMs + (endMs - startMs) * 0.7) };
      shownMs += laid.endMs - laid.startMs;
      const from = Math.max(0, lastStartingBy(regions, laid.startMs));
      for (let region = from; region < regions.length && regions[region]!.startMs < laid.endMs; region++)
        onSpeechMs += overlapMs(regions[region]!, laid);
    }
  const share = onSpeechMs / Math.max(1, shownMs);
  const chance = spokenMs / Math.max(1, durationMs);
  const lies = clamp((share - chance) / Math.max(0.05, 0.9 - chance), 0, 1);
  // A minute of speech is enough; of less there may be too little to tell one place from another.
  const enough = clamp(Math.min(spokenMs, shownMs) / 45_000, 0, 1);
  const agrees = chance > 0.85 ? standsOut : Math.min(standsOut, 2 * lies);
  return Number((agrees * enough).toFixed(3));
}
