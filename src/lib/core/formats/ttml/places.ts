/** Where a cue stands, as a region: a part of the picture, and at which of its sides the lines are. */
import type { Placement } from '../../track';

export interface Region {
  /** In per cent of the picture: from its top left. */
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly displayAlign: 'before' | 'center' | 'after';
  readonly textAlign: 'left' | 'center' | 'right';
}

const MARGIN = 5;
const WHOLE = { x: MARGIN, y: MARGIN, width: 100 - 2 * MARGIN, height: 100 - 2 * MARGIN };
const HEIGHTS = { top: 'before', middle: 'center', bottom: 'after' } as const;
const SIDES = { left: 'left', centre: 'center', right: 'right' } as const;

const rounded = (percent: number): number => Math.round(percent * 100) / 100;

/** The nine points lie on the edges of all but the margin; a spot is the middle of a region around it. */
export function regionOf(placement: Placement): Region {
  if (typeof placement === 'string') {
    const [height, side] = placement.split(' ') as [keyof typeof HEIGHTS, keyof typeof SIDES];
    return { ...WHOLE, displayAlign: HEIGHTS[height], textAlign: SIDES[side] };
  }
  const { xPercent: x, yPercent: y } = placement;
  const width = Math.max(20, 2 * Math.min(x, 100 - x));
  const height = Math.max(10, 2 * Math.min(y, 100 - y));
  const within = (from: number, size: number): number => rounded(Math.min(100 - size, Math.max(0, from)));
  return {
    ...{ x: within(x - width / 2, width), y: within(y - height / 2, height) },
    ...{ width: rounded(width), height: rounded(height), displayAlign: 'center', textAlign: 'center' }
  };
}

/** A spot where a region has the lines in its middle, and that is not the picture's; else the nearest of the nine points. */
export function placementOfRegion({ x, y, width, height, displayAlign, textAlign }: Region): Placement {
  const down = { before: 0, center: 0.5, after: 1 }[displayAlign];
  const along = { left: 0, center: 0.5, right: 1 }[textAlign];
  const [atX, atY] = [x + along * width, y + down * height];
  if (displayAlign === 'center' && textAlign === 'center' && Math.max(Math.abs(atX - 50), Math.abs(atY - 50)) > 5)
    return { xPercent: rounded(atX), yPercent: rounded(atY) };
  const third = (percent: number): 0 | 1 | 2 => (percent < 34 ? 0 : percent < 67 ? 1 : 2);
  const row = (['top', 'middle', 'bottom'] as const)[third(atY)];
  const side = (['left', 'centre', 'right'] as const)[third(atX)];
  return `${row} ${side}`;
}
