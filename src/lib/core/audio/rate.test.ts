import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { RateConverter } from '.';

const tone = (hz: number, rateHz: number, seconds: number): Float32Array =>
  Float32Array.from({ length: Math.round(rateHz * seconds) }, (_, at) =>
    Math.fround(0.5 * Math.sin((2 * Math.PI * hz * at) / rateHz))
  );
const parted = (samples: Float32Array, lengths: readonly number[]): Float32Array[] => {
  const parts: Float32Array[] = [];
  let at = 0;
  for (let turn = 0; at < samples.length; turn++) {
    const length = lengths[turn % lengths.length]!;
    parts.push(samples.slice(at, at + length));
    at += length;
  }
  return parts;
};
const joined = (parts: readonly Float32Array[]): Float32Array => Float32Array.from(parts.flatMap((part) => [...part]));
const RATES_HZ = [8000, 16_000, 22_050, 32_000, 44_100, 48_000, 88_200, 96_000, 192_000];

describe('sound of another rate, as it comes', () => {
  test('a tone that a voice may have is the same tone, at the same time', () => {
    for (const fromHz of RATES_HZ)
      for (const hz of [100, 1000, 3400]) {
        const made = new RateConverter(fromHz, 48_000).push(tone(hz, fromHz, 0.3));
        const wanted = tone(hz, 48_000, 0.3);
        const off = made.subarray(2000, 12_000).map((sample, at) => Math.abs(sample - wanted[2000 + at]!));
        expect(Math.max(...off), `${hz} Hz of ${fromHz}`).toBeLessThan(0.002);
      }
  });

  test('is the same however it is parted, and as long', () => {
    const lengths = fc.array(fc.integer({ min: 1, max: 700 }), { minLength: 1, maxLength: 8 });
    fc.assert(
      fc.property(fc.constantFrom(...RATES_HZ), lengths, (fromHz, lengths) => {
        const samples = tone(440, fromHz, 0.1);
        const whole = new RateConverter(fromHz, 48_000).push(samples);
        const converter = new RateConverter(fromHz, 48_000);
        expect(joined(parted(samples, lengths).map((part) => converter.push(part)))).toEqual(whole);
        const lag = (samples.length / fromHz) * 48_000 - whole.length;
        expect(lag).toBeGreaterThanOrEqual(0);
        expect(lag).toBeLessThanOrEqual(Math.max(200, (33 * 48_000) / fromHz));
      })
    );
  });

  test('what the lower rate cannot hold is gone, not folded down', () => {
    const made = new RateConverter(96_000, 48_000).push(tone(30_000, 96_000, 0.3));
    expect(Math.max(...made.subarray(1000, 12_000).map(Math.abs))).toBeLessThan(0.001);
  });
});
