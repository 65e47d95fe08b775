/** Lays a block out on a picture: where each glyph, box and word lies, in pixels from the picture's top left. */
import type { FontFile } from '../faces';
import { findFace, fontKey, nearestFile } from '../faces';
import type { Look, Placement } from '../track';
import type { Block, SpanStyle, TextSpan } from './block';
import type { Font } from './font';
import { itemise, type Fonts, type Itemised, type Lacking, type Run } from './itemise';

export type { Fonts } from './itemise';

export interface Rect {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export interface PlacedGlyph {
  readonly id: number;
  /** Its origin on the base line. */
  readonly x: number;
  readonly y: number;
  /** The how manieth word of the cue it is part of. */
  readonly word: number;
}

/** Glyphs of one font and one style on one line, from the left. */
export interface GlyphRun {
  readonly font: Font;
  readonly sizePx: number;
  readonly style: SpanStyle;
  readonly isSlanted: boolean;
  readonly glyphs: readonly PlacedGlyph[];
  readonly underlines: readonly (Rect & { readonly word: number })[];
}

/** Where a word lies on a line; one that is parted by the direction of its letters lies in several places. */
export interface WordSpan extends Rect {
  readonly word: number;
}

export interface Drawing {
  /** The picture it was laid out on. */
  readonly width: number;
  readonly height: number;
  readonly sizePx: number;
  readonly box: {
    readonly color: string;
    readonly opacity: number;
    readonly rects: readonly Rect[];
    readonly radiusPx: number;
  } | null;
  readonly runs: readonly GlyphRun[];
  readonly words: readonly WordSpan[];
  /** Around the lines, their box included. */
  readonly block: Rect;
  /** Around all that may have ink: outlines and shadows reach out of the block. */
  readonly ink: Rect;
  readonly look: Look;
}

export interface Composed {
  readonly drawing: Drawing;
  /** Fonts to be loaded, after which it is to be composed anew: it is not whole without them. */
  readonly wanted: readonly FontFile[];
  readonly lacking: readonly Lacking[];
  /** The letters had to be made smaller than the look says, for all lines to be within the margin. */
  readonly isShrunk: boolean;
}

export interface PictureSize {
  readonly width: number;
  readonly height: number;
}

const LEAST_SIZE_PX = 2;

export function compose(block: Block, picture: PictureSize, fonts: Fonts): Composed {
  const { look } = block;
  const roomPx = picture.height * (1 - (2 * look.marginPercent) / 100);
  const askedPx = Math.max(LEAST_SIZE_PX, (picture.height * look.sizePercent) / 100);
  let sizePx = askedPx;
  for (let tries = 0; ; tries++) {
    const set = setLines(block, picture, fonts, sizePx);
    const heightPx = blockHeight(set.lines.length, look, sizePx);
    if (heightPx <= roomPx || tries === 4 || sizePx <= LEAST_SIZE_PX)
      return { ...place(set, block, picture, fonts, sizePx), isShrunk: sizePx < askedPx };
    // Smaller letters need fewer lines: the root of the ratio is nearer than the ratio.
    sizePx = Math.max(LEAST_SIZE_PX, sizePx * (tries < 3 ? Math.sqrt(roomPx / heightPx) : roomPx / heightPx));
  }
}

interface SetLine extends Itemised {
  readonly spans: readonly TextSpan[];
  readonly glyphs: readonly ShapedRun[];
  readonly widthPx: number;
}

interface ShapedRun {
  readonly run: Run;
  readonly glyphs: readonly {
    readonly id: number;
    readonly dx: number;
    readonly dy: number;
    readonly word: number;
    readonly isSpace: boolean;
  }[];
  /** Of each glyph, to the next one. */
  readonly advances: readonly number[];
  readonly widthPx: number;
}

interface SetBlock {
  readonly lines: readonly SetLine[];
  readonly wanted: readonly FontFile[];
  readonly lacking: readonly Lacking[];
}

/** The lines as they are shown, and broken once more where they are wider than the look lets them be. */
function setLines(block: Block, picture: PictureSize, fonts: Fonts, sizePx: number): SetBlock {
  const { look, language } = block;
  const widestPx =
    (picture.width * Math.min(look.widestPercent, 100 - 2 * look.marginPercent)) / 100 - 2 * paddingOf(look, sizePx).x;
  const set = (spans: readonly TextSpan[]): SetLine => setLine(spans, { language, fonts, sizePx });
  const lines = block.lines.flatMap((spans): readonly SetLine[] => {
    const whole = set(spans);
    return whole.widthPx <= widestPx ? [whole] : breakLine(spans, widestPx, set).map(set);
  });
  const wanted = new Map(lines.flatMap((line) => line.wanted.map((file) => [fontKey(file), file] as const)));
  return { lines, wanted: [...wanted.values()], lacking: lines.flatMap((line) => line.lacking) };
}

const graphemes = new Intl.Segmenter(undefined, { granularity: 'grapheme' });

/** Breaks a line between words, and a word that is too wide by itself between its letters; nearly equal in width. */
function breakLine(
  spans: readonly TextSpan[],
  widestPx: number,
  set: (spans: readonly TextSpan[]) => SetLine
): readonly (readonly TextSpan[])[] {
  const pieces: { readonly spans: readonly TextSpan[]; readonly widthPx: number }[] = [];
  for (const number of new Set(spans.map(({ word }) => word))) {
    const word = spans.filter((span) => span.word === number);
    const { widthPx } = set(word);
    if (widthPx <= widestPx) pieces.push({ spans: word, widthPx });
    else
      for (const span of word)
        for (const { segment } of graphemes.segment(span.text)) {
          const letter = [{ ...span, text: segment }];
          pieces.push({ spans: letter, widthPx: set(letter).widthPx });
        }
  }
  const totalPx = pieces.reduce((sum, piece) => sum + piece.widthPx, 0);
  const aimPx = Math.min(widestPx, (totalPx / Math.max(1, Math.ceil(totalPx / widestPx))) * 1.08);
  const lines: TextSpan[][] = [];
  let filledPx = Number.POSITIVE_INFINITY;
  for (const piece of pieces) {
    if (filledPx + piece.widthPx > aimPx) {
      lines.push([]);
      filledPx = 0;
    }
    lines.at(-1)!.push(...piece.spans);
    filledPx += piece.widthPx;
  }
  return lines.map(([first, ...rest]) => [{ ...first!, text: first!.text.trimStart() }, ...rest]);
}

interface Setting {
  readonly language: string;
  readonly fonts: Fonts;
  readonly sizePx: number;
}

function setLine(spans: readonly TextSpan[], { language, fonts, sizePx }: Setting): SetLine {
  const items = itemise(spans, language, fonts);
  const wordAt = wordsByOffset(spans);
  const glyphs = inVisualOrder(items.runs).map((run): ShapedRun => {
    const scale = sizePx / run.font.unitsPerEm;
    const spacingPx = run.style.letterSpacingEm * sizePx;
    const shaped = run.font.shape({
      text: items.text,
      from: run.from,
      to: run.to,
      isRightToLeft: run.level % 2 === 1,
      script: run.script === 'Zzzz' ? null : run.script,
      language
    });
    // Marks of no width stay on their letter.
    const advances = shaped.map(({ xAdvance }) => (xAdvance === 0 ? 0 : xAdvance * scale + spacingPx));
    return {
      run,
      advances,
      widthPx: advances.reduce((sum, advance) => sum + advance, 0),
      glyphs: shaped.map(({ id, cluster, xOffset, yOffset }) => ({
        id,
        dx: xOffset * scale,
        dy: -yOffset * scale,
        word: wordAt[cluster]!,
        isSpace: items.text[cluster] === ' '
      }))
    };
  });
  return { ...items, spans, glyphs, widthPx: glyphs.reduce((sum, run) => sum + run.widthPx, 0) };
}

/** The word of each UTF-16 unit of the line; the space between two belongs to the one before it. */
function wordsByOffset(spans: readonly TextSpan[]): readonly number[] {
  const words: number[] = [];
  let before = spans[0]?.word ?? 0;
  for (const { text, word } of spans) {
    for (let at = 0; at < text.length; at++) words.push(at === 0 && text[0] === ' ' ? before : word);
    before = word;
  }
  return words;
}

/** Rule L2 of UAX #9: from the highest level down, each stretch of that level or above is turned round. */
function inVisualOrder(runs: readonly Run[]): readonly Run[] {
  const order = [...runs];
  const highest = Math.max(0, ...runs.map(({ level }) => level));
  for (let level = highest; level > 0; level--)
    for (let from = 0; from < order.length; from++) {
      if (order[from]!.level < level) continue;
      let to = from;
      while (to < order.length && order[to]!.level >= level) to++;
      order.splice(from, to - from, ...order.slice(from, to).reverse());
      from = to;
    }
  return order;
}

const paddingOf = ({ box }: Look, sizePx: number): { readonly x: number; readonly y: number } =>
  box.kind === 'none' ? { x: 0, y: 0 } : { x: box.paddingEm * sizePx, y: (box.paddingEm * sizePx) / 2 };

const blockHeight = (lineCount: number, look: Look, sizePx: number): number =>
  (1 + (lineCount - 1) * look.lineSpacing) * Math.max(1, MEAN_HEIGHT) * sizePx + 2 * paddingOf(look, sizePx).y;

/** Of a line's letters with what hangs below, as a multiple of their size: near enough to tell whether lines fit. */
const MEAN_HEIGHT = 1.25;

/** Thickness of a line under words, and how far below the base line it lies, in em. */
const UNDERLINE = { thickEm: 0.06, belowEm: 0.12 };

/** A touch of ink beyond what is measured: letters may reach over their own advance. */
const OVERHANG_EM = 0.35;

function place(
  set: SetBlock,
  { look }: Block,
  picture: PictureSize,
  fonts: Fonts,
  sizePx: number
): Omit<Composed, 'isShrunk'> {
  const face = findFace(fonts.faces, look.face);
  const font = fonts.find(fontKey(nearestFile(face, look.weight, look.italic)));
  const ascentPx = ((font?.ascender ?? 1) / (font?.unitsPerEm ?? 1)) * sizePx;
  const descentPx = ((font?.descender ?? 0.25) / (font?.unitsPerEm ?? 1)) * sizePx;
  const leadPx = look.lineSpacing * sizePx;
  const padding = paddingOf(look, sizePx);
  const widthPx = Math.max(0, ...set.lines.map((line) => line.widthPx));
  const lineCount = set.lines.length;
  const heightPx = lineCount === 0 ? 0 : ascentPx + descentPx + (lineCount - 1) * leadPx;
  const block = placeBlock(
    { width: widthPx + 2 * padding.x, height: heightPx + 2 * padding.y },
    look.placement,
    picture,
    look.marginPercent
  );
  const rects: Rect[] = [];
  const runs: GlyphRun[] = [];
  const words: WordSpan[] = [];
  const isFromRight = (set.lines[0]?.baseLevel ?? 0) % 2 === 1;
  for (const [at, line] of set.lines.entries()) {
    const spare = widthPx - line.widthPx;
    const isAtLeft = (look.align === 'start') !== isFromRight;
    const indent = look.align === 'centre' ? spare / 2 : isAtLeft ? 0 : spare;
    const left = block.x + padding.x + indent;
    const top = block.y + padding.y + at * leadPx;
    rects.push({
      x: left - padding.x,
      y: top - padding.y,
      width: line.widthPx + 2 * padding.x,
      height: ascentPx + descentPx + 2 * padding.y
    });
    let x = left;
    for (const { run, glyphs, advances } of line.glyphs) {
      const placed: PlacedGlyph[] = [];
      const spans: WordSpan[] = [];
      for (const [index, glyph] of glyphs.entries()) {
        placed.push({ id: glyph.id, x: x + glyph.dx, y: top + ascentPx + glyph.dy, word: glyph.word });
        const span = spans.at(-1);
        // The space behind a word is no part of where it lies.
        if (!glyph.isSpace) {
          const width = advances[index]!;
          if (span?.word === glyph.word) spans[spans.length - 1] = { ...span, width: x + width - span.x };
          else spans.push({ word: glyph.word, x, y: top, width, height: ascentPx + descentPx });
        }
        x += advances[index]!;
      }
      words.push(...spans);
      runs.push({
        font: run.font,
        sizePx,
        style: run.style,
        isSlanted: run.isSlanted,
        glyphs: placed,
        underlines: run.style.underline
          ? spans.map((span) => ({
              word: span.word,
              x: span.x,
              y: top + ascentPx + UNDERLINE.belowEm * sizePx,
              width: span.width,
              height: UNDERLINE.thickEm * sizePx
            }))
          : []
      });
    }
  }
  const reachPx = reachOf(runs, sizePx);
  return {
    wanted: set.wanted,
    lacking: set.lacking,
    drawing: {
      width: picture.width,
      height: picture.height,
      sizePx,
      box:
        look.box.kind === 'none' || look.box.opacity === 0 || lineCount === 0
          ? null
          : {
              color: look.box.color,
              opacity: look.box.opacity,
              rects: look.box.kind === 'block' ? [block] : rects,
              radiusPx: look.box.roundingEm * sizePx
            },
      runs,
      words,
      block,
      ink: grow(block, reachPx),
      look
    }
  };
}

/** How far beyond the block outlines, shadows and overhanging letters may reach. */
function reachOf(runs: readonly GlyphRun[], sizePx: number): number {
  const most = runs.map(({ style: { outline, shadow } }) => {
    const shade = shadow === null ? 0 : Math.max(Math.abs(shadow.xEm), Math.abs(shadow.yEm)) + 2 * shadow.blurEm;
    return (outline?.widthEm ?? 0) + shade;
  });
  return (Math.max(0, ...most) + OVERHANG_EM) * sizePx + 2;
}

export const grow = ({ x, y, width, height }: Rect, by: number): Rect => ({
  x: x - by,
  y: y - by,
  width: width + 2 * by,
  height: height + 2 * by
});

/** Where a block stands: at one of nine points within the margin, or with its middle on a spot, always on the picture. */
export function placeBlock(
  size: { readonly width: number; readonly height: number },
  placement: Placement,
  picture: PictureSize,
  marginPercent: number
): Rect {
  const margin = marginPercent / 100;
  const spare = { x: picture.width - size.width, y: picture.height - size.height };
  if (typeof placement !== 'string') {
    const within = (value: number, most: number): number => (most <= 0 ? most / 2 : Math.min(most, Math.max(0, value)));
    return {
      x: within((placement.xPercent / 100) * picture.width - size.width / 2, spare.x),
      y: within((placement.yPercent / 100) * picture.height - size.height / 2, spare.y),
      ...size
    };
  }
  const [down, across] = placement.split(' ') as ['top' | 'middle' | 'bottom', 'left' | 'centre' | 'right'];
  const at = (place: 'near' | 'mid' | 'far', spareLength: number, whole: number): number =>
    spareLength <= 0 || place === 'mid'
      ? spareLength / 2
      : place === 'near'
        ? Math.min(margin * whole, spareLength)
        : Math.max(0, spareLength - margin * whole);
  return {
    x: at(({ left: 'near', centre: 'mid', right: 'far' } as const)[across], spare.x, picture.width),
    y: at(({ top: 'near', middle: 'mid', bottom: 'far' } as const)[down], spare.y, picture.height),
    ...size
  };
}
