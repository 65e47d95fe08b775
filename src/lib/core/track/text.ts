/** The text of a track: words to lines with their small markup, and back to words. */
import { type Span, toSpan } from '../time';
import { lookUp } from './lookup';
import { isSoundText, type Cue, type Mark, type MarkKind, type Track, type Word } from './track';

/** Grapheme clusters: what a reader takes for one letter. */
export const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });

/**
 * Texts of one cluster a unit (Unicode Standard Annex 29): Latin, Greek and Cyrillic without combining signs, the usual
 * punctuation, kana and Chinese characters. Most captions are that, and the segmenter is slow.
 */
const ONE_UNIT_CLUSTERS =
  /^[\x20-\x7e\u00a0-\u02ff\u0370-\u0482\u048a-\u052f\u2010-\u2027\u2030-\u205e\u20a0-\u20bf\u3001-\u3029\u3041-\u3096\u30a1-\u30fa\u4e00-\u9fff]*$/;

/** What a reader takes for letters, in order, each with its index in units. */
export function* clustersOf(text: string): Generator<{ readonly segment: string; readonly index: number }> {
  if (!ONE_UNIT_CLUSTERS.test(text)) yield* graphemes.segment(text);
  else for (let index = 0; index < text.length; index++) yield { segment: text[index]!, index };
}

/** Length as a reader sees it: grapheme clusters. */
export function countCharacters(text: string): number {
  if (ONE_UNIT_CLUSTERS.test(text)) return text.length;
  let count = 0;
  for (const _ of graphemes.segment(text)) count++;
  return count;
}

/** Signs as wide as a Chinese character (Unicode Standard Annex 11, East Asian Width W and F). */
const FULL_WIDTH =
  /[\p{sc=Han}\p{sc=Hiragana}\p{sc=Katakana}\p{sc=Hangul}\u3000-\u303f\u30fb-\u30fe\uff01-\uff60\uffe0-\uffe6]/u;

/**
 * Length of a line as the rules limit it: grapheme clusters. In Chinese, Japanese and Korean they count full-width
 * signs, and two of half the width (Latin letters, digits) are one.
 */
export function lineLength(text: string, language: string): number {
  if (!/^(?:zh|ja|ko|yue|cmn)\b/i.test(language)) return countCharacters(text);
  let halves = 0;
  for (const { segment } of graphemes.segment(text)) halves += FULL_WIDTH.test(segment) ? 2 : 1;
  return Math.ceil(halves / 2);
}

/** The words of a cue that are shown, in order. */
export function shownWords(track: Track, cue: Cue): readonly Word[] {
  if (cue.wordIds.length === 0) return [];
  const from = lookUp(track).wordAt.get(cue.wordIds[0]!)!;
  return track.words.slice(from, from + cue.wordIds.length).filter((word) => word.shown);
}

/** `shownWords` of every cue of a track, in one pass without a search: cues hold their words in the order of the list. */
export function shownWordsOfAll(track: Track): readonly (readonly Word[])[] {
  let at = 0;
  return track.cues.map((cue) => {
    const [first] = cue.wordIds;
    if (first === undefined) return [];
    while (track.words[at]!.id !== first) at++;
    const words = track.words.slice(at, (at += cue.wordIds.length));
    return words.every((word) => word.shown) ? words : words.filter((word) => word.shown);
  });
}

/** Words joined as plain text. */
export function joinWords(words: readonly Word[]): string {
  let text = '';
  for (const word of words) text += text !== '' && word.spaceBefore ? ` ${word.text}` : word.text;
  return text;
}

/**
 * Lines as one text: with a space between them, but for scripts that set none between words.
 */
export const joinLines = (lines: readonly string[]): string =>
  lines.reduce(
    (text, line) => (text === '' || line === '' || isUnspacedSeam(text, line) ? text + line : `${text} ${line}`),
    ''
  );

/** Words as plain text, of which some may have stood on lines of their own: with a space where their script sets one. */
export const joinTokens = (tokens: readonly Pick<Word, 'text' | 'spaceBefore'>[]): string =>
  tokens.reduce((text, token) => (token.spaceBefore ? joinLines([text, token.text]) : text + token.text), '');

