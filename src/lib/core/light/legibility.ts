/** How well captions can be read on their picture: their contrast against the light behind them, and what mends it. */
import type { Span } from '../time';
import { hasOutline, type Look, type LookChange, type Placement } from '../track';
import { channelsOf, contrastOf, LEAST_CONTRAST, linearLight, luminanceOf } from './contrast';
import {
  BIN_MS,
  binCount,
  cellAt,
  COLUMNS,
  HIGH,
  LOW,
  luminanceOfStep,
  MEAN,
  RESTLESSNESS,
  ROWS,
  type LightMap
} from './light-map';

/** What of a look decides on contrast. */
export type Colors = Pick<Look, 'color' | 'outline' | 'box'>;

/** A stretch of text on the picture, in shares of its width and height. */
export interface TextArea {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** The how manieth line. */
  readonly line: number;
  readonly colors: Colors;
}

export interface Legibility {
  /** WCAG ratio, 1 to 21: the least of any place behind the text, while it is there. */
  readonly worst: number;
  readonly median: number;
  /** Of the places behind it, 0 to 1: below 4.5 : 1. */
  readonly poorShare: number;
  /** Where the worst is, and what is behind the text there. */
  readonly at: { readonly ms: number; readonly line: number; readonly luminance: number } | null;
  /** What is behind it moves a lot. */
  readonly isRestless: boolean;
}

/** An outline as wide as this is what the letters are read against, where it is the better of the two. */
const LEAST_OUTLINE_EM = 0.025;
/** Mean change of luminance from frame to frame, in 255ths. */
const RESTLESS = 20;

const tables = new Map<string, Float32Array>();

/** Contrast of text against each step of light behind it. */
function contrastTable({ color, outline, box }: Colors): Float32Array {
  const isOutlined = hasOutline({ outline }) && outline!.widthEm >= LEAST_OUTLINE_EM;
  const opacity = box.kind === 'none' ? 0 : box.opacity;
  const key = `${color} ${isOutlined ? outline!.color : ''} ${opacity} ${opacity === 0 ? '' : box.color}`;
  const known = tables.get(key);
  if (known !== undefined) return known;
  const text = luminanceOf(color);
  const onOutline = isOutlined ? contrastOf(text, luminanceOf(outline!.color)) : 0;
  const [red, green, blue] = channelsOf(box.color);
  const table = Float32Array.from({ length: 256 }, (_, step) => {
    // Boxes are laid over the picture as it is coded, not in linear light; of the picture only its light is known.
    const grey = codedOf(luminanceOfStep(step));
    const mixed = (channel: number): number => linearLight(opacity * channel + (1 - opacity) * grey);
    const behind = 0.2126 * mixed(red) + 0.7152 * mixed(green) + 0.0722 * mixed(blue);
    return Math.max(onOutline, contrastOf(text, behind));
  });
  if (tables.size > 500) tables.clear();
  tables.set(key, table);
  return table;
}

/** The grey, 0 to 255, of a luminance: the inverse of `linearLight`. */
const codedOf = (luminance: number): number =>
  255 * (luminance <= 0.0031308 ? 12.92 * luminance : 1.055 * luminance ** (1 / 2.4) - 0.055);

/** `null` where there is no text, or no light is known while it is there. */
export function legibilityOf(areas: readonly TextArea[], during: Span, map: LightMap): Legibility | null {
  const bins = binCount(map);
  if (areas.length === 0 || bins === 0) return null;
  const { from, to } = binsOf(during, bins);
  const under = areas.map((area) => ({ area, table: contrastTable(area.colors), cells: cellsUnder(area) }));
  const means = new Float32Array(under.reduce((sum, { cells }) => sum + cells.length, 0) * (to - from));
  let seen = 0;
  let poor = 0;
  let worst = Number.POSITIVE_INFINITY;
  let at: Legibility['at'] = null;
  let restless = 0;
  for (const { area, table, cells } of under)
    for (let bin = from; bin < to; bin++)
      for (const cell of cells) {
        const place = cellAt(bin, cell);
        const mean = table[map.bytes[place + MEAN]!]!;
        means[seen++] = mean;
        if (mean < LEAST_CONTRAST.any) poor++;
        restless += map.bytes[place + RESTLESSNESS]!;
        for (let value = LOW; value <= HIGH; value++) {
          const step = map.bytes[place + value]!;
          if (table[step]! >= worst) continue;
          worst = table[step]!;
          at = { ms: Math.max(during.startMs, bin * BIN_MS), line: area.line, luminance: luminanceOfStep(step) };
        }
      }
  means.sort();
  return {
    worst,
    median: means[Math.floor(means.length / 2)]!,
    poorShare: poor / means.length,
    at,
    isRestless: restless / means.length > RESTLESS
  };
}

