/** A cue as rows of columns: broken where a row of the receiver is too short, placed, with the letters it has. */
import {
  formatMarkedLine,
  clustersOf,
  parseMarkedLine,
  placementOf,
  rowAndSide,
  signedLines,
  type Cue,
  type Track,
  type Word
} from '../../track';
import { withoutControls } from '../caption-file';
import { COLUMNS, ROWS } from './codes';
import { writeLetters, type Written } from './letters';

export interface Cell {
  readonly written: Written;
  readonly italic: boolean;
  readonly underline: boolean;
}
export interface Row {
  /** From 1. */
  readonly row: number;
  readonly column: number;
  readonly cells: readonly Cell[];
}
export interface LaidCue {
  readonly rows: readonly Row[];
  /** Clusters that are not there: question marks stand for them. */
  readonly lacking: readonly string[];
  /** Lines had to be broken. */
  readonly isBroken: boolean;
}

const SPACE: Written = { kind: 'plain', byte: 0x20 };
const LACKING: Written = { kind: 'plain', byte: 0x3f };
/** Shows the picture: what an empty cue consists of. */
const NOTHING: Cell = { written: { kind: 'special', pair: [0x11, 0x39] }, italic: false, underline: false };
const isSpace = ({ written }: Cell): boolean => written.kind === 'plain' && written.byte === SPACE.byte;

export function layOutCue(track: Track, cue: Cue, words: readonly Word[]): LaidCue {
  const lacking: string[] = [];
  const lines = signedLines(track, cue, words).map((line) => cellsOf(formatMarkedLine(line), lacking));
  const broken = lines.flatMap(breakRow).slice(0, ROWS);
  const rows = broken.length === 0 ? [[NOTHING]] : broken;
  const { row, side } = rowAndSide(placementOf(track, cue));
  const first =
    row === 'top' ? 1 : row === 'middle' ? 1 + Math.floor((ROWS - rows.length) / 2) : ROWS - rows.length + 1;
  return {
    lacking,
    isBroken: broken.length > lines.length,
    rows: rows.map((cells, at) => {
      const room = COLUMNS - cells.length;
      return {
        row: first + at,
        column: side === 'left' ? 0 : side === 'right' ? room : Math.floor(room / 2),
        cells
      };
    })
  };
}

/** Words turn as a whole: the code for it takes the column of the space before them, at the start of a line one of its own. */
function cellsOf(markup: string, lacking: string[]): readonly Cell[] {
  const { text, marks } = parseMarkedLine(withoutControls(markup));
  const cells: Cell[] = [];
  for (const found of text.matchAll(/\S+/g)) {
    const [from, to] = [found.index, found.index + found[0].length];
    const has = (kind: 'i' | 'u'): boolean =>
      2 * marks.reduce((sum, mark) => sum + (mark.kind === kind ? sharedUnits(mark, from, to) : 0), 0) >= to - from;
    const style = { italic: has('i'), underline: has('u') };
    if (cells.length > 0 || style.italic || style.underline) cells.push({ written: SPACE, ...style });
    for (const { segment } of clustersOf(found[0])) {
      const written = writeLetters(segment);
      if (written === null) lacking.push(segment);
      for (const one of written ?? [LACKING]) cells.push({ written: one, ...style });
    }
  }
  return cells;
}

const sharedUnits = (mark: { readonly from: number; readonly to: number }, from: number, to: number): number =>
  Math.max(0, Math.min(mark.to, to) - Math.max(mark.from, from));

/** Rows that fit, parted at spaces where there are any. */
function breakRow(cells: readonly Cell[]): readonly (readonly Cell[])[] {
  const rows: (readonly Cell[])[] = [];
  let rest = cells;
  while (rest.length > COLUMNS) {
    const space = rest.slice(0, COLUMNS + 1).findLastIndex((cell, at) => at > 0 && isSpace(cell));
    // A row that begins turned needs the column of its code.
    const at = space > 0 ? space : COLUMNS - 1;
    rows.push(rest.slice(0, at));
    const next = rest[at]!;
    rest = isSpace(next) && !next.italic && !next.underline ? rest.slice(at + 1) : rest.slice(at);
    if (!isSpace(rest[0]!) && (rest[0]!.italic || rest[0]!.underline))
      rest = [{ ...rest[0]!, written: SPACE }, ...rest];
  }
  return rest.length === 0 ? rows : [...rows, rest];
}
