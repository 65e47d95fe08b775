/** Sounds made up on the spot, in pieces and worn: 16-bit mono at 16 kHz. */
import { SAMPLES_A_MS } from '../audio';
import type { Sound } from '../cuts';
import { numbers } from './any-talk';

/** Held whole, as the core reads it. */
export const soundOf = (samples: Int16Array): Sound => ({
  length: samples.length,
  read: (from, count) => samples.subarray(from, from + count)
});

/** Something like talk: breath through a throat that changes with each syllable; another one for another seed. */
export function makeTalkSound(lengthMs: number, seed: number): Int16Array {
  const random = numbers(seed);
  const samples = new Int16Array(lengthMs * SAMPLES_A_MS);
  for (let from = 0; from < samples.length;) {
    const count = Math.round((90 + random() * 220) * SAMPLES_A_MS);
    const turn = 2 * Math.cos((2 * Math.PI * (300 + random() * 2200)) / 16_000);
    const loudness = random() < 0.15 ? 5 : 400 + random() * 1600;
    let before = 0;
    let last = 0;
    for (let at = 0; at < count && from + at < samples.length; at++) {
      const now = (random() - 0.5) * loudness + 0.95 * turn * last - 0.9 * before;
      before = last;
      last = now;
      samples[from + at] = now * Math.sin((Math.PI * at) / count);
    }
    from += count;
  }
  return samples;
}

/** A piece of it. */
export const pieceOf = (sound: Int16Array, fromMs: number, toMs: number): Int16Array =>
  sound.subarray(fromMs * SAMPLES_A_MS, toMs * SAMPLES_A_MS);
/** One after the other. */
export function joinSounds(...parts: readonly Int16Array[]): Int16Array {
  const whole = new Int16Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}
/** Quieter, with noise over it. */
export function wearSound(sound: Int16Array, seed: number): Int16Array {
  const random = numbers(seed);
  return sound.map((sample) => sample * 0.55 + (random() - 0.5) * 300);
}
