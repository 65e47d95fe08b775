import type { Drawing } from './compose';
import type { Rect } from './place-block';

const overlap = (a: Rect, b: Rect): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

/**
 * How far each of the drawings that are seen at once is moved down, in px, so that none lies on another: what comes later
 * gives way, towards the middle of the picture.
 */
export function standApart(drawings: readonly Drawing[]): readonly number[] {
  const placed: Rect[] = [];
  return drawings.map(({ block, height }) => {
    const isLow = block.y + block.height / 2 > height / 2;
    let at = block;
    for (let tries = 0; tries <= placed.length; tries++) {
      const hit = placed.find((other) => overlap(other, at));
      if (hit === undefined) break;
      at = { ...at, y: isLow ? hit.y - at.height : hit.y + hit.height };
    }
    placed.push(at);
    return at.y - block.y;
  });
}
