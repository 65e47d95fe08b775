/** Taking music from under voices, and what lies between them down; 16 kHz, for a recogniser, not meant for listening. */
import type { Ms, Span } from '../time';
import { transform, transformBack } from './fft';

export type Background = 'music' | 'noise';

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
 * DAFx 2010; the window is long, so that a voice's gliding harmonics count as what stays). 16 kHz; as long as it was.
 */
export function withoutTones(samples: Int16Array): Int16Array {
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