const isUnspacedSeam = (before: string, after: string): boolean =>
  UNSPACED_SIGN.test(before.at(-1)!) && UNSPACED_SIGN.test(after[0]!);

/** Text in which no sign is read as markup. */
export const escapeMarkup = (text: string): string =>
  /[&<>]/.test(text) ? text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;') : text;

const KINDS: readonly MarkKind[] = ['b', 'i', 'u'];

/** One line of words with its markup, well nested, marks that meet across a space joined. */
export function formatMarkedLine(words: readonly Word[]): string {
  if (words.every((word) => word.marks.length === 0)) return escapeMarkup(joinWords(words));
  // Marks as they lie on each unit of the line; the space between two words has what both sides have.
  let text = '';
  const marked: number[] = [];
  words.forEach((word, at) => {
    const units = new Array<number>(word.text.length).fill(0);
    for (const mark of word.marks) {
      for (let unit = mark.from; unit < Math.min(mark.to, units.length); unit++)
        units[unit]! |= 1 << KINDS.indexOf(mark.kind);
    }
    if (at > 0 && word.spaceBefore) {
      text += ' ';
      marked.push((marked.at(-1) ?? 0) & (units[0] ?? 0));
    }
    text += word.text;
    marked.push(...units);
  });
  let out = '';
  let open: number[] = [];
  let from = 0;
  for (let unit = 0; unit <= text.length; unit++) {
    const now = marked[unit] ?? 0;
    const before = unit === 0 ? 0 : (marked[unit - 1] ?? 0);
    if (unit < text.length && now === before) continue;
    out += escapeMarkup(text.slice(from, unit));
    from = unit;
    const keep = open.findIndex((kind) => (now & (1 << kind)) === 0);
    if (keep >= 0) {
      for (const kind of open.slice(keep).reverse()) out += `</${KINDS[kind]}>`;
      open = open.slice(0, keep);
    }
    for (let kind = 0; kind < KINDS.length; kind++) {
      if ((now & (1 << kind)) !== 0 && !open.includes(kind)) {
        out += `<${KINDS[kind]}>`;
        open.push(kind);
      }
    }
  }
  return out;
}

/** A word as it is typed: its text, its marks, and whether a space goes before it. */
export interface Token {
  readonly text: string;
  readonly marks: readonly Mark[];
  readonly spaceBefore: boolean;
}

const MARKUP = /<(\/?)([ibu])>|&(amp|lt|gt);/gi;
const ENTITIES: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>' };

/** Takes the small markup off a line. Tags that do not close hold to the line's end; whatever else looks like a tag is text. */
export function parseMarkedLine(line: string): { readonly text: string; readonly marks: readonly Mark[] } {
  let text = '';
  const marks: Mark[] = [];
  const open: { kind: MarkKind; from: number }[] = [];
  const close = (at: number): void => {
    const [mark] = open.splice(at, 1);
    if (mark !== undefined && mark.from < text.length) marks.push({ ...mark, to: text.length });
  };
  let last = 0;
  for (const found of line.matchAll(MARKUP)) {
    text += line.slice(last, found.index);
    last = found.index + found[0].length;
    const [, slash, tag, entity] = found;
    if (entity !== undefined) text += ENTITIES[entity.toLowerCase()];
    else if (slash === '') open.push({ kind: tag!.toLowerCase() as MarkKind, from: text.length });
    else {
      const at = open.findLastIndex((mark) => mark.kind === tag!.toLowerCase());
      if (at >= 0) close(at);
    }
  }
  text += line.slice(last);
  while (open.length > 0) close(open.length - 1);
  return { text, marks };
}

/** Scripts that set no space between words, and the marks of their sentences. */
const UNSPACED_SIGN =
  /[\p{sc=Han}\p{sc=Hiragana}\p{sc=Katakana}\p{sc=Thai}\p{sc=Lao}\p{sc=Khmer}\p{sc=Myanmar}\u3000-\u303f\u30fb-\u30fe\uff01-\uff0f\uff1a-\uff20]/u;
