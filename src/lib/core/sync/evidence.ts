/**
 * How well cues lie on speech. A cue is worth the speech under it less what would be there by chance, and the rise of
 * speech at its start: captions begin with the words, and linger behind them.
 */
import type { SpeechMap } from '../audio';
import type { ReckonedSpan } from '../time';

/** Step of the grid on which speech is summed and offsets are tried. */
export const GRID_MS = 20;
/** Captions stay on screen behind the last word: that much of a cue's end says nothing. */
const LINGER_SHARE = 0.3;
/** A rise of speech is looked for between so long before and after a cue's start. */
const RISE_MS = 240;
/** What a rise is worth beside a second of speech. */
const RISE_WEIGHT = 1.2;

export class Evidence {
  /** Sums of speech less its mean, by the grid, with room for every offset on both sides: nobody speaks there. */
  readonly #sums: Float64Array;
  readonly #room: number;

  /** `latestMs`: where the last cue may stand; `farthestMs`: how far from its place a cue is tried at most. */
  constructor(
    speech: SpeechMap,
    durationMs: number,
    { latestMs, farthestMs }: { readonly latestMs: number; readonly farthestMs: number }
  ) {
    const count = Math.max(1, Math.ceil(durationMs / GRID_MS));
    const behind = Math.max(0, Math.ceil((latestMs - durationMs) / GRID_MS));
    const { probabilities, frameMs } = speech;
    let mean = 0;
    for (let frame = 0; frame < probabilities.length; frame++) mean += probabilities[frame]!;
    mean /= Math.max(1, probabilities.length);
    this.#room = Math.ceil((farthestMs + RISE_MS) / GRID_MS) + 2;
    this.#sums = new Float64Array(count + 1 + behind + 2 * this.#room);
    for (let at = 0; at < count; at++) {
      const probability = probabilities[Math.floor(((at + 0.5) * GRID_MS) / frameMs)] ?? 0;
      this.#sums[this.#room + at + 1] = this.#sums[this.#room + at]! + (probability - mean) * (GRID_MS / 1000);
    }
    this.#sums.fill(this.#sums[this.#room + count]!, this.#room + count + 1);
  }

  /** What a cue is worth at these times. */
  of(cue: ReckonedSpan): number {
    const worth = new Float64Array(1);
    this.add(cue, worth, 1);
    return worth[0]!;
  }

  /** Adds what a cue is worth at each of as many offsets as there are places, the middle one 0, `step` of the grid apart. */
  add({ startMs, endMs }: ReckonedSpan, worth: Float64Array, step: number): void {
    const sums = this.#sums;
    const half = ((worth.length - 1) / 2) * step;
    const rise = RISE_MS / GRID_MS;
    const place = (ms: number): number =>
      Math.min(sums.length - 1 - half - rise, Math.max(half + rise, this.#room + Math.round(ms / GRID_MS))) - half;
    let start = place(startMs);
    let spoken = place(startMs + (endMs - startMs) * (1 - LINGER_SHARE));
    for (let at = 0; at < worth.length; at++) {
      const here = sums[start]!;
      worth[at]! += sums[spoken]! - here + RISE_WEIGHT * (sums[start + rise]! - 2 * here + sums[start - rise]!);
      start += step;
      spoken += step;
    }
  }
}
