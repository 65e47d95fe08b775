/** Heard words as they are written: sentences, capitals, names and figures. */
import type { Span } from '../time';
import { capitalise, capitaliseName } from './names';
import { figureAt, numberWord } from './figures';
import { punctuate, type SpokenWord } from './sentences';

export interface WritingOptions {
  /** Numbers, years, times and money as figures. */
  readonly figures: boolean;
  /** Words that always have a capital, in small letters. */
  readonly names: ReadonlySet<string>;
}

/** A written word, and which of the heard ones it stands for. */
export interface WrittenWord extends Span {
  readonly text: string;
  readonly from: number;
  readonly to: number;
}

/** In words. */
const LONGEST_FIGURE = 16;

/** English, as it is heard by an engine that says neither marks nor capitals. Every heard word is in one written word. */
export function writeEnglish(words: readonly SpokenWord[], options: WritingOptions): readonly WrittenWord[] {
  const marks = punctuate(words);
  const bare = words.map((word) => numberWord(word.text));
  const written: WrittenWord[] = [];
  let startsSentence = true;
  let stretchEnd = 0;
  for (let at = 0; at < words.length;) {
    while (stretchEnd <= at || marks[stretchEnd - 1] === '') stretchEnd++;
    // A figure begins no sentence, and none goes on over a mark.
    const from = Math.max(0, at - 1);
    const nearby = bare.slice(from, Math.min(stretchEnd, at + LONGEST_FIGURE));
    const figure = options.figures && !startsSentence ? figureAt(nearby, at - from) : null;
    const to: number = figure === null ? at + 1 : from + figure.end;
    const mark = marks[to - 1]!;
    const texts = figure === null ? [textOf(words[at]!.text, startsSentence, options.names)] : figure.text.split(' ');
    // "3 million" is two words; each takes its share of those that were heard.
    texts.forEach((text, index) => {
      const from = at + Math.floor(((to - at) * index) / texts.length);
      const end = at + Math.floor(((to - at) * (index + 1)) / texts.length);
      const isLast = index === texts.length - 1;
      const closed = mark === '.' && text.endsWith('.') ? text : text + mark;
      written.push({
        text: isLast ? closed : text,
        startMs: words[from]!.startMs,
        endMs: words[end - 1]!.endMs,
        from,
        to: end
      });
    });
    startsSentence = mark === '.' || mark === '?';
    at = to;
  }
  return written;
}

function textOf(heard: string, startsSentence: boolean, names: ReadonlySet<string>): string {
  const text = capitaliseName(heard, names);
  return startsSentence ? capitalise(text) : text;
}

/** A bare reading of a passage as it stands in place of the old text: its first capital and its last mark stay. */
export function writeInPlace(reading: string, old: readonly string[]): string {
  const [first = '', last = ''] = [old[0], old.at(-1)];
  const opening = /^["'“‘(¿¡[]+/.exec(first)?.[0] ?? '';
  const closing = /[.,;:!?…)\]"'”’–-]+$/.exec(last)?.[0] ?? '';
  const isCapital = /^\P{L}*\p{Lu}\P{Lu}*$/u.test(first) && !/^\P{L}*I\b/u.test(first);
  return opening + (isCapital ? capitalise(reading) : reading) + closing;
}
