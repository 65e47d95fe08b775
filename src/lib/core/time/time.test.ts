import fc from 'fast-check';
import { expect, test } from 'vitest';
import { formatClock, formatFrames, lastStartingBy, parseClock, parseFrames } from '.';

test('a clock is read as it is written', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 30 * 3_600_000 }),
      (ms) => void expect(parseClock(formatClock(ms, 3))).toBe(ms)
    )
  );
  expect(formatClock(62_345)).toBe('1:02');
  expect(['1:02:03,5', '63.5', '2:75', 'soon', ''].map(parseClock)).toEqual([3_723_500, 63_500, null, null, null]);
});

test.each([
  [25, 1000, '0:00:01:00'],
  [25, 40, '0:00:00:01'],
  [24_000 / 1001, 1001, '0:00:01:00'],
  [30_000 / 1001, 60_027, '0:00:59;29'],
  [30_000 / 1001, 60_060, '0:01:00;02'],
  [30_000 / 1001, 599_999, '0:10:00;00'],
  [30_000 / 1001, 3_599_996, '1:00:00;00'],
  [60_000 / 1001, 60_060, '0:01:00;04'],
  [30, 60_000, '0:01:00:00']
])('at %d pictures a second %d ms is %s, there and back', (rate, ms, text) => {
  expect(formatFrames(ms, rate)).toBe(text);
  expect(Math.abs(parseFrames(text, rate)! - ms)).toBeLessThanOrEqual(2);
});

test('frames are read as they are written, at every rate', () => {
  const anyRate = fc.constantFrom(24_000 / 1001, 24, 25, 30_000 / 1001, 30, 50, 60_000 / 1001, 60);
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 3 * 3_600_000 }), anyRate, (ms, rate) => {
      const text = formatFrames(ms, rate);
      const read = parseFrames(text, rate)!;
      expect(formatFrames(read, rate)).toBe(text);
      expect(ms - read).toBeGreaterThanOrEqual(-1);
      expect(ms - read).toBeLessThan(1000 / rate + 1);
    })
  );
  const none = ['0:01:00;00', '0:00:00:30', '0:60:00;00', '12', 'soon'];
  expect(none.map((text) => parseFrames(text, 30_000 / 1001))).toEqual(none.map(() => null));
});

test('the last that has started is found', () => {
  const items = [0, 5, 5, 9].map((startMs) => ({ startMs }));
  expect([-1, 0, 5, 8, 100].map((ms) => lastStartingBy(items, ms))).toEqual([-1, 0, 2, 2, 3]);
});
