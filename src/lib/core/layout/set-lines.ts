/** Sets lines of text: shapes their runs, and breaks once more what is wider than the look lets it be. */
import { fontKey, type FontFile } from '../faces';
import { graphemes } from '../track';
import type { Block, TextSpan } from './block';
import { itemise, type Direction, type Fonts, type Itemised, type Lacking, type Run } from './itemise';
import { paddingOf, type PictureSize } from './place-block';

export interface SetLine extends Itemised {
  readonly spans: readonly TextSpan[];
  readonly glyphs: readonly ShapedRun[];
  readonly widthPx: number;
}

export interface ShapedRun {
  readonly run: Run;
  readonly glyphs: readonly {
    readonly id: number;
    /** Where in the line's text the characters begin that it draws, in UTF-16 units. */
    readonly cluster: number;
    readonly dx: number;
    readonly dy: number;
    readonly word: number;
    readonly isSpace: boolean;
  }[];
  /** Of each glyph, to the next one. */
  readonly advances: readonly number[];
  readonly widthPx: number;
}

export interface SetBlock {
  readonly lines: readonly SetLine[];
  readonly wanted: readonly FontFile[];
  readonly lacking: readonly Lacking[];
}

/** The lines as they are shown, and broken once more where they are wider than the look lets them be. */
export function setLines(block: Block, picture: PictureSize, fonts: Fonts, sizePx: number): SetBlock {
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
  readonly direction?: Direction;
  readonly fonts: Fonts;
  readonly sizePx: number;
}

export function setLine(spans: readonly TextSpan[], { language, direction, fonts, sizePx }: Setting): SetLine {
  const items = itemise(spans, language, fonts, direction);
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
        cluster,
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
