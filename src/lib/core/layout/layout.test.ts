import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { newPath, shelf, trackOfLines } from '../testing/fonts';
import { pointSchema, type LookOverrides } from '../track';
import {
  AT_REST,
  blockOf,
  compose,
  findLacking,
  motionOf,
  paintDrawing,
  standApart,
  stateAt,
  type Composed,
  type Drawing,
  type MotionState
} from '.';

const PICTURE = { width: 1280, height: 720 };
const NO_BOX: LookOverrides = { box: { kind: 'none' } };

type TrackOptions = Parameters<typeof trackOfLines>[2];
function draw(
  lines: readonly string[],
  look: LookOverrides = {},
  options: TrackOptions = {},
  size = PICTURE
): Composed {
  const track = trackOfLines(lines, look, options);
  return compose(blockOf(track, track.cues[0]!), size, shelf);
}

function paint(drawing: Drawing, state: MotionState = AT_REST): SKRSContext2D {
  const context = createCanvas(drawing.width, drawing.height).getContext('2d');
  paintDrawing(context, newPath, drawing, state);
  return context;
}

/** Share of opaque pixels that lie within the rectangle; colours are those of its pixels. */
function inkOf(context: SKRSContext2D) {
  const { width, height } = context.canvas;
  const { data } = context.getImageData(0, 0, width, height);
  const box = { left: width, top: height, right: 0, bottom: 0, pixels: 0 };
  for (let at = 3; at < data.length; at += 4) {
    if (data[at]! < 8) continue;
    const x = ((at - 3) / 4) % width;
    const y = Math.floor((at - 3) / 4 / width);
    box.left = Math.min(box.left, x);
    box.right = Math.max(box.right, x + 1);
    box.top = Math.min(box.top, y);
    box.bottom = Math.max(box.bottom, y + 1);
    box.pixels++;
  }
  return box;
}

const glyphText = ({ drawing }: Composed): string => drawing.runs.map((run) => run.font.key).join(' ');

describe('where a cue stands', () => {
  test('nine points within the margin, whatever the picture', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...pointSchema.options),
        fc.integer({ min: 320, max: 4000 }),
        fc.integer({ min: 240, max: 4000 }),
        (placement, width, height) => {
          const { block } = draw(['Good'], { placement, sizePercent: 4 }, {}, { width, height }).drawing;
          const [down, across] = placement.split(' ');
          const margin = { x: width * 0.05, y: height * 0.05 };
          const at = {
            left: block.x,
            right: width - block.x - block.width,
            top: block.y,
            bottom: height - block.y - block.height
          };
          if (across === 'centre') expect(at.left).toBeCloseTo(at.right);
          else expect(at[across as 'left' | 'right']).toBeCloseTo(margin.x);
          if (down === 'middle') expect(at.top).toBeCloseTo(at.bottom);
          else expect(at[down as 'top' | 'bottom']).toBeCloseTo(margin.y);
        }
      ),
      { numRuns: 40 }
    );
  });

  test('with its middle on a spot, but never off the picture', () => {
    const { block } = draw(['Good evening'], { placement: { xPercent: 40, yPercent: 30 } }).drawing;
    expect([block.x + block.width / 2, block.y + block.height / 2]).toEqual([expect.closeTo(512), expect.closeTo(216)]);
    const corner = draw(['Good evening'], { placement: { xPercent: 0, yPercent: 100 } }).drawing.block;
    expect([corner.x, corner.y + corner.height]).toEqual([0, expect.closeTo(720)]);
  });

  test('cues that are seen at once give way to each other, towards the middle', () => {
    const low = draw(['Good evening']).drawing;
    const high = draw(['Good evening'], { placement: 'top centre' }).drawing;
    const [first, second, third] = standApart([low, low, low]);
    expect([first, second, third]).toEqual([
      0,
      expect.closeTo(-low.block.height),
      expect.closeTo(-2 * low.block.height)
    ]);
    expect(standApart([high, low, high])).toEqual([0, 0, expect.closeTo(high.block.height)]);
  });
});

