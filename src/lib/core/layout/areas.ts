/** Where text lies on a picture: of a drawing exactly, of a cue that is not laid out by the widths of its letters alone. */
import type { TextArea } from '../light';
import { hasOutline, type Look } from '../track';
import type { Block, SpanStyle } from './block';
import type { Drawing } from './compose';
import { placeBlock, type PictureSize } from './place-block';
import type { Font } from './font';

const colorsOf = ({ color, outline }: Pick<SpanStyle, 'color' | 'outline'>, { box }: Look): TextArea['colors'] => ({
  color,
  outline: hasOutline({ outline }) ? outline : null,
  box
});

/** A stretch a word, in shares of the picture. */
export function areasOfDrawing({ words, runs, width, height, look }: Drawing): readonly TextArea[] {
  const styles = new Map(runs.flatMap((run) => run.glyphs.map(({ word }) => [word, run.style] as const)));
  const lines = [...new Set(words.map(({ y }) => y))].sort((a, b) => a - b);
  return words.map((word) => ({
    x: word.x / width,
    y: word.y / height,
    width: word.width / width,
    height: word.height / height,
    line: lines.indexOf(word.y),
    colors: colorsOf(styles.get(word.word) ?? look, look)
  }));
}

/** Widths of single letters in em, of one font; those it does not have are as wide as most. */
export type Advances = Readonly<Record<string, number>>;
const USUAL_ADVANCE = 0.55;
/** Of letters with what hangs below them, in em. */
const LETTER_HEIGHT = 1.25;

/** The widths of the letters that occur in the texts. */
export function measureAdvances(font: Font, texts: Iterable<string>): Advances {
  const advances: Record<string, number> = {};
  for (const text of texts)
    for (const letter of text) {
      if (advances[letter] !== undefined || !font.covers(letter.codePointAt(0)!)) continue;
      const [glyph] = font.shape({
        ...{ text: letter, from: 0, to: letter.length, isRightToLeft: false, script: null },
        language: 'en'
      });
      advances[letter] = (glyph?.xAdvance ?? 0) / font.unitsPerEm;
    }
  return advances;
}

/** A stretch a line; near enough for the light behind it, and a hundred times faster than laying it out. */
export function roughAreas(
  block: Block,
  picture: PictureSize,
  advances: Advances,
  look = block.look
): readonly TextArea[] {
  const sizePx = (picture.height * look.sizePercent) / 100;
  const lines = block.lines.map((spans) => {
    let em = 0;
    for (const { text } of spans)
      for (const letter of text) em += (advances[letter] ?? USUAL_ADVANCE) + look.letterSpacingEm;
    return {
      widthPx: Math.min(em * sizePx, (picture.width * look.widestPercent) / 100),
      style: spans[0]?.style ?? look
    };
  });
  if (lines.length === 0) return [];
  const paddingX = look.box.kind === 'none' ? 0 : look.box.paddingEm * sizePx;
  const widest = Math.max(...lines.map(({ widthPx }) => widthPx));
  const inner = { width: widest, height: (LETTER_HEIGHT + (lines.length - 1) * look.lineSpacing) * sizePx };
  const outer = placeBlock(
    { width: inner.width + 2 * paddingX, height: inner.height + paddingX },
    look.placement,
    picture,
    look.marginPercent
  );
  return lines.map(({ widthPx, style }, line) => {
    const spare = widest - widthPx;
    const indent = look.align === 'centre' ? spare / 2 : look.align === 'start' ? 0 : spare;
    return {
      x: (outer.x + paddingX + indent) / picture.width,
      y: (outer.y + paddingX / 2 + line * look.lineSpacing * sizePx) / picture.height,
      width: widthPx / picture.width,
      height: (LETTER_HEIGHT * sizePx) / picture.height,
      line,
      // What a mending tries is tried on all of it.
      colors: look === block.look ? colorsOf({ ...look, ...style }, look) : colorsOf(look, look)
    };
  });
}
