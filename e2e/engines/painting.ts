/** What the browser's canvas makes of a track's cues: bundled by itself, so that a page can be asked. */
import * as harfbuzz from 'harfbuzzjs';
import { SHIPPED_FACES } from '../../src/lib/core/faces';
import { AT_REST, blockOf, compose, openFont, paintDrawing, type PathMaker } from '../../src/lib/core/layout';
import { trackSchema } from '../../src/lib/core/track';

const bytesOf = (base64: string): Uint8Array => Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
const newPath = ((svg?: string) => (svg === undefined ? new Path2D() : new Path2D(svg))) as unknown as PathMaker;

/** The pixels of every cue of a track, each on a picture of that size, as base64 of RGBA. `fonts`: files by their keys. */
function paint(
  track: string,
  size: { readonly width: number; readonly height: number },
  fonts: Readonly<Record<string, string>>
): string[] {
  const opened = new Map(Object.entries(fonts).map(([key, file]) => [key, openFont(harfbuzz, key, bytesOf(file))]));
  const shelf = { faces: SHIPPED_FACES, find: (key: string) => opened.get(key) };
  const read = trackSchema.parse(JSON.parse(track));
  return read.cues.map((cue) => {
    const canvas = Object.assign(document.createElement('canvas'), size);
    const context = canvas.getContext('2d', { willReadFrequently: true })!;
    context.fillStyle = '#557766';
    context.fillRect(0, 0, size.width, size.height);
    const { drawing, wanted } = compose(blockOf(read, cue), size, shelf);
    if (wanted.length > 0) throw new Error(`fonts are missing: ${JSON.stringify(wanted)}`);
    paintDrawing(context, newPath, drawing, AT_REST);
    const { data } = context.getImageData(0, 0, size.width, size.height);
    let text = '';
    for (let at = 0; at < data.length; at += 0x8000) text += String.fromCharCode(...data.subarray(at, at + 0x8000));
    return btoa(text);
  });
}

Object.assign(window, { painting: { paint } });
