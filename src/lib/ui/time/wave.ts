/** Drawing the waveform of one row. */
import { levelsBetween } from '$lib/core/audio';
import type { Row } from '$lib/core/rows';
import { msOf, xOf, type Geometry } from './geometry';

/** The wave between the row's ends, its neighbours' repeats paler. `gain` lifts quiet recordings to the same height. */
export function drawWave(
  canvas: HTMLCanvasElement,
  options: { geometry: Geometry; row: Row; levels: Uint8Array; durationMs: number; gain: number }
): void {
  const { geometry, row, levels, durationMs, gain } = options;
  const context = canvas.getContext('2d');
  if (context === null) return;
  const ratio = window.devicePixelRatio;
  const { width } = geometry;
  const { height } = geometry.wave;
  canvas.width = Math.round(width * ratio);
  canvas.height = Math.round(height * ratio);
  context.scale(ratio, ratio);
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
}

/** What lifts the loud parts of a recording to nearly the full height. */
export function gainOf(levels: Uint8Array): number {
  const loud: number[] = [];
  for (let at = 1; at < levels.length; at += 3 * 20) loud.push(levels[at]!);
  loud.sort((a, b) => a - b);
  const high = ((loud[Math.floor(loud.length * 0.985)] ?? 127) / 127) ** 2;
  return Math.min(30, 0.42 / Math.max(0.005, high));
}
