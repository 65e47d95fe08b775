/** Lays a block out on a picture: where each glyph, box and word lies, in pixels from the picture's top left. */
import { fontKeyOf, type FontFile } from '../faces';
import type { Look } from '../track';
import type { Block, SpanStyle } from './block';
import type { Font } from './font';
import type { Fonts, Lacking } from './itemise';
import { paddingOf, placeBlock, type PictureSize, type Rect } from './place-block';
import { setLines, type SetBlock } from './set-lines';

export type { Fonts } from './itemise';

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

const blockHeight = (lineCount: number, look: Look, sizePx: number): number =>
  (MEAN_HEIGHT + (lineCount - 1) * look.lineSpacing) * sizePx + 2 * paddingOf(look, sizePx).y;

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
  const font = fonts.find(fontKeyOf(fonts.faces, look));
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