describe('what is drawn', () => {
  test('all its ink lies where it says, with every kind of box, outline and shadow', () => {
    const looks: LookOverrides[] = [
      {},
      NO_BOX,
      { box: { kind: 'block', roundingEm: 1, paddingEm: 1 } },
      { outline: { color: '#000000', widthEm: 0.2 }, ...NO_BOX, face: 'caveat', italic: true },
      { shadow: { color: '#000000', xEm: 0.5, yEm: -0.4, blurEm: 0.3 }, ...NO_BOX, face: 'anton', weight: 400 }
    ];
    for (const look of looks)
      for (const placement of ['middle centre', { xPercent: 30, yPercent: 40 }] as const) {
        const { drawing } = draw(['fjord, Ågot & Ÿ', 'the (going) train'], { ...look, placement });
        const ink = inkOf(paint(drawing));
        expect(ink.pixels).toBeGreaterThan(2000);
        expect(ink.left).toBeGreaterThanOrEqual(Math.floor(drawing.ink.x));
        expect(ink.top).toBeGreaterThanOrEqual(Math.floor(drawing.ink.y));
        expect(ink.right).toBeLessThanOrEqual(Math.ceil(drawing.ink.x + drawing.ink.width));
        expect(ink.bottom).toBeLessThanOrEqual(Math.ceil(drawing.ink.y + drawing.ink.height));
      }
  });

  test('boxes of neighbouring lines are one: where they overlap they are no darker', () => {
    const { drawing } = draw(['Good evening', 'Good evening'], {
      box: { opacity: 0.5, color: '#ff0000' },
      color: '#ff0000'
    });
    const { data } = paint(drawing).getImageData(0, 0, 1280, 720);
    const alphas = new Set<number>();
    for (let at = 3; at < data.length; at += 4) if (data[at]! > 100 && data[at]! < 160) alphas.add(data[at]!);
    expect([...alphas].every((alpha) => Math.abs(alpha - 128) < 32)).toBe(true);
    expect(drawing.box!.rects).toHaveLength(2);
  });

  test('the size is a share of the picture’s height, and the lines lie as far apart as they should', () => {
    for (const height of [240, 900, 2160]) {
      const { drawing } = draw(['Good', 'evening'], { sizePercent: 6, lineSpacing: 1.5 }, {}, { width: 1600, height });
      expect(drawing.sizePx / height).toBeCloseTo(0.06);
      const [one, two] = drawing.box!.rects;
      expect(two!.y - one!.y).toBeCloseTo(drawing.sizePx * 1.5);
    }
  });

  test('words lie one after the other, and from the right in scripts that run so', () => {
    const inOrder = (composed: Composed): number[] => composed.drawing.words.map(({ x }) => x);
    const latin = inOrder(draw(['one two three']));
    expect(latin).toEqual([...latin].sort((a, b) => a - b));
    const { drawing } = draw(['אחת שתיים שלוש'], {}, { language: 'he' });
    const byWord = [0, 1, 2].map((at) => drawing.words.find(({ word }) => word === at)!.x);
    expect(byWord).toEqual([...byWord].sort((a, b) => b - a));
    // Figures and Latin words keep their own direction within them.
    const mixed = draw(['בשנת 1871 Merrowby בנתה'], {}, { language: 'he' }).drawing;
    const place = [0, 1, 2, 3].map((at) => mixed.words.find(({ word }) => word === at)!.x);
    expect(place).toEqual([...place].sort((a, b) => b - a));
  });

  test('where a word lies ends with its last letter', () => {
    const { words } = draw(['one two'], NO_BOX).drawing;
    const alone = draw(['one'], NO_BOX).drawing.words[0]!;
    expect(words[0]!.width).toBeCloseTo(alone.width);
    expect(words[1]!.x - words[0]!.x).toBeGreaterThan(alone.width + 4);
  });

  test('start and end of lines are those of the reading direction', () => {
    const at = (align: 'start' | 'end', lines: readonly string[], language: string): number =>
      draw(lines, { align }, { language }).drawing.box!.rects[1]!.x -
      draw(lines, { align }, { language }).drawing.block.x;
    expect(at('start', ['a longer line', 'short'], 'en')).toBeCloseTo(0);
    expect(at('end', ['a longer line', 'short'], 'en')).toBeGreaterThan(50);
    expect(at('start', ['שורה ארוכה יותר', 'קצר'], 'he')).toBeGreaterThan(50);
  });

  test('capitals, italics, bold and underlines, as the marks and the look say', () => {
    const marks = [
      { kind: 'i' as const, from: 0, to: 2 },
      { kind: 'u' as const, from: 0, to: 4 }
    ];
    const composed = draw(
      ['good day'],
      { capitals: 'all' },
      { change: (word, at) => (at === 0 ? { ...word, marks } : word) }
    );
    expect(glyphText(composed)).toBe('atkinson-600i atkinson-600 atkinson-600');
    expect(composed.drawing.runs.map(({ underlines }) => underlines.length)).toEqual([1, 1, 0]);
    const plain = draw(['GOOD DAY']).drawing.block.width;
    expect(draw(['good day'], { capitals: 'all' }).drawing.block.width).toBeCloseTo(plain);
    const bold = draw(['good'], {}, { change: (word) => ({ ...word, marks: [{ kind: 'b', from: 0, to: 4 }] }) });
    expect(glyphText(bold)).toBe('atkinson-800');
  });

  test('letters that a face lacks are named, and drawn in the face that has them', () => {
    const cases: [string, string, string][] = [
      ['مرحبا', 'ar', 'noto-arabic-600'],
      ['שלום', 'he', 'noto-hebrew-600'],
      ['नमस्ते', 'hi', 'noto-devanagari-600'],
      ['สวัสดี', 'th', 'noto-thai-600'],
      ['こんにちは', 'ja', 'noto-jp-600'],
      ['안녕', 'ko', 'noto-kr-600'],
      ['你好', 'zh', 'noto-sc-600'],
      ['Привет', 'ru', 'noto-600'],
      ['😀', 'en', 'noto-emoji-600'],
      ['♫', 'en', 'noto-signs-400']
    ];
    for (const [text, language, key] of cases) {
      const composed = draw([text], {}, { language });
      expect(new Set(composed.drawing.runs.map(({ font }) => font.key)), text).toEqual(new Set([key]));
      expect(composed.lacking.every(({ drawnIn }) => drawnIn !== null)).toBe(true);
      expect(composed.lacking.map(({ text: letter }) => letter).join('').length).toBeGreaterThan(0);
      expect(inkOf(paint(composed.drawing)).pixels).toBeGreaterThan(100);
    }
    expect(draw(['Good evening, ♪']).lacking).toEqual([]);
    expect(draw(['\u{10fffd}']).lacking).toMatchObject([{ drawnIn: null }]);
  });

  test('of a whole track are found by each letter once', () => {
    const track = trackOfLines(['Good שלום evening', 'שלום ♪'], { face: 'zilla' });
    const { lacking, wanted } = findLacking(track, shelf);
    expect(wanted).toEqual([]);
    expect(lacking).toEqual([
      { face: 'Zilla Slab', drawnIn: 'Noto Sans Hebrew', letters: ['ש', 'ל', 'ו', 'ם'] },
      { face: 'Zilla Slab', drawnIn: 'Noto Sans Math', letters: ['♪'] }
    ]);
    expect(findLacking(track, { ...shelf, find: () => undefined }).wanted).toMatchObject([{ faceId: 'zilla' }]);
  });

  test('what is not loaded is asked for, and nothing is guessed', () => {
    const track = trackOfLines(['שלום']);
    const block = blockOf(track, track.cues[0]!);
    const none = compose(block, PICTURE, { faces: shelf.faces, find: () => undefined });
    expect(none.wanted).toEqual([{ faceId: 'atkinson', weight: 600, italic: false }]);
    const one = compose(block, PICTURE, {
      ...shelf,
      find: (key) => (key.startsWith('atkinson') ? shelf.find(key) : undefined)
    });
    expect(one.wanted).toEqual([{ faceId: 'noto-hebrew', weight: 600, italic: false }]);
  });
});

