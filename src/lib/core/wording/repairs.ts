/** What a captioner puts right most often, each as the edits that one key does. */
import type { WordId } from '../id';
import type { ClientCommand } from '../commands';
import { primarySubtag, type Track, type Word } from '../track';
import { capitalise } from './names';

export const REPAIRS = [
  'capital',
  'allCapitals',
  'sentenceEnd',
  'comma',
  'colon',
  'semicolon',
  'question',
  'exclamation',
  'dash',
  'quotes',
  'brackets',
  'noMark',
  'leaveOut',
  'remove',
  'join',
  'paragraph'
] as const;
export type Repair = (typeof REPAIRS)[number];

const MARKS = {
  sentenceEnd: '.',
  comma: ',',
  colon: ':',
  semicolon: ';',
  question: '?',
  exclamation: '!',
  dash: '—'
} as const;

/** Opening and closing quotation marks by language (CLDR, `delimiters`); English ones elsewhere. */
const QUOTES: Readonly<Record<string, readonly [string, string]>> = {
  de: ['„', '“'],
  fr: ['«\u00a0', '\u00a0»'],
  es: ['«', '»'],
  pt: ['“', '”']
};
const ENGLISH_QUOTES = ['“', '”'] as const;

const ENDS_SENTENCE = /[.?!…]["”’»)\]]*$/;
/** A word's mark, without the quotation marks and brackets that close behind or before it. */
const PARTS = /^([^\p{L}\p{N}]*)(.*?)([)\]"”’»]*)([.,;:?!…—–-]*)([)\]"”’»]*)$/su;

interface Parts {
  readonly opening: string;
  readonly core: string;
  readonly inner: string;
  readonly mark: string;
  readonly outer: string;
}
function partsOf(text: string): Parts {
  const [, opening = '', core = '', inner = '', mark = '', outer = ''] = PARTS.exec(text)!;
  return { opening, core, inner, mark, outer };
}
const textOf = ({ opening, core, inner, mark, outer }: Parts): string => opening + core + inner + mark + outer;

