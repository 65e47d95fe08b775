import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { clamp, MOST_MS, msFromSeconds, msSchema, overlapMs, spanOf, toSpan, wholeMs } from '.';

const anyMs = fc.double({ min: 0, max: MOST_MS, noNaN: true });
const anySpan = fc
  .tuple(fc.nat(100_000), fc.integer({ min: 1, max: 100_000 }))
  .map(([startMs, lengthMs]) => toSpan({ startMs, endMs: startMs + lengthMs }));

describe('whole milliseconds', () => {
  test('are what the schema of times takes, and no farther than half from what was reckoned', () => {
    fc.assert(
      fc.property(anyMs, (reckoned) => {
        const ms = wholeMs(reckoned);
        expect(msSchema.parse(ms)).toBe(ms);
        expect(Math.abs(ms - reckoned)).toBeLessThanOrEqual(0.5);
        expect(wholeMs(ms)).toBe(ms);
      })
    );
  });

  test.each([0.5, -1, MOST_MS + 1, Number.NaN, Number.POSITIVE_INFINITY])('are not %d', (value) => {
    expect(msSchema.safeParse(value).success).toBe(false);
  });

  test('come from seconds as a browser tells them', () => {
    expect([0, 1.0004, 1.0006, 7199.9999].map(msFromSeconds)).toEqual([0, 1000, 1001, 7_200_000]);
  });
});

describe('spans', () => {
  test('overlap as much either way, and not where they only touch', () => {
    fc.assert(
      fc.property(anySpan, anySpan, (a, b) => {
        const shared = overlapMs(a, b);
        expect(overlapMs(b, a)).toBe(shared);
        expect(shared).toBeLessThanOrEqual(Math.min(a.endMs - a.startMs, b.endMs - b.startMs));
        expect(shared > 0).toBe(a.startMs < b.endMs && b.startMs < a.endMs);
        expect(overlapMs(a, toSpan({ startMs: a.endMs, endMs: a.endMs + 10 }))).toBe(0);
      })
    );
  });

  test('of several reach from the first start to the last end', () => {
    fc.assert(
      fc.property(fc.array(anySpan, { minLength: 1 }), (spans) => {
        const whole = spanOf(spans);
        for (const span of spans) expect(overlapMs(whole, span)).toBe(span.endMs - span.startMs);
        expect(spans.some(({ startMs }) => startMs === whole.startMs)).toBe(true);
        expect(spans.some(({ endMs }) => endMs === whole.endMs)).toBe(true);
      })
    );
  });

  test('are kept within bounds, the upper one where the bounds cross', () => {
    expect([-5, 5, 50].map((value) => clamp(value, 0, 10))).toEqual([0, 5, 10]);
    expect([1, 5, 9].map((value) => clamp(value, 8, 3))).toEqual([3, 3, 3]);
  });
});
