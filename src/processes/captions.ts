/**
 * A process that draws the captions of a video: a strip of the picture wherever they change, as a Matroska stream on its
 * standard output.
 */
import { once } from 'node:events';
import { readFile } from 'node:fs/promises';
import { createCanvas, Path2D, type Canvas, type SKRSContext2D } from '@napi-rs/canvas';
import { z } from 'zod';
import { faceSchema } from '$lib/core/faces';
import { blockOf, compose, paintDrawing, standApart, type Drawing, type PathMaker } from '$lib/core/layout';
import { captionChanges, paintWave, waveAt, type SeenCue } from '$lib/core/rendering';
import { trackSchema, type Cue } from '$lib/core/track';
import { fontShelf } from '$lib/server/faces/shelf';
import { matroskaHead, matroskaPicture } from '$lib/server/rendering/matroska';
import { asked } from './worker';

const size = z.object({ width: z.number(), height: z.number() });
const request = z.object({
  track: trackSchema,
  picture: size,
  frameTimesMs: z.array(z.number()),
  ownFaces: z.array(z.object({ face: faceSchema, path: z.string() })),
  /** A waveform behind them, on this colour. */
  wave: z.object({ levelsPath: z.string(), color: z.string() }).nullable()
});

const { track, picture, frameTimesMs, ownFaces, wave } = request.parse(await asked());
const levels = wave === null ? null : new Uint8Array(await readFile(wave.levelsPath));
const fonts = fontShelf(ownFaces);
const newPath = ((svg?: string) => (svg === undefined ? new Path2D() : new Path2D(svg))) as unknown as PathMaker;

/** Those seen at once, or shortly one after the other, are laid out once. */
const MOST_KEPT = 16;
const laidOut = new Map<Cue, Drawing>();
function drawingOf(cue: Cue): Drawing {
  const known = laidOut.get(cue);
  if (known !== undefined) return known;
  const { drawing } = compose(blockOf(track, cue), picture, fonts);
  laidOut.set(cue, drawing);
  const [oldest] = laidOut.keys();
  if (laidOut.size > MOST_KEPT && oldest !== undefined) laidOut.delete(oldest);
  return drawing;
}

/** Whenever a cue comes, those that are ever seen at once are. */
const startsMs = track.cues.map(({ startMs }) => startMs);

/** The part of the picture that captions ever touch; even, so that it lies on whole samples of colour. */
function findStrip(): { x: number; y: number; width: number; height: number } {
  let [left, top, right, bottom] = [picture.width, picture.height, 0, 0];
  for (const { seen } of captionChanges(track, startsMs)) {
    const drawings = seen.map(({ cue }) => drawingOf(cue));
    const down = standApart(drawings);
    // Those that rise come from up to their size away.
    for (const [at, { ink, sizePx }] of drawings.entries()) {
      left = Math.min(left, ink.x);
      right = Math.max(right, ink.x + ink.width);
      top = Math.min(top, ink.y + down[at]! - sizePx);
      bottom = Math.max(bottom, ink.y + down[at]! + ink.height + sizePx);
    }
  }
  const within = (value: number, most: number): number => Math.min(most, Math.max(0, value));
  const x = Math.floor(within(left, picture.width - 2) / 2) * 2;
  const y = Math.floor(within(top, picture.height - 2) / 2) * 2;
  return {
    x,
    y,
    width: Math.max(2, Math.ceil((within(right, picture.width) - x) / 2) * 2),
    height: Math.max(2, Math.ceil((within(bottom, picture.height) - y) / 2) * 2)
  };
}

const strip = wave === null ? findStrip() : { x: 0, y: 0, ...picture };
process.send?.({ type: 'strip', ...strip });

const sheet = createCanvas(strip.width, strip.height);
const spare = createCanvas(strip.width, strip.height);

function paintOn(canvas: Canvas, seen: SeenCue, downPx: number): SKRSContext2D {
  const context = canvas.getContext('2d');
  context.setTransform(1, 0, 0, 1, -strip.x, downPx - strip.y);
  paintDrawing(context, newPath, drawingOf(seen.cue), seen.state);
  context.setTransform(1, 0, 0, 1, 0, 0);
  return context;
}

function paintAll(seen: readonly SeenCue[], frameMs: number): Uint8Array {
  const context = sheet.getContext('2d');
  context.clearRect(0, 0, strip.width, strip.height);
  if (wave !== null && levels !== null) {
    context.fillStyle = wave.color;
    context.fillRect(0, 0, strip.width, strip.height);
    paintWave(context, newPath, { size: picture, levels, color: wave.color }, waveAt(frameMs));
  }
  const down = standApart(seen.map(({ cue }) => drawingOf(cue)));
  for (const [at, one] of seen.entries()) {
    if (one.state.alpha === 1) paintOn(sheet, one, down[at]!);
    else {
      // What fades does so as a whole.
      spare.getContext('2d').clearRect(0, 0, strip.width, strip.height);
      paintOn(spare, one, down[at]!);
      context.globalAlpha = one.state.alpha;
      context.drawImage(spare, 0, 0);
      context.globalAlpha = 1;
    }
  }
  const { data } = context.getImageData(0, 0, strip.width, strip.height);
  return new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
}

async function write(bytes: Uint8Array): Promise<void> {
  if (!process.stdout.write(bytes)) await once(process.stdout, 'drain');
}

await write(matroskaHead(strip));
const besides = wave === null ? undefined : (ms: number): string => JSON.stringify(waveAt(ms));
for (const { atMs, frameMs, seen } of captionChanges(track, frameTimesMs, besides)) {
  const pixels = paintAll(seen, frameMs);
  await write(matroskaPicture(atMs, pixels.length));
  await write(pixels);
  // Without a breath nothing that was written is let go.
  await new Promise((resolve) => setImmediate(resolve));
}
process.stdout.end(() => process.exit());
