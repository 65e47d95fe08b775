/** For tests of what is drawn: real fonts, and tracks that say what lines their one cue has. */
import { createCanvas, Path2D, type SKRSContext2D } from '@napi-rs/canvas';
import { fontShelf } from '../../server/faces/shelf';
import { AT_REST, blockOf, compose, paintDrawing, type PathMaker, type PictureSize } from '../layout';
import {
  HOUSE_LOOK,
  makeCue,
  makeTrack,
  makeWord,
  overrideLook,
  pointSchema,
  type Cue,
  type LookOverrides,
  type Point,
  type Track,
  type Word
} from '../track';

export const shelf = fontShelf();

export const newPath = ((svg?: string) => (svg === undefined ? new Path2D() : new Path2D(svg))) as unknown as PathMaker;

/** A cue of a track as the renderer draws it, at rest, on a picture of one colour. */
export function paintCue(track: Track, cue: Cue, size: PictureSize, over: string, fonts = shelf): SKRSContext2D {
  const context = createCanvas(size.width, size.height).getContext('2d');
  context.fillStyle = over;
  context.fillRect(0, 0, size.width, size.height);
  paintDrawing(context, newPath, compose(blockOf(track, cue), size, fonts).drawing, AT_REST);
  return context;
}

/** A track of one cue, from 0 to 5 s, with these lines; its words last 300 ms each. */
export function trackOfLines(
  lines: readonly string[],
  look: LookOverrides = {},
  { language = 'en', change = (word) => word }: { language?: string; change?: (word: Word, at: number) => Word } = {}
): Track {
  const words: Word[] = [];
  const lineStarts: string[] = [];
  for (const [at, line] of lines.entries())
    for (const [place, text] of line.split(' ').entries()) {
      const id = `w${words.length}`;
      if (at > 0 && place === 0) lineStarts.push(id);
      const startMs = words.length * 300;
      words.push(change(makeWord({ id, text, startMs, endMs: startMs + 300, timing: 'heard' }), words.length));
    }
  const cue = makeCue({ id: 'c', startMs: 0, endMs: 5000, wordIds: words.map(({ id }) => id), lineStarts });
  return makeTrack({
    ...{ id: 't', recordingId: 'r', language, title: '', words, cues: [cue] },
    look: overrideLook(HOUSE_LOOK, look)
  });
}

const TEXTS = [
  ['Good evening,', 'and welcome'],
  ['Ågot’s fjord:', '“Ça va?”'],
  ['مرحبا بكم', 'في البرج'],
  ['שלום לכולם,', 'Merrowby'],
  ['घड़ी की', 'सुइयाँ चलती हैं'],
  ['時計の針が動く。'],
  ['The bell 🔔', 'strikes ♪']
];
const BOXES: readonly LookOverrides[] = [
  {},
  { box: { kind: 'block', opacity: 0.5, roundingEm: 0.6 } },
  { box: { kind: 'none' }, outline: { color: '#000000', widthEm: 0.08 } },
  { box: { kind: 'none' }, shadow: { color: '#000000', xEm: 0.06, yEm: 0.06, blurEm: 0.15 } }
];
const SIZES = [5, 8, 12];

/** Forty cues: of every script, box, place and size. */
export const DRESSED_CUES: readonly {
  readonly lines: readonly string[];
  readonly look: LookOverrides;
  readonly placement: Point;
}[] = Array.from({ length: 40 }, (_, at) => ({
  lines: TEXTS[at % TEXTS.length]!,
  look: { ...BOXES[at % BOXES.length]!, sizePercent: SIZES[at % SIZES.length]! },
  placement: pointSchema.options[at % 9]!
}));
