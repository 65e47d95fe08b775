/** What deserves a look before a track is done: each with its reason, its words and what may be meant. */
import type { Term } from '../expecting';
import { spanOf } from '../time';
import { isSameLanguage, type Track, type Word } from '../track';
import { bareWord, capitalise, isHesitation, writeInPlace } from '../wording';
import { doubtKey, type Candidate, type Doubt, type DoubtReason } from './doubt';
import { findNearMisses, type Pronounce } from './near-misses';

/** What is known of the track's language and names. */
export interface DoubtKnowledge {
  readonly terms: readonly Term[];
  readonly pronounce: Pronounce;
  /** Whether a word is spelled as it should; `null` where no dictionary of the language is there. */
  readonly isSpelled: ((word: string) => boolean) | null;
  /** How a word may be meant to be spelled, best first. */
  readonly suggest: (word: string) => readonly string[];
}

/** Surer words are not doubted. */
const DOUBTED_BELOW = 0.5;
/** How unsure the recogniser was of a word: 0 sure, 1 not at all. The page shows it as a bar of that length. */
export const doubtIn = ({ confidence }: Word): number =>
  confidence === null ? 0 : Math.max(0, 1 - confidence / DOUBTED_BELOW);
const MOST_CANDIDATES = 9;
/** A sentence of more words has lost an end somewhere. */
const LONGEST_SENTENCE = 45;
/** English words that may well stand twice. */
export const MAY_REPEAT = new Set([
  'had',
  'that',
  'very',
  'no',
  'bye',
  'ha',
  'so',
  'really',
  'many',
  'well',
  'there',
  'long'
]);

const ENDS_SENTENCE = /[.?!…:][\p{P}]*$/u;
const CORE = /^([^\p{L}\p{N}]*)(.*?)([^\p{L}\p{N}]*)$/su;

/** All doubts of a track in its order. What a hand has written is no longer unsure, and no near-miss. */
export function findDoubts(track: Track, knowledge: DoubtKnowledge): readonly Doubt[] {
  const { words } = track;
  const places = words.map((_, at) => at).filter((at) => words[at]!.shown && words[at]!.kind === 'speech');
  const names = knownNames(track, knowledge.terms);
  const near = findNearMisses(words, knowledge.terms, knowledge.pronounce);
  const isTaken = new Set(near.flatMap(({ from, count }) => Array.from({ length: count }, (_, step) => from + step)));
  const found: { readonly at: number; readonly doubt: Doubt }[] = [];
  const add = (at: number, count: number, reason: DoubtReason, candidates: readonly Candidate[]): void => {
    found.push({ at, doubt: doubtOf(words.slice(at, at + count), reason, candidates) });
  };

  for (const { from, count, term } of near) {
    const old = words.slice(from, from + count).map((word) => word.text);
    add(from, count, 'near_miss', [{ text: writeInPlace(term.text, old), source: 'vocabulary' }]);
  }
  words.forEach((word, at) => {
    if (word.kind === 'hole') add(at, 1, 'hole', []);
  });
  const isEnglish = isSameLanguage(track.language, 'en');
  let sentence = 0;
  places.forEach((at, index) => {
    const word = words[at]!;
    const before = words[places[index - 1] ?? -1];
    const next = words[places[index + 1] ?? -1];
    const begins = before === undefined || word.startsParagraph || ENDS_SENTENCE.test(before.text);
    sentence = begins ? 1 : sentence + 1;
    if (isTaken.has(at)) return;
    if (isEnglish && isHesitation(word.text)) return add(at, 1, 'hesitation', [{ text: '', source: 'rule' }]);
    const bare = bareWord(word.text);
    if (isRepeated(word, before, bare, isEnglish) && at > 0 && words[at - 1] === before)
      return add(at - 1, 2, 'repeated', [{ text: onceOf(before!, word), source: 'rule' }]);
    if (doubtIn(word) > 0) {
      const texts = word.alternatives
        .map((text) => writeInPlace(text, [word.text]))
        .filter((text) => text !== word.text);
      const candidates = [...new Set(texts)].map((text) => ({ text, source: 'recogniser' }) as const);
      return add(at, 1, 'unsure', candidates);
    }
    if (isMisspelled(word, names, knowledge)) {
      const core = CORE.exec(word.text)![2]!;
      const candidates = knowledge.suggest(core).map((text) => writeInPlace(text, [word.text]));
      return add(
        at,
        1,
        'spelling',
        candidates.map((text) => ({ text, source: 'dictionary' }))
      );
    }
    const capital = oddCapital(word, begins, isEnglish, names, knowledge);
    if (capital !== null) return add(at, 1, 'capital', [{ text: capital, source: 'rule' }]);
    const endsParagraph = next === undefined || next.startsParagraph;
    if (
      (endsParagraph && !ENDS_SENTENCE.test(word.text) && !/[,;–—-]$/.test(word.text)) ||
      sentence === LONGEST_SENTENCE
    ) {
      const open = word.text.replace(/[,;:]$/, '');
      const marks = endsParagraph ? ['.', '?', '!'] : ['.', ','];
      return add(
        at,
        1,
        'sentence_end',
        marks.map((mark) => ({ text: open + mark, source: 'rule' }))
      );
    }
  });
  return found.sort((one, other) => one.at - other.at).map(({ doubt }) => doubt);
}

