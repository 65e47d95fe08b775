/** Taking music or noise from under voices, so that a recogniser hears them better; 16 kHz, not meant for listening. */
import type { Ms, Span } from '../time';
import { transform, transformBack } from './fft';

export type Background = 'music' | 'noise';

/** The sound with what is under the voices held down; as long as it was. */
export function cleanSpeech(samples: Int16Array, background: Background): Int16Array {
  return background === 'music' ? withoutTones(samples) : withoutNoise(samples);
}

/** What nobody speaks in goes down by 30 dB, and no further: a recogniser that hears nothing at all loses its bearings. */
const QUIET_GAIN = 0.03;
/** From one to the other in this many samples. */
const RAMP = 320;

/** The sound with what lies outside the speech held down; `fromMs`: the time of its first sample; 16 kHz. */
export function quietenOutside(samples: Int16Array, fromMs: Ms, speech: readonly Span[]): Int16Array {
  const first = fromMs * 16;
  let at = 0;
  return samples.map((sample, index) => {
    const place = first + index;
    while (at < speech.length && speech[at]!.endMs * 16 <= place) at++;
    const before = at > 0 ? place - speech[at - 1]!.endMs * 16 : Number.POSITIVE_INFINITY;
    const ahead = at < speech.length ? speech[at]!.startMs * 16 - place : Number.POSITIVE_INFINITY;
    const away = Math.max(0, Math.min(before, ahead));
    return Math.round(sample * Math.max(QUIET_GAIN, 1 - away / RAMP));
  });
}

/**
 * Tones that hold for a quarter of a second and longer are an instrument's, not a voice's: of each narrow band the median
 * over time is taken off (the harmonic part of Fitzgerald, "Harmonic/percussive separation using median filtering",
 * DAFx 2010; the window is long, so that a voice's gliding harmonics count as what stays).
 */
function withoutTones(samples: Int16Array): Int16Array {
  // Tried against word errors: shorter spans take the vowels along, more taken off takes the consonants.
  const [size, step, span, over, leastGain] = [2048, 512, 17, 1.8, 0.15];
  return reshape(samples, size, step, (powers) => {
    const bins = powers[0]?.length ?? 0;
    const gains = powers.map(() => new Float32Array(bins));
    const near = new Float64Array(span);
    for (let bin = 0; bin < bins; bin++) {
      for (let frame = 0; frame < powers.length; frame++) {
        for (let at = 0; at < span; at++) {
          const from = Math.min(powers.length - 1, Math.max(0, frame + at - (span >> 1)));
          near[at] = powers[from]![bin]!;
        }
        near.sort();
        const rest = 1 - (over * near[span >> 1]!) / Math.max(powers[frame]![bin]!, 1e-9);
        gains[frame]![bin] = Math.max(leastGain, Math.sqrt(Math.max(0, rest)));
      }
    }
    return gains;
  });
}

/**
 * Steady noise: what a third of the time lies below in a band for 2 s around is its noise (quantile-based estimation,
 * Stahl et al., ICASSP 2000); the gain is that of the least error in the logarithm of the amplitude (Ephraim and
 * Malah, IEEE Trans. ASSP 33, 1985, eq. 20).
 */
function withoutNoise(samples: Int16Array): Int16Array {
  const [size, step] = [512, 128];
  return reshape(samples, size, step, (powers) => logAmplitudeGains(powers, quantiles(powers)));
}

const NOISE = { windowFrames: 250, everyFrames: 16, quantile: 0.3, bias: 2 };

/** The noise's power in each frame and band. */
function quantiles(powers: readonly Float32Array[]): readonly Float32Array[] {
  const bins = powers[0]?.length ?? 0;
  const found: Float32Array[] = [];
  for (let frame = 0; frame < powers.length; frame += NOISE.everyFrames) {
    const from = Math.max(0, frame - (NOISE.windowFrames >> 1));
    const near = powers.slice(from, from + NOISE.windowFrames);
    const values = new Float32Array(near.length);
    const noise = Float32Array.from({ length: bins }, (_, bin) => {
      near.forEach((power, at) => (values[at] = power[bin]!));
      values.sort();
      return Math.max(1e-6, values[Math.floor(NOISE.quantile * (values.length - 1))]! * NOISE.bias);
    });
    for (let at = 0; at < NOISE.everyFrames; at++) found.push(noise);
  }
  return found.slice(0, powers.length);
}

