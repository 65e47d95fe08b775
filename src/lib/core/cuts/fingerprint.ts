/**
 * What a sound is known by, whatever codec and level it comes in: Haitsma and Kalker, "A Highly Robust Audio
 * Fingerprinting System", 2002. 32 bits a frame; a bit tells whether the fall of energy from one band to the next has
 * grown since the frame before.
 */
import { transform } from '../audio';
import { readPadded, type Sound } from './sound';

/** Samples of 16 kHz between frames: 32 ms. */
export const STEP = 512;
/** A frame has as many samples of 8 kHz: 256 ms. */
const FRAME = 2048;
const BANDS = 33;
const LOWEST_HZ = 300;
const HIGHEST_HZ = 2800;
const BLOCK_FRAMES = 256;

/** The first bin of each band, and the one behind the last. */
const BOUNDS = Array.from({ length: BANDS + 1 }, (_, band) =>
  Math.round((LOWEST_HZ * (HIGHEST_HZ / LOWEST_HZ) ** (band / BANDS) * FRAME) / 8000)
);
const WINDOW = Float64Array.from({ length: FRAME }, (_, at) => 0.5 - 0.5 * Math.cos((2 * Math.PI * at) / FRAME));

/** One number of 32 bits a frame; frame `n` lies around sample `n * STEP`. `onProgress` is told 0 to 1. */
export function fingerprintsOf(sound: Sound, onProgress: (progress: number) => void = () => {}): Uint32Array {
  const count = Math.ceil(sound.length / STEP);
  const prints = new Uint32Array(count);
  const real = new Float64Array(FRAME);
  const imaginary = new Float64Array(FRAME);
  const before = new Float64Array(BANDS);
  const here = new Float64Array(BANDS);
  for (let block = 0; block < count; block += BLOCK_FRAMES) {
    const frames = Math.min(BLOCK_FRAMES, count - block);
    const samples = halved(readPadded(sound, block * STEP - FRAME - 1, (frames + 1) * STEP + 2 * FRAME + 2));
    for (let frame = 0; frame < frames; frame += 2) {
      // Two frames in one transform, one in the real and one in the imaginary part.
      const from = (frame * STEP) / 2;
      for (let at = 0; at < FRAME; at++) {
        real[at] = samples[from + at]! * WINDOW[at]!;
        imaginary[at] = samples[from + STEP / 2 + at]! * WINDOW[at]!;
      }
      transform(real, imaginary);
      for (const part of [0, 1] as const) {
        if (frame + part >= frames) break;
        for (let band = 0; band < BANDS; band++) here[band] = bandEnergy(real, imaginary, band, part);
        prints[block + frame + part] = bitsBetween(before, here);
        before.set(here);
      }
    }
    onProgress((block + frames) / count);
  }
  return prints;
}

/** Every second sample, of those around it: 8 kHz are enough for what is looked at. */
function halved(samples: Int16Array): Float64Array {
  const half = new Float64Array((samples.length >> 1) - 1);
  for (let at = 0; at < half.length; at++)
    half[at] = (samples[2 * at]! + 2 * samples[2 * at + 1]! + samples[2 * at + 2]!) / 4;
  return half;
}

/** Of the frame in the real part of the samples, or of the one in the imaginary part. */
function bandEnergy(real: Float64Array, imaginary: Float64Array, band: number, part: 0 | 1): number {
  let sum = 0;
  for (let bin = BOUNDS[band]!; bin < BOUNDS[band + 1]!; bin++) {
    const mirrored = FRAME - bin;
    const isReal = part === 0;
    const a = isReal ? real[bin]! + real[mirrored]! : imaginary[bin]! + imaginary[mirrored]!;
    const b = isReal ? imaginary[bin]! - imaginary[mirrored]! : real[bin]! - real[mirrored]!;
    sum += a * a + b * b;
  }
  return Math.log(sum + 1);
}

function bitsBetween(before: Float64Array, here: Float64Array): number {
  let bits = 0;
  for (let band = 0; band + 1 < BANDS; band++) {
    const hasGrown = here[band]! - here[band + 1]! > before[band]! - before[band + 1]!;
    bits = (bits << 1) | Number(hasGrown);
  }
  return bits >>> 0;
}
