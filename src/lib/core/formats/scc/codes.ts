/** The codes of line 21 captions, first channel of the first field (ANSI/CTA-608-E, 4 and annexes), without parity. */

/** Controls of two bytes, as the first channel has them. */
export const CONTROLS = {
  /** Resume caption loading: what follows is made unseen. */
  load: [0x14, 0x20],
  backspace: [0x14, 0x21],
  deleteToEnd: [0x14, 0x24],
  rollUp2: [0x14, 0x25],
  rollUp3: [0x14, 0x26],
  rollUp4: [0x14, 0x27],
  /** Resume direct captioning: what follows is painted as it comes. */
  paint: [0x14, 0x29],
  textRestart: [0x14, 0x2a],
  text: [0x14, 0x2b],
  eraseShown: [0x14, 0x2c],
  carriageReturn: [0x14, 0x2d],
  eraseLoaded: [0x14, 0x2e],
  /** End of caption: what was made is shown, what was shown is put away. */
  show: [0x14, 0x2f]
} as const satisfies Readonly<Record<string, readonly [number, number]>>;
export type Control = keyof typeof CONTROLS;

export type Pair = readonly [number, number];

const controlNames = new Map(
  Object.entries(CONTROLS).map(([name, [first, second]]) => [(first << 8) | second, name as Control])
);
export const controlOf = (first: number, second: number): Control | null =>
  controlNames.get(((first === 0x15 ? 0x14 : first) << 8) | second) ?? null;

export const COLUMNS = 32;
export const ROWS = 15;

/** First byte, and whether the second lies in its upper half, by the row from 1. */
const PREAMBLES: readonly Pair[] = [
  ...([
    [0x11, 0x40],
    [0x11, 0x60],
    [0x12, 0x40],
    [0x12, 0x60],
    [0x15, 0x40]
  ] as const),
  ...([
    [0x15, 0x60],
    [0x16, 0x40],
    [0x16, 0x60],
    [0x17, 0x40],
    [0x17, 0x60]
  ] as const),
  ...([
    [0x10, 0x40],
    [0x13, 0x40],
    [0x13, 0x60],
    [0x14, 0x40],
    [0x14, 0x60]
  ] as const)
];
const INDENT = 0x10;
const ITALIC = 0x0e;
const UNDERLINE = 0x01;

/** Begins a row, white, at a column that four divides. */
export function preamble(row: number, column: number): Pair {
  const [first, second] = PREAMBLES[row - 1]!;
  return [first, second | INDENT | ((column >> 2) << 1)];
}

export interface Preamble {
  readonly row: number;
  readonly column: number;
  readonly italic: boolean;
  readonly underline: boolean;
}
export function preambleOf(first: number, second: number): Preamble | null {
  if (second < 0x40) return null;
  // The upper half of row 11's code stands for nothing.
  const row = PREAMBLES.findIndex(([one, half]) => one === first && half === (second & 0x60)) + 1;
  if (row === 0) return null;
  const isIndent = (second & INDENT) !== 0;
  return {
    row,
    column: isIndent ? ((second & 0x0e) >> 1) * 4 : 0,
    italic: !isIndent && (second & 0x0e) === ITALIC,
    underline: (second & UNDERLINE) !== 0
  };
}

/** One to three columns on. */
export const tabulator = (columns: number): Pair => [0x17, 0x20 + columns];
export const tabulatorOf = (first: number, second: number): number =>
  first === 0x17 && second >= 0x21 && second <= 0x23 ? second - 0x20 : 0;

/** Turns letters within a row, and takes a column. */
export const midRow = ({ italic, underline }: { readonly italic: boolean; readonly underline: boolean }): Pair => [
  0x11,
  0x20 | (italic ? ITALIC : 0) | (underline ? UNDERLINE : 0)
];
export const midRowOf = (
  first: number,
  second: number
): { readonly italic: boolean; readonly underline: boolean } | null =>
  first === 0x11 && second >= 0x20 && second < 0x30
    ? { italic: (second & 0x0e) === ITALIC, underline: (second & UNDERLINE) !== 0 }
    : null;

/** A byte with its eighth bit set so that the number of ones is odd. */
export function withParity(byte: number): number {
  let ones = byte ^ (byte >> 4);
  ones ^= ones >> 2;
  ones ^= ones >> 1;
  return (ones & 1) === 1 ? byte : byte | 0x80;
}
export const hasParity = (byte: number): boolean => withParity(byte & 0x7f) === byte;
