/** Where a cue stands on a picture: one answer for the preview and for whatever else draws it. */
import type { Look, Placement } from '../track';

export interface PlacedCue {
  readonly fontPx: number;
  readonly lineHeightPx: number;
  /** The point the block is anchored at, in px from the picture's top left. */
  readonly x: number;
  readonly y: number;
  /** Which part of the block lies on the point. */
  readonly anchorX: 'left' | 'centre' | 'right';
  readonly anchorY: 'top' | 'middle' | 'bottom';
}

/** Share of the picture that stays free at its edges. */
export const SAFE_MARGIN = 0.05;

export function placeCue(
  look: Look,
  placement: Placement,
  picture: { readonly width: number; readonly height: number }
): PlacedCue {
  const [anchorY, anchorX] = placement.split(' ') as ['top' | 'middle' | 'bottom', 'left' | 'centre' | 'right'];
  const fontPx = (picture.height * look.sizePercent) / 100;
  const across = { left: SAFE_MARGIN, centre: 0.5, right: 1 - SAFE_MARGIN }[anchorX];
  const down = { top: SAFE_MARGIN, middle: 0.5, bottom: 1 - SAFE_MARGIN }[anchorY];
  return { fontPx, lineHeightPx: fontPx * 1.25, x: picture.width * across, y: picture.height * down, anchorX, anchorY };
}
