/** Where things lie on the trellis, in px. */
import { densityOf, type Density, type Row } from '$lib/core/rows';
import { clamp, lastStartingBy, type ReckonedSpan } from '$lib/core/time';

/** What each row repeats of its neighbours, at both ends. */
export const REPEAT_MS = 500;
const GUTTER = 64;
const WORD_LEVEL = 14;
const RIGHT = 14;

export interface Geometry {
  readonly width: number;
  readonly density: Density;
  readonly pxPerMs: number;
  readonly gutter: number;
  readonly ruler: number;
  /** Where the sound begins, whatever is drawn of it. */
  readonly sound: { readonly top: number };
  /** `null` where it is not drawn. */
  readonly wave: { readonly top: number; readonly height: number } | null;
  readonly spectrum: { readonly top: number; readonly height: number } | null;
  /** Top of the two levels of words; `null` where there is no word lane. */
  readonly words: { readonly top: number; readonly level: number } | null;
  readonly cues: { readonly top: number; readonly height: number };
  readonly rowHeight: number;
  readonly foldHeight: number;
}

/** What of the sound is drawn. */
export type SoundView = 'wave' | 'spectrum' | 'both';

export function geometryOf(width: number, rowMs: number, soundView: SoundView = 'wave'): Geometry {
  const density = densityOf(rowMs);
  const isWide = density === 'wide';
  const ruler = isWide ? 12 : 16;
  let top = isWide ? ruler : ruler + 2;
  const lane = (height: number): { top: number; height: number } => {
    const at = { top, height };
    top += height + 2;
    return at;
  };
  const wave = soundView === 'spectrum' ? null : lane(isWide ? 24 : 34);
  const spectrum = soundView === 'wave' ? null : lane(isWide ? 30 : 48);
  const words = isWide ? null : { top, level: WORD_LEVEL };
  if (words !== null) top += 2 * WORD_LEVEL + 4;
  const cues = lane(isWide ? 24 : 42);
  return {
    ...{ width, density, gutter: GUTTER, ruler, wave, spectrum, words, cues },
    pxPerMs: Math.max(100, width - GUTTER - RIGHT) / (rowMs + 2 * REPEAT_MS),
    sound: { top: ruler + (isWide ? 0 : 2) },
    rowHeight: cues.top + cues.height + (isWide ? 10 : 14),
    foldHeight: 30
  };
}

/** Above the first row. */
export const PAD = 10;

export const heightOf = ({ foldHeight, rowHeight }: Geometry, row: Row | undefined): number =>
  row?.kind === 'folded' ? foldHeight : rowHeight;

/** Where each row begins. */
export function topsOf(geometry: Geometry, rows: readonly Row[]): readonly number[] {
  let top = PAD;
  return rows.map((row) => {
    const here = top;
    top += heightOf(geometry, row);
    return here;
  });
}

/** Index of the row that a time lies on; of the nearest one where none does. There is one at least. */
export const rowAt = (rows: readonly Row[], ms: number): number => clamp(lastStartingBy(rows, ms), 0, rows.length - 1);

/** Stands the playhead at a time; gives its row's index. */
export function placeHead(
  head: HTMLElement,
  ms: number,
  {
    geometry,
    rows,
    tops
  }: { readonly geometry: Geometry; readonly rows: readonly Row[]; readonly tops: readonly number[] }
): number {
  const at = rowAt(rows, ms);
  const row = rows[at]!;
  const x = row.kind === 'folded' ? geometry.gutter : xOf(geometry, row, ms);
  head.style.transform = `translate(${x}px, ${tops[at]}px)`;
  head.style.height = `${heightOf(geometry, row) - 8}px`;
  return at;
}

export const xOf = (geometry: Geometry, row: ReckonedSpan, ms: number): number =>
  geometry.gutter + (ms - row.startMs + REPEAT_MS) * geometry.pxPerMs;
export const msOf = (geometry: Geometry, row: ReckonedSpan, x: number): number =>
  row.startMs - REPEAT_MS + (x - geometry.gutter) / geometry.pxPerMs;

const fontOf = {
  words: "13px 'Atkinson Hyperlegible Next Variable'",
  lines: "14px 'Atkinson Hyperlegible Next Variable'"
};
let context: CanvasRenderingContext2D | null | undefined;
const widths = new Map<string, number>();

/** Width of a text in one of the trellis's two sizes. */
export function measureText(size: keyof typeof fontOf, text: string): number {
  const key = `${size} ${text}`;
  const known = widths.get(key);
  if (known !== undefined) return known;
  context ??= document.createElement('canvas').getContext('2d');
  if (context === null || context === undefined) return text.length * 8;
  context.font = fontOf[size];
  // A pixel more: layout rounds up where canvas does not.
  const width = Math.ceil(context.measureText(text).width) + 1;
  if (widths.size > 20_000) widths.clear();
  widths.set(key, width);
  return width;
}

/** The widths above hold once the fonts are there. */
export const forgetWidths = (): void => widths.clear();
