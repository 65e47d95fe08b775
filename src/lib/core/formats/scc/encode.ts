/** Rows as pairs of bytes. What may not be parted is a unit: codes that are said twice, a letter with what overwrites it. */
import { CONTROLS, midRow, preamble, tabulator, withParity, type Control, type Pair } from './codes';
import type { Row } from './lay-out';

export type Unit = readonly number[];

const word = ([first, second]: Pair): number => (withParity(first) << 8) | withParity(second);
/** Codes are said twice, as receivers want it. */
const twice = (pair: Pair): Unit => [word(pair), word(pair)];

export const control = (name: Control): Unit => twice(CONTROLS[name]);

export function encodeRow({ row, column, cells }: Row): readonly Unit[] {
  const units: Unit[] = [twice(preamble(row, column))];
  if (column % 4 !== 0) units.push(twice(tabulator(column % 4)));
  let style = { italic: false, underline: false };
  /** A byte that waits for its second one. */
  let half: number | null = null;
  const put = (byte: number): void => {
    if (half === null) half = byte;
    else {
      units.push([word([half, byte])]);
      half = null;
    }
  };
  const fill = (): void => {
    if (half !== null) put(0);
  };
  for (const { written, italic, underline } of cells) {
    if (italic !== style.italic || underline !== style.underline) {
      fill();
      style = { italic, underline };
      units.push(twice(midRow(style)));
    } else if (written.kind === 'plain') put(written.byte);
    else {
      if (written.kind === 'extended') put(written.fallback);
      fill();
      units.push(twice(written.pair));
    }
  }
  fill();
  return units;
}
