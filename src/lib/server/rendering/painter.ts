/** The process that draws captions for a video: where they lie, and the pictures of them, as they come. */
import type { Readable } from 'node:stream';
import { z } from 'zod';
import type { Face } from '$lib/core/faces';
import type { Area } from '$lib/core/rendering';
import type { Track } from '$lib/core/track';
import { Child, failureOf } from '../children';

const stripSchema = z.object({
  type: z.literal('strip'),
  x: z.number(),
  y: z.number(),
  width: z.number(),
  height: z.number()
});

export interface PaintRequest {
  readonly track: Track;
  readonly picture: { readonly width: number; readonly height: number };
  readonly frameTimesMs: readonly number[];
  /** A waveform behind them, on this colour. */
  readonly wave: { readonly levelsPath: string; readonly color: string } | null;
  readonly ownFaces: readonly { readonly face: Face; readonly path: string }[];
}

export interface Painter {
  readonly strip: Area;
  /** A Matroska stream; to be read. */
  readonly pictures: Readable;
  /** Resolves when all is drawn; rejects with what went wrong. */
  readonly done: Promise<void>;
  readonly end: () => void;
}

/** Rejects where the process ends before it knows where the captions lie. */
export async function startPainter(request: PaintRequest, signal: AbortSignal): Promise<Painter> {
  signal.throwIfAborted();
  let told: (strip: Area) => void = () => undefined;
  const strip = new Promise<Area>((resolve) => (told = resolve));
  const child = Child.program('captions', {
    signal,
    writes: true,
    said: { schema: stripSchema, take: ({ type: _, ...area }) => told(area) }
  });
  child.send(request);
  const done = child.ended.then((end) => {
    if (end.code !== 0) throw failureOf('the process that draws captions', end);
  });
  // Whoever waits for the strip hears of a failure there; whoever reads on, from `done`.
  done.catch(() => undefined);
  const early = child.ended.then((end): never => {
    throw failureOf('the process that draws captions', end);
  });
  early.catch(() => undefined);
  return { strip: await Promise.race([strip, early]), pictures: child.stdout, done, end: () => child.end() };
}