/** Bins of a stretch of time, one at least; past the end of the map the last one. */
export function binsOf({ startMs, endMs }: Span, bins: number): { readonly from: number; readonly to: number } {
  const from = Math.min(bins - 1, Math.floor(startMs / BIN_MS));
  return { from, to: Math.min(bins, Math.max(from + 1, Math.ceil(endMs / BIN_MS))) };
}

/** The cells that a stretch of text lies on, one at least. */
export function cellsUnder({ x, y, width, height }: TextArea): readonly number[] {
  const range = (from: number, length: number, count: number): readonly [number, number] => {
    const first = Math.min(count - 1, Math.max(0, Math.floor(from * count)));
    // A touch of the next cell is none.
    return [first, Math.min(count, Math.max(first + 1, Math.ceil((from + length) * count - 0.2)))];
  };
  const [left, right] = range(x, width, COLUMNS);
  const [top, bottom] = range(y, height, ROWS);
  const cells: number[] = [];
  for (let row = top; row < bottom; row++)
    for (let column = left; column < right; column++) cells.push(row * COLUMNS + column);
  return cells;
}

/** A change that would make a cue legible, and what its worst contrast would be. */
export interface Mending {
  readonly kind: 'box' | 'outline' | 'place' | 'color';
  readonly change: LookChange;
  readonly worst: number;
}

interface MendingRequest {
  readonly look: Look;
  readonly during: Span;
  readonly map: LightMap;
  /** Where the text would lie with another look. */
  readonly areasOf: (look: Look) => readonly TextArea[];
}

const OPACITIES = Array.from({ length: 20 }, (_, at) => (at + 1) / 20);
const PLACES: readonly Placement[] = ['bottom centre', 'top centre', 'middle centre'];

/** What would bring the worst contrast to 4.5 : 1, the least change first; at most one of each kind. */
export function findMendings({ look, during, map, areasOf }: MendingRequest): readonly Mending[] {
  const worstOf = (tried: Look): number => legibilityOf(areasOf(tried), during, map)?.worst ?? 0;
  const first = (kind: Mending['kind'], changes: readonly { change: LookChange; look: Look }[]): readonly Mending[] => {
    for (const { change, look: tried } of changes) {
      const worst = worstOf(tried);
      if (worst >= LEAST_CONTRAST.any) return [{ kind, change, worst }];
    }
    return [];
  };
  const isLight = luminanceOf(look.color) > 0.18;
  const against = isLight ? '#000000' : '#ffffff';
  const { box } = look;
  const opacities = box.kind === 'none' ? OPACITIES : OPACITIES.filter((opacity) => opacity > box.opacity);
  const boxColor =
    box.kind === 'none' || contrastOf(luminanceOf(box.color), luminanceOf(look.color)) < 4.5 ? against : box.color;
  const kind = box.kind === 'none' ? 'line' : box.kind;
  const boxes = opacities.map((opacity) => {
    const changed = { kind, color: boxColor, opacity } as const;
    return { change: { box: changed }, look: { ...look, box: { ...box, ...changed } } };
  });
  const outline = { color: against, widthEm: Math.max(0.06, look.outline?.widthEm ?? 0) };
  const places = PLACES.filter((place) => place !== look.placement).map((placement) => ({
    change: { placement },
    look: { ...look, placement }
  }));
  const colors = ['#ffffff', '#000000', '#ffee00'].filter((color) => color !== look.color);
  return [
    ...first('box', boxes),
    ...first('outline', [{ change: { outline }, look: { ...look, outline } }]),
    ...first('place', places),
    ...first(
      'color',
      colors.map((color) => ({ change: { color }, look: { ...look, color } }))
    )
  ];
}
