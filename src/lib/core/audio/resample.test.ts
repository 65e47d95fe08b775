import { describe, expect, test } from 'vitest';
import { downsample, upsample } from '.';

const RATE_HZ = 16_000;
const make = (seconds: number, value: (seconds: number) => number): Int16Array =>
  Int16Array.from({ length: seconds * RATE_HZ }, (_, at) => Math.round(value(at / RATE_HZ)));
describe('between 16 and 48 kHz', () => {
  const middle = (samples: Int16Array): Int16Array => samples.subarray(2000, 6000);
  test('a tone that a voice may have comes back within a hundredth, and is three times as long between', () => {
    for (const hz of [100, 1000, 4000, 6500]) {
      const tone = make(0.5, (t) => 10_000 * Math.sin(2 * Math.PI * hz * t));
      const wide = upsample(tone);
      expect(wide).toHaveLength(tone.length * 3);
      expect(wide[9000]!).toBeCloseTo(tone[3000]!, -2.3);
      const back = middle(downsample(wide, 0, tone.length));
      expect(Math.max(...back.map((sample, at) => Math.abs(sample - middle(tone)[at]!))), `${hz} Hz`).toBeLessThan(100);
    }
  });

  test('what lies above half the lower rate is gone, not folded down', () => {
    const high = Float32Array.from(
      { length: 24_000 },
      (_, at) => 10_000 * Math.sin((2 * Math.PI * 11_000 * at) / 48_000)
    );
    expect(Math.max(...middle(downsample(high, 0, 8000)))).toBeLessThan(30);
  });
});
