/** What is recorded: 16-bit mono samples. */

/** Browsers resample every microphone to it. */
export const NARRATION_RATE_HZ = 48_000;
export const SAMPLE_BYTES = 2;
/** Sizes in a WAVE file end at 4 GB, 12.4 hours. */
export const MOST_NARRATED_MS = 12 * 3_600_000;

export const narratedMs = (bytes: number): number => bytes / SAMPLE_BYTES / (NARRATION_RATE_HZ / 1000);
/** Of whole samples. */
export const narratedBytes = (ms: number): number => Math.round(ms * (NARRATION_RATE_HZ / 1000)) * SAMPLE_BYTES;
