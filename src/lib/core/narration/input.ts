/** How loud a microphone comes in, and what is wrong with it. */

export interface InputLevel {
  /** Decibels to full scale; −∞ for nothing. */
  readonly peakDb: number;
  readonly rmsDb: number;
  /** It has run into the end of the scale. */
  readonly isClipped: boolean;
}

const FULL = 32_768;
/** What stands at the end of the scale for as many samples was cut off there; one peak that just reaches it was not. */
const CLIPPED_SAMPLES = 3;
const END_OF_SCALE = 32_700;

const db = (share: number): number => (share === 0 ? Number.NEGATIVE_INFINITY : 20 * Math.log10(share));

/** Of some 16-bit samples. */
export function measureInput(samples: Int16Array): InputLevel {
  let [peak, sum, run, longest] = [0, 0, 0, 0];
  for (const sample of samples) {
    const size = Math.abs(sample);
    if (size > peak) peak = size;
    sum += size * size;
    run = size >= END_OF_SCALE ? run + 1 : 0;
    if (run > longest) longest = run;
  }
  return {
    peakDb: db(peak / FULL),
    rmsDb: samples.length === 0 ? Number.NEGATIVE_INFINITY : db(Math.sqrt(sum / samples.length) / FULL),
    isClipped: longest >= CLIPPED_SAMPLES
  };
}

/** `clipped`: too loud for the microphone's setting. `silent`: nothing comes in at all. */
export type InputTrouble = 'clipped' | 'silent';

/** No room is quieter through a microphone that is on. */
const SILENT_DB = -75;
const SILENT_MS = 2500;
/** A clipping is told for as long, so that it is seen. */
const TOLD_MS = 3000;

/** What the levels that follow one another say. */
export interface InputWatch {
  readonly silentForMs: number;
  /** Since the last clipping; ∞ where there was none. */
  readonly clippedAgoMs: number;
}

export const UNWATCHED: InputWatch = { silentForMs: 0, clippedAgoMs: Number.POSITIVE_INFINITY };

/** With the level of what came next, for as long. */
export const watchInput = (before: InputWatch, { rmsDb, isClipped }: InputLevel, lengthMs: number): InputWatch => ({
  silentForMs: rmsDb < SILENT_DB ? before.silentForMs + lengthMs : 0,
  clippedAgoMs: isClipped ? 0 : before.clippedAgoMs + lengthMs
});

export function hasTrouble({ silentForMs, clippedAgoMs }: InputWatch): InputTrouble | null {
  if (clippedAgoMs < TOLD_MS) return 'clipped';
  return silentForMs >= SILENT_MS ? 'silent' : null;
}
