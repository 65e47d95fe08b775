/** Where things lie on the trellis, in px. */
import { densityOf, type Density, type Row } from '$lib/core/rows';
import type { Ms } from '$lib/core/time';

/** What each row repeats of its neighbours, at both ends. */
export const REPEAT_MS: Ms = 500;
const GUTTER = 64;
const RIGHT = 14;

export interface Geometry {
  readonly width: number;
  readonly density: Density;
  readonly pxPerMs: number;
  readonly gutter: number;
  readonly ruler: number;
  readonly wave: { readonly top: number; readonly height: number };
  /** Top of the two levels of words; `null` where there is no word lane. */
  readonly words: { readonly top: number; readonly level: number } | null;
  readonly cues: { readonly top: number; readonly height: number };
  readonly rowHeight: number;
  readonly foldHeight: number;
}

export function geometryOf(width: number, rowMs: Ms): Geometry {
  const density = densityOf(rowMs);
  const shared = {
    width,
    density,
    gutter: GUTTER,
    pxPerMs: Math.max(100, width - GUTTER - RIGHT) / (rowMs + 2 * REPEAT_MS),
    foldHeight: 30
  };
  return density === 'wide'
    ? { ...shared, ruler: 12, wave: { top: 12, height: 24 }, words: null, cues: { top: 38, height: 24 }, rowHeight: 72 }
    : {
        ...shared,
        ruler: 16,
        wave: { top: 18, height: 34 },
        words: { top: 54, level: 14 },
        cues: { top: 86, height: 42 },
        rowHeight: 142
      };
}

export const xOf = (geometry: Geometry, row: Row, ms: Ms): number =>
  geometry.gutter + (ms - row.startMs + REPEAT_MS) * geometry.pxPerMs;
export const msOf = (geometry: Geometry, row: Row, x: number): Ms =>
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
