/** Sentences out of bare words: where they end, how they are marked, which of them ask. */
import type { Span } from '../time';
import { bareWord, ENGLISH, isHesitation } from '../english';

/** A word as it was heard, in small letters, with what is known of the place behind it. */
export interface SpokenWord extends Span {
  readonly text: string;
  /**
   * Natural logarithm of how much likelier the language model holds an end of sentence after this word than none;
   * infinite where another voice speaks on; `null` where no model was asked.
   */
  readonly endOdds: number | null;
}

export type Punctuation = '' | ',' | '.' | '?';

/** A pause of this length ends a sentence, unless the words cannot end there. */
export const SENTENCE_PAUSE_MS = 550;
/** Below this, what lies between two words is no pause but the slack of a recogniser's frames. */
const LEAST_PAUSE_MS = 30;
/** Weight of a pause against the model's odds. Odds and pauses of four talks were looked at to set these; see docs/bench.md. */
const ODDS_A_PAUSE_MS = 0.02;
const LONGEST_WEIGHED_MS = 400;
const LEAST_ODDS = -1;
/** Without any pause the model must be surer. */
const LEAST_ODDS_UNPAUSED = 2.5;
/** A comma needs less, where the words speak for it. */
const LEAST_ODDS_COMMA = -3.2;

/** The mark after each word. The last one ends its sentence. */
export function punctuate(words: readonly SpokenWord[]): readonly Punctuation[] {
  const marks = words.map((_, at): Punctuation => markAfter(words, at));
  let from = 0;
  for (const [at, mark] of marks.entries()) {
    if (mark !== '.') continue;
    const sentence = words.slice(from, at + 1).map((word) => bareWord(word.text));
    markIntroduction(words, marks, from, at);
    if (asks(sentence)) marks[at] = '?';
    from = at + 1;
  }
  return marks;
}

function markAfter(words: readonly SpokenWord[], at: number): Punctuation {
  const next = words[at + 1];
  if (next === undefined) return '.';
  const odds = words[at]!.endOdds;
  if (odds === Number.POSITIVE_INFINITY) return '.';
  const pauseMs = next.startMs - words[at]!.endMs;
  const here = bareWord(words[at]!.text);
  const there = bareWord(next.text);
  const isOpen = ENGLISH.determiners.has(here) || ['and', 'or', 'but', 'of', 'to', 'with', 'from', 'i'].includes(here);
  if (isHesitation(here) || isHesitation(there)) return pauseMs >= SENTENCE_PAUSE_MS && !isHesitation(here) ? '.' : ',';
  if (pauseMs >= SENTENCE_PAUSE_MS) return isOpen ? '' : '.';
  if (odds === null || isOpen) return '';
  const weighed = pauseMs < LEAST_PAUSE_MS ? odds : odds + Math.min(pauseMs, LONGEST_WEIGHED_MS) * ODDS_A_PAUSE_MS;
  if (ENGLISH.joiners.has(there)) return pauseMs >= LEAST_PAUSE_MS && weighed > LEAST_ODDS_COMMA ? ',' : '';
  if (pauseMs < LEAST_PAUSE_MS) return weighed > LEAST_ODDS_UNPAUSED ? '.' : '';
  return weighed > LEAST_ODDS ? '.' : '';
}

/** A sentence that begins with "if", "when" and the like is no sentence without what follows: its end becomes a comma. */
function markIntroduction(words: readonly SpokenWord[], marks: Punctuation[], from: number, at: number): void {
  const next = words[at + 1];
  const first = bareWord(words[from]!.text);
  const second = bareWord(words[from + 1]?.text ?? '');
  if (ENGLISH.greetings.has(first) && at === from && next !== undefined) marks[at] = ',';
  if (!ENGLISH.introducers.has(first) || ENGLISH.inverting.has(second) || next === undefined) return;
  if (marks.slice(from, at).includes(',')) return;
  if (next.startMs - words[at]!.endMs < SENTENCE_PAUSE_MS) marks[at] = ',';
}

/** Whether a sentence of bare words asks. */
export function asks(sentence: readonly string[]): boolean {
  const lead = sentence.findIndex(
    (word) => !['and', 'but', 'so', 'well', 'now', 'then', 'or'].includes(word) && !isHesitation(word)
  );
  if (lead < 0) return false;
  const [first = '', second = '', third = ''] = sentence.slice(lead);
  if (ENGLISH.inverting.has(first)) return ENGLISH.inverted.has(second);
  if (!ENGLISH.asking.has(first)) return false;
  if (ENGLISH.inverting.has(second)) return first !== 'which' && !(first === 'when' && second === 'not');
  if (first === 'who') return !ENGLISH.inverted.has(second);
  if (first === 'how') return ['many', 'much', 'long', 'often', 'far', 'old', 'big', 'about'].includes(second);
  // "What time is it", but not "what he said": a noun between the two.
  if (first === 'what' || first === 'which' || first === 'whose')
    return !ENGLISH.inverted.has(second) && ENGLISH.inverting.has(third);
  return false;
}

/** The sentence that the word at a place stands in: from its first word to behind its last. */
export function sentenceAround(
  words: readonly { readonly text: string; readonly startsParagraph: boolean }[],
  at: number
): { readonly from: number; readonly to: number } {
  const ends = (place: number): boolean =>
    place < 0 ||
    place >= words.length - 1 ||
    /[.?!…][\p{P}]*$/u.test(words[place]!.text) ||
    words[place + 1]!.startsParagraph;
  let from = at;
  while (!ends(from - 1)) from--;
  let to = at;
  while (!ends(to)) to++;
  return { from, to: to + 1 };
}
