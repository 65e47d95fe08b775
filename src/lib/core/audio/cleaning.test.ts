import { describe, expect, test } from 'vitest';
import { downsampled, quietenOutside, upsampled, withoutTones } from '.';

const RATE_HZ = 16_000;
const make = (seconds: number, value: (seconds: number) => number): Int16Array =>
  Int16Array.from({ length: seconds * RATE_HZ }, (_, at) => Math.round(value(at / RATE_HZ)));
/** Root mean square of a part, dB. */
function levelDb(samples: Int16Array, fromS: number, toS: number): number {
  const part = samples.subarray(fromS * RATE_HZ, toS * RATE_HZ);
  return 10 * Math.log10(part.reduce((sum, sample) => sum + sample ** 2, 0) / part.length + 1e-9);
}
/** A voice's way: harmonics of a gliding pitch, in syllables with pauses between. */
const voice = (t: number): number => {
  if (t % 1.6 > 1 || t % 0.25 > 0.19) return 0;
  const phase = 2 * Math.PI * (120 * t + 15 * Math.sin(2 * Math.PI * t));
  return [1, 2, 3, 4, 5, 6, 8].reduce((sum, harmonic) => sum + (3000 / harmonic) * Math.sin(harmonic * phase), 0);
};

describe('what is under a voice', () => {
  test('a held chord goes down by 12 dB and more, a gliding voice over it stays within 3 dB', () => {
    const chord = (t: number): number =>
      [262, 330, 392].reduce((sum, hz) => sum + 900 * Math.sin(2 * Math.PI * hz * t), 0);
    const clean = withoutTones(make(8, (t) => voice(t) + chord(t)));
    expect(levelDb(clean, 4.35, 4.6)).toBeLessThan(levelDb(make(1, chord), 0, 1) - 12);
    expect(Math.abs(levelDb(clean, 3.2, 4.2) - levelDb(make(8, voice), 3.2, 4.2))).toBeLessThan(3);
  });

  test('silence stays silence, and the length is kept to the sample', () => {
    expect(withoutTones(new Int16Array(12_345))).toEqual(new Int16Array(12_345));
    expect(withoutTones(new Int16Array(0))).toHaveLength(0);
    expect(withoutTones(Int16Array.of(5))).toHaveLength(1);
  });
});

test('outside the speech the sound goes down by 30 dB, within it every sample stays, also from the middle on', () => {
  const sound = make(3, (t) => 8000 * Math.sin(2 * Math.PI * 300 * t));
  const speech = [{ startMs: 1000, endMs: 2000 }];
  const quiet = quietenOutside(sound, 0, speech);
  expect(quiet.subarray(16_000, 32_000)).toEqual(sound.subarray(16_000, 32_000));
  expect(levelDb(quiet, 0, 0.9)).toBeLessThan(levelDb(sound, 0, 0.9) - 29);
  expect(levelDb(quiet, 2.1, 3)).toBeLessThan(levelDb(sound, 2.1, 3) - 29);
  expect(quietenOutside(sound.subarray(24_000), 1500, speech)).toEqual(quiet.subarray(24_000));
});

describe('between 16 and 48 kHz', () => {
  const middle = (samples: Int16Array): Int16Array => samples.subarray(2000, 6000);
  test('a tone that a voice may have comes back within a hundredth, and is three times as long between', () => {
    for (const hz of [100, 1000, 4000, 6500]) {
      const tone = make(0.5, (t) => 10_000 * Math.sin(2 * Math.PI * hz * t));
      const wide = upsampled(tone);
      expect(wide).toHaveLength(tone.length * 3);
      expect(wide[9000]!).toBeCloseTo(tone[3000]!, -2.3);
      const back = middle(downsampled(wide, 0, tone.length));
      expect(Math.max(...back.map((sample, at) => Math.abs(sample - middle(tone)[at]!))), `${hz} Hz`).toBeLessThan(100);
    }
  });

  test('what lies above half the lower rate is gone, not folded down', () => {
    const high = Float32Array.from(
      { length: 24_000 },
      (_, at) => 10_000 * Math.sin((2 * Math.PI * 11_000 * at) / 48_000)
    );
    expect(Math.max(...middle(downsampled(high, 0, 8000)))).toBeLessThan(30);
  });
});