function doubtOf(run: readonly Word[], reason: DoubtReason, candidates: readonly Candidate[]): Doubt {
  const wordIds = run.map((word) => word.id);
  return {
    key: doubtKey(reason, run),
    reason,
    wordIds,
    ...spanOf(run),
    candidates: candidates.slice(0, MOST_CANDIDATES)
  };
}

/** Words of the terms and of the speakers' names, as they are written. */
function knownNames(track: Track, terms: readonly Term[]): ReadonlySet<string> {
  const texts = [...terms.map((term) => term.text), ...track.speakers.map((speaker) => speaker.name)];
  return new Set(texts.flatMap((text) => text.split(/[^\p{L}\p{M}\p{N}'’]+/u)).filter((part) => part !== ''));
}

function isRepeated(word: Word, before: Word | undefined, bare: string, isEnglish: boolean): boolean {
  if (before === undefined || bare === '' || bareWord(before.text) !== bare) return false;
  const isParted = /\p{P}$/u.test(before.text) || word.startsParagraph;
  return !isParted && !/\d/.test(bare) && !(isEnglish && MAY_REPEAT.has(bare));
}

/** What is said twice, once: as the first one begins and the second one ends. */
function onceOf(first: Word, second: Word): string {
  return writeInPlace(CORE.exec(second.text)![2]!, [first.text, second.text]);
}

function isMisspelled(word: Word, names: ReadonlySet<string>, { isSpelled }: DoubtKnowledge): boolean {
  if (isSpelled === null || word.language !== null) return false;
  const core = CORE.exec(word.text)![2]!.replaceAll('’', "'");
  // Numbers, and what is written as no word is, have no spelling.
  if (core === '' || /[\p{N}@/\\_]/u.test(core) || /\p{Extended_Pictographic}/u.test(core)) return false;
  const isRight = (text: string): boolean =>
    text === '' || names.has(text) || names.has(text.replace(/'s$/, '')) || isSpelled(text);
  return !isRight(core) && !core.split(/[-–—/]/).every(isRight);
}

/** The word with the capital it should have, or without the one it should not; `null` where it is right. */
function oddCapital(
  word: Word,
  begins: boolean,
  isEnglish: boolean,
  names: ReadonlySet<string>,
  { isSpelled }: DoubtKnowledge
): string | null {
  const [, opening = '', core = '', closing = ''] = CORE.exec(word.text)!;
  if (begins && /^\p{Ll}/u.test(core) && !/\p{Lu}/u.test(core)) return capitalise(word.text);
  if (isEnglish && /^i(?=$|['’])/.test(core)) return `${opening}I${core.slice(1)}${closing}`;
  const small = core.toLowerCase();
  // German writes every noun with a capital: elsewhere one within a sentence is a name's.
  const isMidCapital = isEnglish && !begins && /^\p{Lu}\p{Ll}+$/u.test(core) && !names.has(core);
  if (isMidCapital && word.correctedAt === null && isSpelled?.(small) === true) return opening + small + closing;
  return null;
}