function logAmplitudeGains(powers: readonly Float32Array[], noise: readonly Float32Array[]): Float32Array[] {
  const [smoothing, leastPrior, leastGain] = [0.9, 10 ** -2.5, 0.1];
  const bins = powers[0]?.length ?? 0;
  const before = new Float64Array(bins);
  const logs = new Float64Array(bins + 1);
  return powers.map((power, frame) => {
    for (let bin = 0; bin < bins; bin++) {
      const level = noise[frame]![bin]!;
      const posterior = Math.min(1000, power[bin]! / level);
      const fresh = Math.max(0, posterior - 1);
      const decided = frame === 0 ? fresh : (smoothing * before[bin]!) / level + (1 - smoothing) * fresh;
      const prior = Math.max(leastPrior, decided);
      const share = prior / (1 + prior);
      const gain = Math.min(1, Math.max(leastGain, share * Math.exp(0.5 * exponentialIntegral(share * posterior))));
      logs[bin + 1] = logs[bin]! + Math.log(gain);
    }
    // As wide as the ear's bands, about: a single band's gain that flickers is taken for sound.
    return Float32Array.from({ length: bins }, (_, bin) => {
      const half = Math.max(1, Math.round(1 + (bin * 8000) / (bins - 1) / 700));
      const [from, to] = [Math.max(0, bin - half), Math.min(bins, bin + half + 1)];
      const gain = Math.exp((logs[to]! - logs[from]!) / (to - from));
      before[bin] = gain ** 2 * power[bin]!;
      return gain;
    });
  });
}

/** E₁(x), x > 0 (Abramowitz and Stegun, 5.1.53 and 5.1.56). */
function exponentialIntegral(x: number): number {
  if (x <= 1) {
    const at = Math.max(x, 1e-6);
    const series = 0.24991055 + at * (-0.05519968 + at * (0.00976004 - at * 0.00107857));
    return -Math.log(at) - 0.57721566 + at * (0.99999193 - at * series);
  }
  const over = x * (x * (x * (x + 8.5733287401) + 18.059016973) + 8.6347608925) + 0.2677737343;
  const under = x * (x * (x * (x + 9.5733223454) + 25.6329561486) + 21.0996530827) + 3.9584969228;
  return (Math.exp(-x) / x) * (over / under);
}

/** Overlapping frames under the root of a Hann window, each band weighed by a gain, added up again. */
function reshape(
  samples: Int16Array,
  size: number,
  step: number,
  gainsOf: (powers: readonly Float32Array[]) => readonly Float32Array[]
): Int16Array {
  const window = Float64Array.from({ length: size }, (_, at) => Math.sin((Math.PI * at) / size));
  const frames = Math.ceil((samples.length + size) / step);
  const bins = size / 2 + 1;
  const real = new Float64Array(size);
  const imaginary = new Float64Array(size);
  const analyse = (frame: number): void => {
    const from = frame * step - size + step;
    imaginary.fill(0);
    for (let at = 0; at < size; at++) real[at] = (samples[from + at] ?? 0) * window[at]!;
    transform(real, imaginary);
  };
  const powers = Array.from({ length: frames }, (_, frame) => {
    analyse(frame);
    return Float32Array.from({ length: bins }, (__, bin) => real[bin]! ** 2 + imaginary[bin]! ** 2);
  });
  const gains = gainsOf(powers);
  const sum = new Float64Array(samples.length);
  // The squares of the windows that overlap add up to this everywhere.
  const overlap = size / step / 2;
  for (let frame = 0; frame < frames; frame++) {
    analyse(frame);
    for (let bin = 0; bin < size; bin++) {
      const gain = gains[frame]![bin < bins ? bin : size - bin]!;
      real[bin] = real[bin]! * gain;
      imaginary[bin] = imaginary[bin]! * gain;
    }
    transformBack(real, imaginary);
    const from = frame * step - size + step;
    for (let at = Math.max(0, -from); at < size && from + at < samples.length; at++)
      sum[from + at] = sum[from + at]! + (real[at]! * window[at]!) / overlap;
  }
  return Int16Array.from(sum, (value) => Math.max(-32_768, Math.min(32_767, Math.round(value))));
}
