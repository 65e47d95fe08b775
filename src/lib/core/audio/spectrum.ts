/**
 * A spectrum that shows speech: bands as wide as the ear's, each measured against its own steady noise, so that a hum or
 * a hiss falls away and voices stand out.
 */

import { transform } from './fft';

/** A column each. */
export const SPECTRUM_STEP_MS = 10;
export const SPECTRUM_BANDS = 48;
const FRAME = 512;
const RATE_HZ = 16_000;
const STEP = (SPECTRUM_STEP_MS * RATE_HZ) / 1000;
/** Voices and their consonants lie between these. */
const LOWEST_HZ = 90;
const HIGHEST_HZ = 7000;
/** What stands so far above its band's noise is drawn at full strength. */
const RANGE_DB = 42;
/** A little noise is not drawn at all. */
const ABOVE_NOISE_DB = 6;
/** Below this, dBFS in a band, nothing is heard. */
const FLOOR_DB = -92;

/** O'Shaughnessy, "Speech Communication: Human and Machine", 1987. */
const mel = (hz: number): number => 2595 * Math.log10(1 + hz / 700);
const hertz = (mels: number): number => 700 * (10 ** (mels / 2595) - 1);

/** Bounds of the bands, as bins of the transform, the lowest first. */
const BOUNDS = Array.from({ length: SPECTRUM_BANDS + 1 }, (_, band) => {
  const share = band / SPECTRUM_BANDS;
  return (hertz(mel(LOWEST_HZ) * (1 - share) + mel(HIGHEST_HZ) * share) * FRAME) / RATE_HZ;
});

const WINDOW = Float64Array.from({ length: FRAME }, (_, at) => 0.5 - 0.5 * Math.cos((2 * Math.PI * at) / FRAME));

/** Of 16-bit mono samples at 16 kHz: `SPECTRUM_BANDS` bytes a column, the lowest band first; 0 nothing, 255 full. */
export function speechSpectrum(samples: Int16Array): Uint8Array {
  const columns = Math.floor(samples.length / STEP);
  const levels = new Float32Array(columns * SPECTRUM_BANDS);
  const real = new Float64Array(FRAME);
  const imaginary = new Float64Array(FRAME);
  const power = new Float64Array(FRAME / 2 + 1);
  for (let column = 0; column < columns; column++) {
    const from = column * STEP + STEP / 2 - FRAME / 2;
    for (let at = 0; at < FRAME; at++) real[at] = ((samples[from + at] ?? 0) / 32_768) * WINDOW[at]!;
    imaginary.fill(0);
    transform(real, imaginary);
    for (let bin = 0; bin < power.length; bin++) power[bin] = real[bin]! ** 2 + imaginary[bin]! ** 2;
    for (let band = 0; band < SPECTRUM_BANDS; band++) {
      const sum = powerBetween(power, BOUNDS[band]!, BOUNDS[band + 1]!);
      // A sine at full scale comes to 0 dB.
      levels[column * SPECTRUM_BANDS + band] = Math.max(FLOOR_DB, 10 * Math.log10(sum / (FRAME / 4) ** 2 + 1e-12));
    }
  }
  return aboveNoise(levels, columns);
}

/** Power between two places among the bins, which may lie within one. */
function powerBetween(power: Float64Array, from: number, to: number): number {
  let sum = 0;
  for (let bin = Math.floor(from); bin < to; bin++)
    sum += (power[bin] ?? 0) * (Math.min(bin + 1, to) - Math.max(bin, from));
  return sum;
}

function aboveNoise(levels: Float32Array, columns: number): Uint8Array {
  const bytes = new Uint8Array(levels.length);
  for (let band = 0; band < SPECTRUM_BANDS; band++) {
    const sorted = Float32Array.from(
      { length: columns },
      (_, column) => levels[column * SPECTRUM_BANDS + band]!
    ).sort();
    // What a fifth of the time stays below is the noise: between words there is at least as much.
    const noiseDb = Math.max(FLOOR_DB + 12, sorted[Math.floor(columns * 0.2)] ?? FLOOR_DB);
    for (let column = 0; column < columns; column++) {
      const at = column * SPECTRUM_BANDS + band;
      const above = levels[at]! - noiseDb - ABOVE_NOISE_DB;
      bytes[at] = Math.round(255 * Math.min(1, Math.max(0, above / RANGE_DB)));
    }
  }
  return bytes;
}