/** Edits on texts, collected word by word: one written twice is one edit. */
class Writing {
  readonly #track: Track;
  readonly #texts = new Map<WordId, string>();
  /** Speech that is shown, in order. */
  readonly #spoken: readonly Word[];
  constructor(track: Track) {
    this.#track = track;
    this.#spoken = track.words.filter((word) => word.shown && word.kind === 'speech');
  }
  text(word: Word): string {
    return this.#texts.get(word.id) ?? word.text;
  }
  write(word: Word | undefined, text: string): void {
    if (word !== undefined && text !== '') this.#texts.set(word.id, text);
  }
  /** The shown words before and behind a run. */
  around(run: readonly Word[]): { readonly before: Word | undefined; readonly after: Word | undefined } {
    const inRun = new Set(run.map((word) => word.id));
    const first = this.#spoken.findIndex((word) => inRun.has(word.id));
    if (first < 0) return { before: undefined, after: undefined };
    const last = this.#spoken.findLastIndex((word) => inRun.has(word.id));
    return { before: this.#spoken[first - 1], after: this.#spoken[last + 1] };
  }
  edits(): ClientCommand[] {
    const words = new Map(this.#track.words.map((word) => [word.id, word]));
    return [...this.#texts]
      .filter(([id, text]) => words.get(id)!.text !== text)
      .map(([wordId, text]) => ({ type: 'setWordText', wordId, text }));
  }
}

/** What is already as a repair would make it, of words that follow one another. */
export function repairsDone(run: readonly Word[]): ReadonlySet<Repair> {
  const [first, last] = [run[0], run.at(-1)];
  if (first === undefined || last === undefined) return new Set();
  const [start, end] = [partsOf(first.text), partsOf(last.text)];
  const isLarge = run.every(({ text }) => /\p{Lu}.*\p{Lu}/su.test(text) && text === text.toUpperCase());
  const mark = (Object.keys(MARKS) as (keyof typeof MARKS)[]).find((repair) => MARKS[repair] === end.mark);
  const done: Readonly<Partial<Record<Repair, boolean>>> = {
    capital: /^\p{Lu}/u.test(start.core),
    allCapitals: isLarge,
    quotes: /["“„«]/u.test(start.opening),
    brackets: /[([]/.test(start.opening),
    leaveOut: run.every(({ shown }) => !shown),
    paragraph: first.startsParagraph
  };
  const known = REPAIRS.filter((repair) => done[repair] === true);
  return new Set(mark === undefined ? known : [...known, mark]);
}

/** The edits of a repair on words that follow one another; none where there is nothing to do. */
export function repairEdits(track: Track, run: readonly Word[], repair: Repair): readonly ClientCommand[] {
  const [first, last] = [run[0], run.at(-1)];
  if (first === undefined || last === undefined) return [];
  const writing = new Writing(track);
  switch (repair) {
    case 'capital': {
      const isSmall = !/^\p{Lu}/u.test(partsOf(first.text).core);
      for (const word of run) writing.write(word, isSmall ? capitalise(word.text) : smallFirst(word.text));
      return writing.edits();
    }
    case 'allCapitals': {
      const isLarge = run.every((word) => word.text === word.text.toUpperCase());
      for (const word of run) writing.write(word, isLarge ? word.text.toLowerCase() : word.text.toUpperCase());
      return writing.edits();
    }
    case 'quotes':
      return around(writing, run, QUOTES[primarySubtag(track.language)] ?? ENGLISH_QUOTES, 'outer');
    case 'brackets':
      return around(writing, run, ['(', ')'], 'inner');
    case 'noMark': {
      const endsSentence = ENDS_SENTENCE.test(last.text);
      for (const word of run) writing.write(word, partsOf(word.text).core);
      if (endsSentence) followCapital(writing, writing.around(run).after, false);
      return writing.edits();
    }
    case 'leaveOut':
      return run.some((word) => word.shown) ? leaveOut(track, run) : bringBack(track, run);
    case 'remove':
      return [{ type: 'replaceWords', wordIds: run.map((word) => word.id), text: '' }];
    case 'join': {
      const joined = run.length > 1 ? run : [first, writing.around(run).after].filter((word) => word !== undefined);
      if (joined.length < 2) return [];
      const text = joined.map((word, at) => (at < joined.length - 1 ? withoutMark(word.text) : word.text)).join('');
      return [{ type: 'replaceWords', wordIds: joined.map((word) => word.id), text }];
    }
    case 'paragraph':
      return [{ type: 'setParagraph', wordId: first.id, starts: !first.startsParagraph }];
    default:
      return setMark(writing, run, MARKS[repair]);
  }
}

/** A mark behind the run's last word, in place of the one it has; taken off where it has it. The next word's capital follows. */
function setMark(writing: Writing, run: readonly Word[], wanted: string): ClientCommand[] {
  const last = run.at(-1)!;
  const parts = partsOf(last.text);
  const endedBefore = ENDS_SENTENCE.test(last.text);
  // The end of a sentence is one thing, whatever its mark: asked for on any of them it joins the sentences.
  const isThere = parts.mark === wanted || (wanted === '.' && endedBefore);
  const text = textOf({ ...parts, mark: isThere ? '' : wanted });
  writing.write(last, text);
  const endsNow = ENDS_SENTENCE.test(text);
  if (endsNow !== endedBefore) followCapital(writing, writing.around(run).after, endsNow);
  return writing.edits();
}

function followCapital(writing: Writing, next: Word | undefined, isLarge: boolean): void {
  if (next !== undefined) writing.write(next, isLarge ? capitalise(next.text) : smallFirst(next.text));
}

/** With its first letter small; "I" and what is all in capitals stay. */
function smallFirst(text: string): string {
  const { core } = partsOf(text);
  if (/^I(?=$|['’])/.test(core) || (core.length > 1 && core === core.toUpperCase())) return text;
  return text.replace(/\p{L}/u, (letter) => letter.toLowerCase());
}

const withoutMark = (text: string): string => textOf({ ...partsOf(text), mark: '' });

/** Signs around the run, behind the last word's mark or before it; taken off where they are there. */
function around(
  writing: Writing,
  run: readonly Word[],
  [opening, closing]: readonly [string, string],
  place: 'inner' | 'outer'
): ClientCommand[] {
  const [first, last] = [run[0]!, run.at(-1)!];
  const isThere = first.text.startsWith(opening) && last.text.includes(closing);
  writing.write(first, isThere ? first.text.slice(opening.length) : opening + first.text);
  const text = writing.text(last);
  const parts = partsOf(text);
  writing.write(
    last,
    isThere
      ? text.replace(closing, '')
      : textOf({ ...parts, [place]: place === 'inner' ? closing + parts.inner : parts.outer + closing })
  );
  return writing.edits();
}

/**
 * The edits that leave words out of the captions; they are kept and can be shown again. What they leave keeps its
 * capitals and its sentence ends. `words` may stand anywhere in the track.
 */
export function leaveOut(track: Track, words: readonly Word[]): readonly ClientCommand[] {
  const going = new Set(words.filter((word) => word.shown).map((word) => word.id));
  if (going.size === 0) return [];
  const writing = new Writing(track);
  const shown = track.words.filter((word) => word.shown && word.kind === 'speech');
  for (let at = 0; at < shown.length; at++) {
    if (!going.has(shown[at]!.id)) continue;
    const from = at;
    while (at + 1 < shown.length && going.has(shown[at + 1]!.id)) at++;
    const run = shown.slice(from, at + 1);
    const [before, after] = [shown[from - 1], shown[at + 1]];
    const beginsSentence = before === undefined || ENDS_SENTENCE.test(before.text);
    const end = run.find((word) => ENDS_SENTENCE.test(word.text));
    if (after !== undefined && ((beginsSentence && /^\P{L}*\p{Lu}/u.test(run[0]!.text)) || end !== undefined))
      writing.write(after, capitalise(writing.text(after)));
    if (end !== undefined && before !== undefined && !beginsSentence)
      writing.write(before, textOf({ ...partsOf(writing.text(before)), mark: partsOf(end.text).mark }));
  }
  return [{ type: 'setWordsShown', wordIds: [...going], shown: false }, ...writing.edits()];
}

/** The edits that show words again, and take back the capital and the mark that leaving them out gave their neighbours. */
function bringBack(track: Track, run: readonly Word[]): readonly ClientCommand[] {
  const ids = new Set(run.map((word) => word.id));
  const writing = new Writing(track);
  const spoken = track.words.filter((word) => word.kind === 'speech' && (word.shown || ids.has(word.id)));
  const from = spoken.findIndex((word) => ids.has(word.id));
  const [before, after] = [spoken[from - 1], spoken[spoken.findLastIndex((word) => ids.has(word.id)) + 1]];
  const [first, last] = [run[0]!, run.at(-1)!];
  const beginsSentence = /^\P{L}*\p{Lu}/u.test(first.text);
  const endsSentence = ENDS_SENTENCE.test(last.text);
  // Only what was written by hand can be what leaving out has written.
  if (after !== undefined && after.correctedAt !== null && beginsSentence && !endsSentence)
    writing.write(after, smallFirst(after.text));
  if (before !== undefined && before.correctedAt !== null && !beginsSentence && endsSentence)
    writing.write(before, withoutMark(before.text));
  return [{ type: 'setWordsShown', wordIds: [...ids], shown: true }, ...writing.edits()];
}
