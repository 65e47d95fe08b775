/**
 * Paints a drawing on a 2D context: the browser's, or the one that videos are made with. Only outlines and plain fills are
 * used: text calls differ between the two.
 */
import { hasOutline, hasShadow } from '../track';
import type { Drawing, GlyphRun, PlacedGlyph } from './compose';
import type { Rect } from './place-block';
import type { MotionState } from './motion';

export interface PicturePath {
  readonly addPath: (
    path: never,
    transform: { a: number; b: number; c: number; d: number; e: number; f: number }
  ) => void;
  readonly rect: (x: number, y: number, width: number, height: number) => void;
  readonly roundRect: (x: number, y: number, width: number, height: number, radius: number) => void;
}

/** Makes a path, of an SVG path where one is given. */
export type PathMaker<P extends PicturePath = PicturePath> = (svg?: string) => P;

/** What is used of a 2D context. */
export interface PictureContext {
  fillStyle: unknown;
  strokeStyle: unknown;
  lineWidth: number;
  lineJoin: string;
  globalAlpha: number;
  shadowColor: string;
  shadowBlur: number;
  shadowOffsetX: number;
  shadowOffsetY: number;
  fill(path: unknown): void;
  stroke(path: unknown): void;
  save(): void;
  restore(): void;
  translate(x: number, y: number): void;
}

/** A drawing of nothing, or one that cannot be seen. */
export const isVisible = (drawing: Drawing, state: MotionState): boolean =>
  state.alpha > 0 && state.shownWords > 0 && (drawing.runs.length > 0 || drawing.box !== null);

/** Of letters that are made italic. */
const SLANT = Math.tan((11 * Math.PI) / 180);

/** Padding and rounding of the box behind the spoken word, in em. */
const WORD_BOX = { paddingEm: 0.12, roundingEm: 0.15 };

/** Glyphs' paths by font: parsing their outlines takes longer than painting them. */
const paths = new WeakMap<object, Map<number, PicturePath>>();

/** Paints it as it is at a time; its opacity and what it stands on are its caller's: a fade is of all in one. */
export function paintDrawing(
  context: PictureContext,
  newPath: PathMaker,
  drawing: Drawing,
  state: Pick<MotionState, 'shownWords' | 'spokenWord' | 'shiftEm'>
): void {
  context.save();
  context.translate(0, state.shiftEm * drawing.sizePx);
  context.lineJoin = 'round';
  const { box } = drawing;
  if (box !== null) {
    const path = newPath();
    for (const rect of box.rects) addRect(path, rect, box.radiusPx);
    context.globalAlpha = box.opacity;
    context.fillStyle = box.color;
    context.fill(path);
    context.globalAlpha = 1;
  }
  const { follow, followColor } = drawing.look.motion;
  if (follow === 'box' && state.spokenWord !== null) paintWordBox(context, newPath, drawing, state.spokenWord);
  const runs = drawing.runs.map((run) => ({ run, seen: seenOf(run, state.shownWords) }));
  // All outlines lie below all letters: none cuts into its neighbour.
  for (const { run, seen } of runs) paintBelow(context, newPath, run, seen);
  for (const { run, seen } of runs) {
    const isSpoken = ({ word }: { readonly word: number }): boolean => follow === 'color' && word === state.spokenWord;
    paintLetters(
      context,
      newPath,
      run,
      seen.filter((glyph) => !isSpoken(glyph)),
      run.style.color
    );
    paintLetters(context, newPath, run, seen.filter(isSpoken), followColor);
  }
  context.restore();
}

const seenOf = (run: GlyphRun, shownWords: number): readonly PlacedGlyph[] =>
  run.glyphs.at(-1) === undefined || Math.max(...run.glyphs.map(({ word }) => word)) < shownWords
    ? run.glyphs
    : run.glyphs.filter(({ word }) => word < shownWords);

function addRect(path: PicturePath, { x, y, width, height }: Rect, radiusPx: number): void {
  if (radiusPx > 0) path.roundRect(x, y, width, height, Math.min(radiusPx, width / 2, height / 2));
  else path.rect(x, y, width, height);
}

function paintWordBox(context: PictureContext, newPath: PathMaker, drawing: Drawing, word: number): void {
  const path = newPath();
  const padding = WORD_BOX.paddingEm * drawing.sizePx;
  for (const { x, y, width, height, word: of } of drawing.words)
    if (of === word)
      addRect(path, { x: x - padding, y, width: width + 2 * padding, height }, WORD_BOX.roundingEm * drawing.sizePx);
  context.fillStyle = drawing.look.motion.followColor;
  context.fill(path);
}

/** Shadow and outline of letters. */
function paintBelow(context: PictureContext, newPath: PathMaker, run: GlyphRun, glyphs: readonly PlacedGlyph[]): void {
  const { outline, shadow, color } = run.style;
  const [isOutlined, isShaded] = [hasOutline(run.style), hasShadow(run.style)];
  if (glyphs.length === 0 || (!isOutlined && !isShaded)) return;
  const path = pathOf(newPath, run, glyphs);
  if (isShaded && shadow !== null) {
    context.shadowColor = shadow.color;
    context.shadowOffsetX = shadow.xEm * run.sizePx;
    context.shadowOffsetY = shadow.yEm * run.sizePx;
    context.shadowBlur = shadow.blurEm * run.sizePx;
  }
  if (isOutlined && outline !== null) {
    context.strokeStyle = outline.color;
    // Half of a stroke lies within the letters, which are painted over it.
    context.lineWidth = 2 * outline.widthEm * run.sizePx;
    context.stroke(path);
  } else {
    context.fillStyle = color;
    context.fill(path);
  }
  context.shadowColor = 'transparent';
  context.shadowBlur = 0;
  context.shadowOffsetX = 0;
  context.shadowOffsetY = 0;
}

function paintLetters(
  context: PictureContext,
  newPath: PathMaker,
  run: GlyphRun,
  glyphs: readonly PlacedGlyph[],
  color: string
): void {
  if (glyphs.length === 0) return;
  context.fillStyle = color;
  context.fill(pathOf(newPath, run, glyphs));
}

function pathOf(newPath: PathMaker, run: GlyphRun, glyphs: readonly PlacedGlyph[]): PicturePath {
  const path = newPath();
  const scale = run.sizePx / run.font.unitsPerEm;
  const known = paths.get(run.font) ?? new Map<number, PicturePath>();
  paths.set(run.font, known);
  const slant = run.isSlanted ? SLANT * scale : 0;
  for (const { id, x, y } of glyphs) {
    const outline = known.get(id) ?? newPath(run.font.outline(id));
    known.set(id, outline);
    path.addPath(outline as never, { a: scale, b: 0, c: slant, d: -scale, e: x, f: y });
  }
  const words = new Set(glyphs.map(({ word }) => word));
  for (const { x, y, width, height, word } of run.underlines) if (words.has(word)) path.rect(x, y, width, height);
  return path;
}
