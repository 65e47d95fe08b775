/** Where a block of lines stands on a picture. */
import type { Look, Placement } from '../track';

export interface Rect {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export interface PictureSize {
  readonly width: number;
  readonly height: number;
}

/** What a box keeps around its lines, in px. */
export const paddingOf = ({ box }: Look, sizePx: number): { readonly x: number; readonly y: number } =>
  box.kind === 'none' ? { x: 0, y: 0 } : { x: box.paddingEm * sizePx, y: (box.paddingEm * sizePx) / 2 };

/** Where a block stands: at one of nine points within the margin, or with its middle on a spot, always on the picture. */
export function placeBlock(
  size: { readonly width: number; readonly height: number },
  placement: Placement,
  picture: PictureSize,
  marginPercent: number
): Rect {
  const margin = marginPercent / 100;
  const spare = { x: picture.width - size.width, y: picture.height - size.height };
  if (typeof placement !== 'string') {
    const within = (value: number, most: number): number => (most <= 0 ? most / 2 : Math.min(most, Math.max(0, value)));
    return {
      x: within((placement.xPercent / 100) * picture.width - size.width / 2, spare.x),
      y: within((placement.yPercent / 100) * picture.height - size.height / 2, spare.y),
      ...size
    };
  }
  const [down, across] = placement.split(' ') as ['top' | 'middle' | 'bottom', 'left' | 'centre' | 'right'];
  const at = (place: 'near' | 'mid' | 'far', spareLength: number, whole: number): number =>
    spareLength <= 0 || place === 'mid'
      ? spareLength / 2
      : place === 'near'
        ? Math.min(margin * whole, spareLength)
        : Math.max(0, spareLength - margin * whole);
  return {
    x: at(({ left: 'near', centre: 'mid', right: 'far' } as const)[across], spare.x, picture.width),
    y: at(({ top: 'near', middle: 'mid', bottom: 'far' } as const)[down], spare.y, picture.height),
    ...size
  };
}
