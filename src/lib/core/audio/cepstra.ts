/** Mel-frequency cepstra and pitch of short frames: what a voice is told by. */
import { transform } from './fft';

export const CEPSTRA_RATE_HZ = 16_000;
/** Samples a second, the rate at which sound is decoded. */
export const SAMPLES_A_MS = CEPSTRA_RATE_HZ / 1000;
/** A frame begins every 10 ms and is 25 ms long. */
export const FRAME_STEP = 160;
const FRAME_SAMPLES = 400;
const FFT_SAMPLES = 512;
const FILTERS = 24;
const LOWEST_HZ = 100;
const HIGHEST_HZ = 7000;
export const CEPSTRA = 12;

/** O'Shaughnessy's mel scale, as in the HTK Book, §5.4. */
const mel = (hz: number): number => 2595 * Math.log10(1 + hz / 700);
const fromMel = (value: number): number => 700 * (10 ** (value / 2595) - 1);

const WINDOW = Float64Array.from(
  { length: FRAME_SAMPLES },
  (_, at) => 0.54 - 0.46 * Math.cos((2 * Math.PI * at) / (FRAME_SAMPLES - 1))
);
const EDGES = Array.from({ length: FILTERS + 2 }, (_, at) => {
  const part = at / (FILTERS + 1);
  return (fromMel(mel(LOWEST_HZ) * (1 - part) + mel(HIGHEST_HZ) * part) / CEPSTRA_RATE_HZ) * FFT_SAMPLES;
});
const COSINES = Array.from({ length: CEPSTRA }, (_, row) =>
  Float64Array.from({ length: FILTERS }, (__, at) => Math.cos((Math.PI * (row + 1) * (at + 0.5)) / FILTERS))
);

/** Computes frame after frame without making new arrays. */
export class CepstralAnalyser {
  readonly #real = new Float64Array(FFT_SAMPLES);
  readonly #imaginary = new Float64Array(FFT_SAMPLES);
  readonly #bands = new Float64Array(FILTERS);

  /** Cepstra 1 to `CEPSTRA` (the level is left out) of the frame that begins at `from`; samples beyond the end are 0. */
  cepstra(samples: Int16Array, from: number, into: Float64Array): void {
    const real = this.#real.fill(0);
    const imaginary = this.#imaginary.fill(0);
    for (let at = 0; at < FRAME_SAMPLES; at++) {
      const here = samples[from + at] ?? 0;
      const before = samples[from + at - 1] ?? 0;
      real[at] = (here - 0.97 * before) * WINDOW[at]!;
    }
    transform(real, imaginary);
    for (let band = 0; band < FILTERS; band++) {
      const [low, middle, high] = [EDGES[band]!, EDGES[band + 1]!, EDGES[band + 2]!];
      let energy = 0;
      for (let bin = Math.ceil(low); bin < high; bin++) {
        const weight = bin < middle ? (bin - low) / (middle - low) : (high - bin) / (high - middle);
        energy += weight * (real[bin]! ** 2 + imaginary[bin]! ** 2);
      }
      this.#bands[band] = Math.log(energy + 1);
    }
    for (let row = 0; row < CEPSTRA; row++) {
      let sum = 0;
      for (let band = 0; band < FILTERS; band++) sum += COSINES[row]![band]! * this.#bands[band]!;
      into[row] = sum / FILTERS;
    }
  }
}

/** Pitches are looked for in sound of a quarter of the rate. */
const COARSE = 4;
const LOWEST_PITCH_HZ = 65;
const HIGHEST_PITCH_HZ = 400;
const PITCH_SAMPLES = 640;
const VOICED_FROM = 0.55;

/** Natural logarithm of the pitch in Hz of the 40 ms from `from`, by autocorrelation; `null` where nothing is voiced. */
export function logPitch(samples: Int16Array, from: number): number | null {
  const count = PITCH_SAMPLES / COARSE;
  const coarse = new Float64Array(count);
  let energy = 0;
  for (let at = 0; at < count; at++) {
    let sum = 0;
    for (let step = 0; step < COARSE; step++) sum += samples[from + at * COARSE + step] ?? 0;
    coarse[at] = sum / COARSE;
    energy += coarse[at]! ** 2;
  }
  if (energy / count < 900) return null;
  const rateHz = CEPSTRA_RATE_HZ / COARSE;
  const [least, most] = [Math.floor(rateHz / HIGHEST_PITCH_HZ), Math.ceil(rateHz / LOWEST_PITCH_HZ)];
  const likeness = (lag: number): number => {
    let [sum, one, other] = [0, 0, 0];
    for (let at = 0; at + lag < count; at++) {
      sum += coarse[at]! * coarse[at + lag]!;
      one += coarse[at]! ** 2;
      other += coarse[at + lag]! ** 2;
    }
    return sum / Math.sqrt(one * other + 1);
  };
  let [bestLag, best] = [0, 0];
  for (let lag = least; lag <= most; lag++) {
    const value = likeness(lag);
    // Multiples of the period fit as well, so the shortest of the good ones is taken.
    if (value > best + 0.02) [bestLag, best] = [lag, value];
  }
  return best < VOICED_FROM ? null : Math.log(rateHz / bestLag);
}
