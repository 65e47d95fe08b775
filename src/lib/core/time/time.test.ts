import fc from 'fast-check';
import { expect, test } from 'vitest';
import { formatClock, lastStartingBy, parseClock } from '.';

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

test('the last that has started is found', () => {
  const items = [0, 5, 5, 9].map((startMs) => ({ startMs }));
  expect([-1, 0, 5, 8, 100].map((ms) => lastStartingBy(items, ms))).toEqual([-1, 0, 2, 2, 3]);
});
