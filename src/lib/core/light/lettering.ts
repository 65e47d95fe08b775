/**
 * Lettering that the picture itself has, told from the light map: a low band of places that are light and dark at once,
 * side by side, that stands still between quiet ground above and below. Trees and crowds have no quiet ground.
 */
import type { Span } from '../time';
import { binsOf, cellsUnder, type TextArea } from './legibility';
import { binCount, cellAt, COLUMNS, HIGH, LOW, MEAN, RESTLESSNESS, ROWS, type LightMap } from './light-map';

/** Steps between light and dark in one cell: strokes on their ground (about 3 : 1), and ground by itself (1.6 : 1). */
const INKED = 92;
const QUIET = 40;
/** Mean change from frame to frame, in 255ths: what stands still. */
const STILL = 6;
/** A line of letters is as long as this many cells, and as high as this many rows at most. */
const LEAST_CELLS = 4;
const MOST_ROWS = 2;
/** Of the cells above and below it, how many are quiet. */
const QUIET_SHARE = 0.7;

const rangeOf = ({ bytes }: LightMap, bin: number, cell: number): number => {
  const place = cellAt(bin, cell);
  return bytes[place + HIGH]! - bytes[place + LOW]!;
};

function isInked({ bytes }: LightMap, bin: number, cell: number): boolean {
  const place = cellAt(bin, cell);
  return bytes[place + HIGH]! - bytes[place + LOW]! >= INKED && bytes[place + RESTLESSNESS]! <= STILL;
}

/** Cells of a half second's picture, in some of its rows, that lettering lies on. */
function findLettering(map: LightMap, bin: number, rows: ReadonlySet<number>): ReadonlySet<number> {
  const { bytes } = map;
  const inked = (cell: number): boolean => isInked(map, bin, cell);
  /** Whether two rows are quiet ground of one light over a stretch; beyond the picture there is none to be seen. */
  const isGround = (above: number, below: number, from: number, to: number): boolean => {
    if (above < 0 || below >= ROWS) return false;
    let alike = 0;
    for (let column = from; column < to; column++) {
      const [up, down] = [above * COLUMNS + column, below * COLUMNS + column];
      const apart = Math.abs(bytes[cellAt(bin, up) + MEAN]! - bytes[cellAt(bin, down) + MEAN]!);
      if (rangeOf(map, bin, up) <= QUIET && rangeOf(map, bin, down) <= QUIET && apart <= QUIET) alike++;
    }
    return alike >= (to - from) * QUIET_SHARE;
  };
  const found = new Set<number>();
  for (const row of rows)
    for (let from = 0; from < COLUMNS; from++) {
      if (!inked(row * COLUMNS + from)) continue;
      let to = from + 1;
      // A space between two words may be as wide as a cell.
      while (to < COLUMNS && (inked(row * COLUMNS + to) || (to + 1 < COLUMNS && inked(row * COLUMNS + to + 1)))) to++;
      const isLong = to - from >= LEAST_CELLS;
      for (let height = 1; isLong && height <= MOST_ROWS; height++) {
        for (let up = 0; up < height; up++) {
          if (!isGround(row - up - 1, row - up + height, from, to)) continue;
          for (let column = from; column < to; column++) found.add(row * COLUMNS + column);
        }
      }
      from = to;
    }
  return found;
}

/** Cells of a text that lettering must lie on, in a second of its time or all of it. */
const LEAST_COVERED = 2;
const LEAST_BINS = 2;

/** Whether text lies on lettering of the picture; false also where it cannot be told, as on a restless ground. */
export function isOverLettering(areas: readonly TextArea[], during: Span, map: LightMap): boolean {
  const bins = binCount(map);
  if (areas.length === 0 || bins === 0) return false;
  const cells = areas.flatMap(cellsUnder);
  const rows = new Set(cells.map((cell) => Math.floor(cell / COLUMNS)));
  const { from, to } = binsOf(during, bins);
  let covered = 0;
  for (let bin = from; bin < to; bin++) {
    // Most captions lie on nothing that is light and dark at once.
    let inked = 0;
    for (const cell of cells) if (isInked(map, bin, cell)) inked++;
    if (inked < LEAST_COVERED) continue;
    const lettering = findLettering(map, bin, rows);
    if (cells.filter((cell) => lettering.has(cell)).length >= LEAST_COVERED) covered++;
  }
  return covered >= Math.min(LEAST_BINS, to - from);
}
