import { expect, test } from 'vitest';
import { placementSchema } from '../track';
import { placeCue, SAFE_MARGIN } from '.';

const picture = { width: 1600, height: 900 };

test('nine places within the safe margin, the text growing from the edge it stands at', () => {
  const placed = placementSchema.options.map((placement) => ({
    placement,
    ...placeCue({ sizePercent: 5, placement }, placement, picture)
  }));
  expect(new Set(placed.map(({ x, y }) => `${x} ${y}`)).size).toBe(9);
  for (const { placement, x, y, anchorX, anchorY } of placed) {
    expect(`${anchorY} ${anchorX}`).toBe(placement);
    expect(x).toBe({ left: 1600 * SAFE_MARGIN, centre: 800, right: 1600 * (1 - SAFE_MARGIN) }[anchorX]);
    expect(y).toBe({ top: 900 * SAFE_MARGIN, middle: 450, bottom: 900 * (1 - SAFE_MARGIN) }[anchorY]);
  }
});

test('the size is a share of the picture’s height, whatever the picture', () => {
  for (const height of [240, 900, 2160]) {
    const { fontPx, lineHeightPx } = placeCue({ sizePercent: 6, placement: 'bottom centre' }, 'bottom centre', {
      width: 1000,
      height
    });
    expect(fontPx / height).toBeCloseTo(0.06);
    expect(lineHeightPx).toBeGreaterThan(fontPx);
  }
});
