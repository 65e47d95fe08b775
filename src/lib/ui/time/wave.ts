/** Drawing the sound of one row: its waveform, its spectrum. */
import { levelsBetween, SPECTRUM_BANDS, SPECTRUM_STEP_MS } from '$lib/core/audio';
import type { Row } from '$lib/core/rows';
import { lastStartingBy, type Span, toSpan } from '$lib/core/time';
import { msOf, REPEAT_MS, xOf, type Geometry } from './geometry';

/** The wave between the row's ends, its neighbours' repeats paler. `gain` lifts quiet recordings to the same height. */
export function drawWave(
  canvas: HTMLCanvasElement,
  options: {
    geometry: Geometry;
    row: Row;
    levels: Uint8Array;
    regions: readonly Span[];
    durationMs: number;
    gain: number;
  }
): void {
  const { geometry, row, levels, regions, durationMs, gain } = options;
  if (geometry.wave === null) return;
  const { width } = geometry;
  const { height } = geometry.wave;
  const context = clear(canvas, width, height);
  if (context === null) return;
  const color = getComputedStyle(canvas).getPropertyValue('--wave').trim();
  context.fillStyle = color;
  const from = Math.max(geometry.gutter, Math.floor(xOf(geometry, row, 0)));
  const to = Math.min(width, Math.ceil(xOf(geometry, row, Math.min(row.endMs + 500, durationMs))));
  const middle = height / 2;
  const bounds = [xOf(geometry, row, row.startMs), xOf(geometry, row, row.endMs)] as const;
  for (let x = from; x < to; x++) {
    const { least, greatest } = levelsBetween(levels, msOf(geometry, row, x), msOf(geometry, row, x + 1));
    context.globalAlpha = x < bounds[0] || x >= bounds[1] ? 0.35 : 1;
    const top = Math.max(0, middle - Math.min(1, greatest * gain) ** 0.8 * middle);
    const bottom = Math.min(height, middle + Math.min(1, -least * gain) ** 0.8 * middle);
    context.fillRect(x, Math.min(top, middle - 0.5), 1, Math.max(1, bottom - top));
  }
  // A line below marks speech: cues snap to its ends.
  context.globalAlpha = 0.9;
  const first = Math.max(0, lastStartingBy(regions, row.startMs - REPEAT_MS));
  for (let at = first; at < regions.length && regions[at]!.startMs < row.endMs + REPEAT_MS; at++) {
    const left = Math.max(geometry.gutter, xOf(geometry, row, regions[at]!.startMs));
    const right = xOf(geometry, row, Math.min(regions[at]!.endMs, row.endMs + REPEAT_MS));
    if (right > left) context.fillRect(left, height - 1.5, right - left, 1.5);
  }
}

/** The canvas emptied, at the screen's own resolution; `null` where it cannot be drawn on. */
function clear(canvas: HTMLCanvasElement, width: number, height: number): CanvasRenderingContext2D | null {
  const ratio = window.devicePixelRatio;
  canvas.width = Math.round(width * ratio);
  canvas.height = Math.round(height * ratio);
  const context = canvas.getContext('2d');
  context?.scale(ratio, ratio);
  return context;
}

/** The stretch of a row that is drawn, with what it repeats of its neighbours. */
export const drawnSpan = (row: Row, durationMs: number): Span =>
  toSpan({ startMs: Math.max(0, row.startMs - REPEAT_MS), endMs: Math.min(durationMs, row.endMs + REPEAT_MS) });

/** The spectrum in the theme's ink, the low voices below; `bytes` as the server gives them for `drawnSpan`. */
export function drawSpectrum(
  canvas: HTMLCanvasElement,
  { geometry, row, bytes }: { geometry: Geometry; row: Row; bytes: Uint8Array }
): void {
  if (geometry.spectrum === null) return;
  const { width } = geometry;
  const { height } = geometry.spectrum;
  const context = clear(canvas, width, height);
  const columns = Math.floor(bytes.length / SPECTRUM_BANDS);
  if (context === null || columns === 0) return;
  const image = new ImageData(columns, SPECTRUM_BANDS);
  const [red, green, blue] = colorOf(getComputedStyle(canvas).getPropertyValue('--leaf').trim());
  for (let column = 0; column < columns; column++)
    for (let band = 0; band < SPECTRUM_BANDS; band++) {
      const at = ((SPECTRUM_BANDS - 1 - band) * columns + column) * 4;
      image.data.set([red, green, blue, bytes[column * SPECTRUM_BANDS + band]!], at);
    }
  const small = new OffscreenCanvas(columns, SPECTRUM_BANDS);
  small.getContext('2d')?.putImageData(image, 0, 0);
  const startMs = Math.max(0, row.startMs - REPEAT_MS);
  const left = xOf(geometry, row, startMs);
  const right = xOf(geometry, row, startMs + columns * SPECTRUM_STEP_MS);
  context.drawImage(small, left, 0, right - left, height);
}

/** Red, green and blue of a colour of the theme, whatever way it is written. */
function colorOf(color: string): readonly [number, number, number] {
  // Apart from what is drawn: a canvas that is read is no longer kept on the graphics card.
  const context = new OffscreenCanvas(1, 1).getContext('2d', { willReadFrequently: true })!;
  context.fillStyle = color;
  context.fillRect(0, 0, 1, 1);
  const [red = 0, green = 0, blue = 0] = context.getImageData(0, 0, 1, 1).data;
  return [red, green, blue];
}

/** What lifts the loud parts of a recording to nearly the full height. */
export function gainOf(levels: Uint8Array): number {
  const loud: number[] = [];
  for (let at = 1; at < levels.length; at += 3 * 20) loud.push(levels[at]!);
  loud.sort((a, b) => a - b);
  const high = ((loud[Math.floor(loud.length * 0.985)] ?? 127) / 127) ** 2;
  return Math.min(30, 0.42 / Math.max(0.005, high));
}