const UNSPACED = /[\p{sc=Han}\p{sc=Hiragana}\p{sc=Katakana}\p{sc=Thai}\p{sc=Lao}\p{sc=Khmer}\p{sc=Myanmar}]/u;
/** Whether a text, or some of it, is in a script that sets no spaces between its words. */
export const setsNoSpaces = (text: string): boolean => UNSPACED.test(text);

/** White space that parts words. No-break spaces do not: they hold a word together. A full-width space is a sign of its line. */
const BETWEEN = /[\t\n\v\f\r \u0085\u1680\u2000-\u2006\u2008-\u200a\u2028\u2029\u205f]+/u;
const SOUND_OR_WORD = /\[[^[\]\n]*\][.,!?]*|[^\t\n\v\f\r \u0085\u1680\u2000-\u2006\u2008-\u200a\u2028\u2029\u205f]+/gu;

/**
 * Splits a line of text into words at white space, in scripts without spaces by `Intl.Segmenter`. A described sound in
 * square brackets stays one word.
 */
export function tokenize(line: string, language: string): readonly Token[] {
  const { text, marks } = parseMarkedLine(line);
  const tokens: Token[] = [];
  const push = (from: number, to: number, spaceBefore: boolean): void => {
    const own = marks
      .filter((mark) => mark.from < to && mark.to > from)
      .map((mark) => ({ kind: mark.kind, from: Math.max(mark.from, from) - from, to: Math.min(mark.to, to) - from }));
    tokens.push({ text: text.slice(from, to), marks: normalizeMarks(own), spaceBefore });
  };
  for (const found of text.matchAll(SOUND_OR_WORD)) {
    const whole = found[0];
    if (whole.trim() === '') continue;
    const spaceBefore = found.index === 0 || BETWEEN.test(text[found.index - 1]!);
    if (isSoundText(whole)) {
      push(found.index, found.index + whole.length, spaceBefore);
      continue;
    }
    if (!setsNoSpaces(whole)) {
      push(found.index, found.index + whole.length, spaceBefore);
      continue;
    }
    let from = 0;
    let first = true;
    const segments = [...new Intl.Segmenter(language, { granularity: 'word' }).segment(whole)];
    segments.forEach((segment, at) => {
      const next = segments[at + 1];
      // Punctuation stays with the word before it.
      if (next !== undefined && next.isWordLike !== true) return;
      const to = next === undefined ? whole.length : next.index;
      if (!segment.isWordLike && next !== undefined && at === 0) return;
      push(found.index + from, found.index + to, first ? spaceBefore : false);
      first = false;
      from = to;
    });
  }
  return tokens;
}

/** Marks sorted, overlapping ones of a kind joined. */
export function normalizeMarks(marks: readonly Mark[]): readonly Mark[] {
  const out: Mark[] = [];
  const sorted = [...marks].sort((a, b) => (a.kind === b.kind ? a.from - b.from : a.kind < b.kind ? -1 : 1));
  for (const mark of sorted) {
    const last = out.at(-1);
    if (last !== undefined && last.kind === mark.kind && mark.from <= last.to) {
      out[out.length - 1] = { ...last, to: Math.max(last.to, mark.to) };
    } else if (mark.from < mark.to) out.push(mark);
  }
  return out;
}

/** How long a word takes to say, in no unit: letters and digits, with a floor for the shortest words. */
export function spokenLength(text: string): number {
  return 2 + (text.match(/[\p{L}\p{N}]/gu)?.length ?? 0);
}

/** Spreads a span over texts by their spoken length: `[start, end]` of each, whole ms, touching. */
export function shareTime(startMs: number, endMs: number, texts: readonly string[]): Span[] {
  const lengths = texts.map(spokenLength);
  const total = lengths.reduce((sum, length) => sum + length, 0);
  let spoken = 0;
  return lengths.map((length) => {
    const from = startMs + ((endMs - startMs) * spoken) / total;
    spoken += length;
    return toSpan({ startMs: from, endMs: startMs + ((endMs - startMs) * spoken) / total });
  });
}
