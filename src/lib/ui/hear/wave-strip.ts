/** A whole recording's waveform as one strip. */
import { levelsBetween } from '$lib/core/audio';
import type { Span } from '$lib/core/time';
import { gainOf } from '../time/wave';

/** Draws over the canvas' width; what lies outside a chosen stretch is paler. */
export function drawWave(
  canvas: HTMLCanvasElement,
  levels: Uint8Array,
  {
    durationMs,
    height,
    stretch
  }: { readonly durationMs: number; readonly height: number; readonly stretch: Span | null }
): void {
  const context = canvas.getContext('2d');
  if (context === null) return;
  const width = canvas.clientWidth;
  canvas.width = Math.round(width * devicePixelRatio);
  canvas.height = Math.round(height * devicePixelRatio);
  context.scale(devicePixelRatio, devicePixelRatio);
  const style = getComputedStyle(canvas);
  const gain = gainOf(levels);
  const middle = height / 2;
  for (let x = 0; x < width; x++) {
    const fromMs = (x / width) * durationMs;
    const { least, greatest } = levelsBetween(levels, fromMs, ((x + 1) / width) * durationMs);
    const isIn = stretch === null || (fromMs >= stretch.startMs && fromMs < stretch.endMs);
    if (stretch !== null && isIn) {
      context.fillStyle = style.getPropertyValue('--pale-leaf');
      context.fillRect(x, 0, 1, height);
    }
    context.fillStyle = style.getPropertyValue('--wave');
    context.globalAlpha = isIn ? 1 : 0.35;
    const top = middle - Math.min(1, greatest * gain) ** 0.8 * middle;
    const bottom = middle + Math.min(1, -least * gain) ** 0.8 * middle;
    context.fillRect(x, top, 1, Math.max(1, bottom - top));
    context.globalAlpha = 1;
  }
}
