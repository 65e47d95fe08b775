import fc from 'fast-check';
import { expect, test } from 'vitest';
import { densityOf } from '$lib/core/rows';
import { geometryOf, msOf, REPEAT_MS, xOf } from './geometry';

const anyGeometry = fc
  .record({ width: fc.integer({ min: 400, max: 3000 }), rowMs: fc.integer({ min: 4000, max: 40_000 }) })
  .map(({ width, rowMs }) => ({ rowMs, geometry: geometryOf(width, rowMs) }));

test('a time and its place on a row are each other’s inverse', () => {
  fc.assert(
    fc.property(anyGeometry, fc.nat(7_200_000), fc.double({ min: 0, max: 1, noNaN: true }), (given, startMs, share) => {
      const row = { kind: 'sound' as const, startMs, endMs: startMs + given.rowMs };
      const ms = startMs + share * given.rowMs;
      expect(msOf(given.geometry, row, xOf(given.geometry, row, ms))).toBeCloseTo(ms, 3);
    })
  );
});

test('a row shows its whole time and what it repeats of its neighbours, between the gutter and the edge', () => {
  fc.assert(
    fc.property(anyGeometry, ({ geometry, rowMs }) => {
      const row = { kind: 'sound' as const, startMs: 5000, endMs: 5000 + rowMs };
      expect(xOf(geometry, row, row.startMs - REPEAT_MS)).toBeCloseTo(geometry.gutter);
      expect(xOf(geometry, row, row.endMs + REPEAT_MS)).toBeLessThanOrEqual(geometry.width);
    })
  );
});

test('lanes lie under each other and within the row, at each density', () => {
  const views = ['wave', 'spectrum', 'both'] as const;
  for (const [rowMs, view] of [4000, 8000, 12_000, 20_000, 40_000].flatMap((ms) =>
    views.map((one) => [ms, one] as const)
  )) {
    const { density, ruler, wave, spectrum, words, cues, rowHeight } = geometryOf(1000, rowMs, view);
    expect(density).toBe(densityOf(rowMs));
    const lanes = [
      { top: 0, bottom: ruler },
      ...[wave, spectrum].flatMap((lane) => (lane === null ? [] : [{ top: lane.top, bottom: lane.top + lane.height }])),
      ...(words === null ? [] : [{ top: words.top, bottom: words.top + 2 * words.level }]),
      { top: cues.top, bottom: cues.top + cues.height }
    ];
    lanes.slice(1).forEach((lane, at) => expect(lane.top).toBeGreaterThanOrEqual(lanes[at]!.bottom));
    expect(lanes.at(-1)!.bottom).toBeLessThanOrEqual(rowHeight);
  }
});
