/** Where an edge is not heard: at the quietest point near a word's edge, where the waveform crosses zero. */
import { LEVEL_BUCKET_MS, LEVEL_BYTES, rmsOf } from '../audio';
import type { WordId } from '../id';
import { clamp, wholeMs, type Ms } from '../time';
import { lookUp, type Track, type Word } from '../track';
import type { PieceSpan } from './pieces';

/** What is known of a recording's sound for cutting it. */
export interface CutSound {
  /** As `LevelMeter` makes them. */
  readonly levels: Uint8Array;
  /** As `CrossingMeter` makes them; `null` while they are not there: edges lie in the middle of their 5 ms. */
  readonly crossings: Uint8Array | null;
}

/** An edge may lie so far from the word's own. */
const REACH_MS = 120;
/** And so far in the word that goes, where its neighbour touches it. */
const INTO_MS = 40;

/** Finds of every few milliseconds of a stream of 16-bit mono samples the one that begins nearest to a zero crossing. */
export class CrossingMeter {
  readonly #perMs: number;
  readonly #found: number[] = [];
  #last = 0;
  #inBucket = 0;
  #best = { ms: 0, distance: Number.POSITIVE_INFINITY };

  /** `sampleRateHz`: whole samples a millisecond. */
  constructor(sampleRateHz: number) {
    this.#perMs = sampleRateHz / 1000;
  }

  push(samples: Int16Array): void {
    for (const sample of samples) {
      if (this.#inBucket % this.#perMs === 0) {
        // A sign that changes from the sample before is a crossing between the two.
        const distance = this.#last < 0 !== sample < 0 ? 0 : Math.min(Math.abs(this.#last), Math.abs(sample));
        if (distance < this.#best.distance) this.#best = { ms: this.#inBucket / this.#perMs, distance };
      }
      this.#last = sample;
      if (++this.#inBucket === this.#perMs * LEVEL_BUCKET_MS) this.#close();
    }
  }

  /** A byte for every `LEVEL_BUCKET_MS`: the milliseconds from its beginning. */
  finish(): Uint8Array {
    if (this.#inBucket > 0) this.#close();
    return Uint8Array.from(this.#found);
  }

  #close(): void {
    this.#found.push(this.#best.ms);
    this.#inBucket = 0;
    this.#best = { ms: 0, distance: Number.POSITIVE_INFINITY };
  }
}

/** The quietest instant between two times, the one nearer to `nearMs` where several are as quiet. */
export function quietEdge(
  { levels, crossings }: CutSound,
  nearMs: number,
  { leastMs, mostMs }: { readonly leastMs: number; readonly mostMs: number }
): Ms {
  const last = Math.floor(levels.length / LEVEL_BYTES) - 1;
  const first = Math.ceil(leastMs / LEVEL_BUCKET_MS);
  let best = { bucket: -1, cost: Number.POSITIVE_INFINITY };
  for (let bucket = first; bucket <= Math.min(last, Math.floor(mostMs / LEVEL_BUCKET_MS) - 1); bucket++) {
    const here = (at: number): number => rmsOf(levels, clamp(at, 0, last)) ** 2;
    const distanceMs = Math.abs(bucket * LEVEL_BUCKET_MS - nearMs);
    // A decibel is worth going 30 ms for.
    const loudDb = 10 * Math.log10(here(bucket) * 2 + here(bucket - 1) + here(bucket + 1) + 1e-9);
    const cost = loudDb + distanceMs / 30;
    if (cost < best.cost) best = { bucket, cost };
  }
  if (best.bucket < 0) return wholeMs(clamp(nearMs, leastMs, mostMs));
  const offsetMs = crossings?.[best.bucket] ?? Math.floor(LEVEL_BUCKET_MS / 2);
  return wholeMs(clamp(best.bucket * LEVEL_BUCKET_MS + offsetMs, leastMs, mostMs));
}

/**
 * The stretches of recorded time that words fill, one for each run of neighbours, with edges where they are not heard and
 * never in the sound of a neighbour. Holes and described sounds are words as well.
 */
export function spansOfWords(
  track: Track,
  wordIds: readonly WordId[],
  sound: CutSound | null,
  recordedMs: number
): PieceSpan[] {
  const { wordAt } = lookUp(track);
  const places = [...new Set(wordIds)].flatMap((id) => wordAt.get(id) ?? []).sort((a, b) => a - b);
  const runs: { from: number; to: number }[] = [];
  for (const at of places) {
    const last = runs.at(-1);
    if (last?.to === at - 1) last.to = at;
    else runs.push({ from: at, to: at });
  }
  return runs.flatMap(({ from, to }) => {
    const words = track.words.slice(from, to + 1);
    const span = spanOfRun(words, neighbours(track.words, from, to), sound, recordedMs);
    return span.toMs > span.fromMs ? [span] : [];
  });
}

/** The words that sound next before and after a run, wherever they stand in the list: people talk over each other. */
function neighbours(words: readonly Word[], from: number, to: number): { beforeMs: number; afterMs: number } {
  const startMs = words[from]!.startMs;
  const endMs = Math.max(...words.slice(from, to + 1).map((word) => word.endMs));
  const NEAR = 12;
  const near = [...words.slice(Math.max(0, from - NEAR), from), ...words.slice(to + 1, to + 1 + NEAR)].filter(
    ({ kind }) => kind === 'speech'
  );
  const middle = ({ startMs: a, endMs: b }: Word): number => (a + b) / 2;
  const before = near.filter((word) => middle(word) <= startMs).map((word) => word.endMs);
  const after = near.filter((word) => middle(word) >= endMs).map((word) => word.startMs);
  return {
    beforeMs: Math.max(0, ...before),
    afterMs: Math.min(Number.POSITIVE_INFINITY, ...after)
  };
}

function spanOfRun(
  words: readonly Word[],
  { beforeMs, afterMs }: { readonly beforeMs: number; readonly afterMs: number },
  sound: CutSound | null,
  recordedMs: number
): PieceSpan {
  const startMs = words[0]!.startMs;
  const endMs = wholeMs(Math.min(recordedMs, Math.max(...words.map((word) => word.endMs))));
  if (sound === null) return { fromMs: startMs, toMs: endMs };
  const intoMs = Math.min(INTO_MS, (endMs - startMs) / 4);
  const start = {
    leastMs: Math.max(Math.min(beforeMs, startMs + intoMs), startMs - REACH_MS, 0),
    mostMs: startMs + intoMs
  };
  const end = {
    leastMs: endMs - intoMs,
    mostMs: Math.min(Math.max(afterMs, endMs - intoMs), endMs + REACH_MS, recordedMs)
  };
  return { fromMs: quietEdge(sound, startMs, start), toMs: quietEdge(sound, endMs, end) };
}