describe('what does not fit', () => {
  test('forty lines are drawn smaller, a word of 300 letters is broken, none leaves the picture', () => {
    const forty = draw(Array.from({ length: 40 }, (_, at) => `line ${at}`));
    expect(forty.isShrunk).toBe(true);
    const word = draw(['x'.repeat(300)]);
    const long = draw([
      'a very long line that does not fit the picture at all because it goes on and on for ever and ever'
    ]);
    expect(word.drawing.box!.rects.length).toBeGreaterThan(3);
    expect(long.drawing.box!.rects.length).toBeGreaterThan(1);
    for (const { drawing } of [forty, word, long]) {
      expect(drawing.block.x).toBeGreaterThanOrEqual(0);
      expect(drawing.block.y).toBeGreaterThanOrEqual(0);
      expect(drawing.block.y + drawing.block.height).toBeLessThanOrEqual(720);
      expect(drawing.block.width).toBeLessThanOrEqual(1280 * 0.91);
    }
  });

  test('an empty cue draws nothing; tiny and huge pictures are drawn', () => {
    const track = trackOfLines(['gone'], {}, { change: (word) => ({ ...word, shown: false }) });
    const empty = compose(blockOf(track, track.cues[0]!), PICTURE, shelf).drawing;
    expect([empty.box, empty.runs]).toEqual([null, []]);
    expect(draw(['Good'], {}, {}, { width: 64, height: 64 }).drawing.sizePx).toBeGreaterThan(1);
    expect(draw(['Good'], {}, {}, { width: 8192, height: 4320 }).drawing.sizePx).toBeCloseTo(302.4);
  });
});

