/** Text of any script set in lines of one width, for pages: as many words on a line as go there. */
import LineBreaker from 'linebreak';
import { graphemes } from '../track';
import type { SpanStyle } from './block';
import { runsFromTheRight, type Direction, type Fonts } from './itemise';
import { setLine, type SetLine } from './set-lines';

/** What letters of a page look like. */
export interface Lettering {
  readonly face: string;
  readonly weight: number;
  readonly italic: boolean;
}

const PLAIN = { underline: false, letterSpacingEm: 0, color: '#000000', outline: null, shadow: null } as const;
const styles = new Map<string, SpanStyle>();
/** One object a lettering: runs go on while the style is the same one. */
function styleOf({ face, weight, italic }: Lettering): SpanStyle {
  const key = `${face} ${weight} ${italic}`;
  const style = styles.get(key) ?? { ...PLAIN, face, weight, italic };
  styles.set(key, style);
  return style;
}

/** Scripts that UAX #14 leaves to a dictionary: their words follow each other without a sign between them. */
const UNSPACED = /[\p{Script=Thai}\p{Script=Lao}\p{Script=Khmer}\p{Script=Myanmar}]/u;

/** What may not be parted, with the spaces behind it (UAX #14; words of unspaced scripts by the engine's dictionary). */
function piecesOf(text: string, language: string): readonly string[] {
  const pieces: string[] = [];
  const breaker = new LineBreaker(text);
  let from = 0;
  for (let next = breaker.nextBreak(); next !== null; next = breaker.nextBreak()) {
    const piece = text.slice(from, next.position);
    from = next.position;
    if (!UNSPACED.test(piece)) pieces.push(piece);
    else
      for (const { segment, isWordLike } of new Intl.Segmenter(language, { granularity: 'word' }).segment(piece)) {
        // Signs and spaces stay with what stands before them.
        if (isWordLike === true || pieces.length === 0) pieces.push(segment);
        else pieces[pieces.length - 1] += segment;
      }
  }
  return pieces;
}

export interface ParagraphSetting {
  readonly lettering: Lettering;
  /** BCP 47. */
  readonly language: string;
  /** Of the letters, and of a line: in one unit, whichever it is. */
  readonly sizePx: number;
  readonly widthPx: number;
}

/** Sets paragraph after paragraph; the width of a word is measured once. */
export class Typesetter {
  readonly #fonts: Fonts;
  /** In em, by style, language and word. */
  readonly #widthsEm = new Map<string, number>();

  constructor(fonts: Fonts) {
    this.#fonts = fonts;
  }

  /** Lines in order, none for text without a letter. A word that is wider than a line is parted between its letters. */
  set(text: string, { lettering, language, sizePx, widthPx }: ParagraphSetting): readonly SetLine[] {
    const style = styleOf(lettering);
    const whole = text.replaceAll(/[^\S\u00a0\u202f]+/gu, ' ').trim();
    if (whole === '') return [];
    const direction: Direction = runsFromTheRight(whole, language) ? 'rtl' : 'ltr';
    const set = (line: string, size: number): SetLine =>
      setLine([{ text: line, word: 0, style }], { language, direction, fonts: this.#fonts, sizePx: size });
    const widthOf = (piece: string): number => {
      const key = `${lettering.face} ${lettering.weight} ${lettering.italic} ${language} ${piece}`;
      const known = this.#widthsEm.get(key) ?? set(piece, 1).widthPx;
      if (this.#widthsEm.size < MOST_MEASURED) this.#widthsEm.set(key, known);
      return known * sizePx;
    };
    const spacePx = widthOf(' ');
    const lines: string[] = [];
    let line = '';
    let filledPx = 0;
    const add = (piece: string, bare: string, barePx: number): void => {
      if (line !== '' && filledPx + barePx > widthPx) {
        lines.push(line);
        line = '';
        filledPx = 0;
      }
      line += piece;
      filledPx += barePx + (piece.length - bare.length) * spacePx;
    };
    for (const piece of piecesOf(whole, language)) {
      const bare = piece.trimEnd();
      const barePx = widthOf(bare);
      if (barePx <= widthPx) add(piece, bare, barePx);
      else for (const { segment } of graphemes.segment(piece)) add(segment, segment, widthOf(segment));
    }
    return [...lines, line].map((one) => set(one.trim(), sizePx));
  }
}

/** Words of two hours in several letterings. */
const MOST_MEASURED = 100_000;
