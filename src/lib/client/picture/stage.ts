/**
 * Paints captions above the picture: a canvas a cue, over its own ink alone, painted anew only where its drawing or its
 * words have changed. Fades and shifts are the browser's.
 */
import { paintWave, waveAt, type WaveState } from '$lib/core/rendering';
import { isVisible, paintDrawing, type PathMaker, type PictureSize } from '$lib/core/layout';
import type { Shot } from './layout-cache';

const newPath = ((svg?: string) => (svg === undefined ? new Path2D() : new Path2D(svg))) as unknown as PathMaker;

interface Sheet {
  readonly canvas: HTMLCanvasElement;
  readonly context: CanvasRenderingContext2D;
  painted: string;
  drawing: Shot['composed']['drawing'] | null;
}

export class CaptionStage {
  readonly #box: HTMLElement;
  readonly #sheets: Sheet[] = [];

  constructor(box: HTMLElement) {
    this.#box = box;
  }

  /** `scale`: pixels of the drawings to one CSS pixel. */
  show(shots: readonly Shot[], scale: number): void {
    const seen = shots.filter(({ composed, state }) => isVisible(composed.drawing, state));
    for (const [at, shot] of seen.entries()) this.#paint(this.#sheet(at), shot, scale);
    for (const { canvas } of this.#sheets.slice(seen.length)) canvas.hidden = true;
  }

  /** Takes away all that it has painted. */
  clear(): void {
    for (const { canvas } of this.#sheets.splice(0)) canvas.remove();
  }

  #sheet(at: number): Sheet {
    const known = this.#sheets[at];
    if (known !== undefined) return known;
    const canvas = document.createElement('canvas');
    // Painted by the processor: the graphics card rounds the edges of letters otherwise than the video's painter.
    const context = canvas.getContext('2d', { willReadFrequently: true });
    if (context === null) throw new Error('this browser gives no 2D canvas');
    this.#box.append(canvas);
    const sheet: Sheet = { canvas, context, painted: '', drawing: null };
    this.#sheets.push(sheet);
    return sheet;
  }

  #paint(sheet: Sheet, { composed: { drawing }, state, downPx }: Shot, scale: number): void {
    const { canvas, context } = sheet;
    const left = Math.floor(drawing.ink.x);
    const top = Math.floor(drawing.ink.y);
    const wanted = `${state.shownWords} ${state.spokenWord} ${scale}`;
    if (sheet.drawing !== drawing || sheet.painted !== wanted) {
      canvas.width = Math.ceil(drawing.ink.x + drawing.ink.width) - left;
      canvas.height = Math.ceil(drawing.ink.y + drawing.ink.height) - top;
      context.setTransform(1, 0, 0, 1, -left, -top);
      paintDrawing(context, newPath, drawing, { ...state, shiftEm: 0 });
      canvas.style.width = `${canvas.width / scale}px`;
      canvas.style.height = `${canvas.height / scale}px`;
      sheet.drawing = drawing;
      sheet.painted = wanted;
    }
    const down = top + downPx + state.shiftEm * drawing.sizePx;
    canvas.style.transform = `translate(${left / scale}px, ${down / scale}px)`;
    canvas.style.opacity = String(state.alpha);
    canvas.hidden = false;
  }
}

/** Paints the waveform that takes the place of a picture, where it has changed. */
export class WaveStage {
  readonly #canvas: HTMLCanvasElement;
  #painted = '';

  constructor(canvas: HTMLCanvasElement) {
    this.#canvas = canvas;
  }

  show(levels: Uint8Array, ms: number, wave: { readonly size: PictureSize; readonly color: string }): void {
    const state: WaveState = waveAt(ms);
    const wanted = JSON.stringify([state, wave]);
    const context = this.#canvas.getContext('2d', { willReadFrequently: true });
    if (wanted === this.#painted || context === null) return;
    this.#painted = wanted;
    this.#canvas.width = wave.size.width;
    this.#canvas.height = wave.size.height;
    paintWave(context, newPath, { ...wave, levels }, state);
  }
}