describe('how it moves', () => {
  const motion = (look: LookOverrides['motion'], placement = 'bottom centre' as const) => {
    const track = trackOfLines(['one two three'], { motion: look!, placement });
    return motionOf(track, track.cues[0]!);
  };

  test('it is there from its start to before its end, and nowhere else', () => {
    const cue = motion({});
    expect([-1, 5000].map((ms) => stateAt(cue, ms))).toEqual([null, null]);
    expect([0, 4999].map((ms) => stateAt(cue, ms)?.alpha)).toEqual([1, 1]);
  });

  test('it fades and rises to its rest, and back, and never beyond', () => {
    const cue = motion({ come: 'rise', go: 'fade', lengthMs: 200 });
    const states = Array.from({ length: 100 }, (_, at) => stateAt(cue, at * 2)!);
    for (const [at, { alpha, shiftEm }] of states.entries()) {
      expect(alpha).toBeGreaterThanOrEqual(at === 0 ? 0 : states[at - 1]!.alpha);
      expect(shiftEm).toBeLessThanOrEqual(at === 0 ? 1 : states[at - 1]!.shiftEm);
    }
    expect(stateAt(cue, 200)).toMatchObject({ alpha: 1, shiftEm: 0 });
    expect(stateAt(cue, 4900)).toMatchObject({ alpha: 0.75, shiftEm: 0 });
  });

  test('words appear, or are marked, as they are spoken; the first is there with its cue', () => {
    const appear = motion({ follow: 'appear' });
    expect([0, 299, 300, 650, 4000].map((ms) => stateAt(appear, ms)!.shownWords)).toEqual([1, 1, 2, 3, 3]);
    const box = motion({ follow: 'box' });
    expect([0, 300, 4000].map((ms) => stateAt(box, ms)!.spokenWord)).toEqual([0, 1, 2]);
  });

  test('it holds still for who asked for that', () => {
    const cue = motion({ come: 'rise', follow: 'appear' });
    expect(stateAt(cue, 0, true)).toEqual({ shownWords: 3, spokenWord: null, alpha: 1, shiftEm: 0 });
  });

  test('what is painted follows: fewer words have less ink, the spoken one its colour', () => {
    const { drawing } = draw(['one two three'], { ...NO_BOX, motion: { follow: 'color', followColor: '#00ff00' } });
    const few = inkOf(paint(drawing, { ...AT_REST, shownWords: 1 })).pixels;
    expect(few).toBeGreaterThan(50);
    expect(few).toBeLessThan(inkOf(paint(drawing)).pixels / 2);
    const { data } = paint(drawing, { ...AT_REST, spokenWord: 1 }).getImageData(0, 0, 1280, 720);
    const green = drawing.words.find(({ word }) => word === 1)!;
    const greenAt: number[] = [];
    for (let at = 0; at < data.length; at += 4)
      if (data[at + 3]! > 200 && data[at]! < 40) greenAt.push((at / 4) % 1280);
    expect(greenAt.length).toBeGreaterThan(50);
    expect(Math.min(...greenAt)).toBeGreaterThan(green.x - 4);
    expect(Math.max(...greenAt)).toBeLessThan(green.x + green.width + 4);
  });
});
