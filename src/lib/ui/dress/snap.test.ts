import { expect, test } from 'vitest';
import { snapSpot } from './snap';

const around = { frame: { width: 40, height: 10 }, marginPercent: 5, isFree: false };

test('captions that come near a third, the centre or a margin lie on it', () => {
  expect(snapSpot({ xPercent: 50.9, yPercent: 33 }, around)).toEqual({
    spot: { xPercent: 50, yPercent: 33.33 },
    lineX: 50,
    lineY: 100 / 3
  });
  // Their edge, not their middle, on the margin.
  expect(snapSpot({ xPercent: 24.2, yPercent: 90.4 }, around)).toEqual({
    spot: { xPercent: 25, yPercent: 90 },
    lineX: 5,
    lineY: 95
  });
});

test('elsewhere, or held free, they lie where they were put, on the picture', () => {
  expect(snapSpot({ xPercent: 41.234, yPercent: 120 }, around)).toEqual({
    spot: { xPercent: 41.23, yPercent: 100 },
    lineX: null,
    lineY: null
  });
  expect(snapSpot({ xPercent: 50.5, yPercent: 50 }, { ...around, isFree: true }).spot).toEqual({
    xPercent: 50.5,
    yPercent: 50
  });
});
