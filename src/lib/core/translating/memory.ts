/** What was said before and how it was translated then: the same sentence, or nearly the same by its words. */
import { bareWord } from '../english';
import { plainDigits } from './anchors';

export interface Remembered {
  readonly source: string;
  readonly target: string;
}

export interface Recalled<R extends Remembered> {
  readonly remembered: R;
  /** 1 where the words are the same, less by the share of them that differ. */
  readonly likeness: number;
}

/** Less alike than this, a sentence is another one. */
const LEAST_LIKENESS = 0.7;
const MOST_RECALLED = 3;

/** The words of a sentence as they are compared: without capitals and marks. Signs of scripts without spaces each alone. */
export const wordsForMemory = (text: string): readonly string[] =>
  plainDigits(text)
    .split(/\s+|(?<=[\p{sc=Han}\p{sc=Hiragana}\p{sc=Katakana}\p{sc=Thai}])/u)
    .map(bareWord)
    .filter((word) => word !== '');

/** By which the same sentence is found. */
export const memoryKey = (text: string): string => wordsForMemory(text).join(' ');

/** What is most like a sentence, the most alike first; of the same translations one. */
export function recall<R extends Remembered>(text: string, known: readonly R[]): readonly Recalled<R>[] {
  const words = wordsForMemory(text);
  if (words.length === 0) return [];
  const found = known
    .map((remembered) => ({ remembered, likeness: likenessOfWords(words, wordsForMemory(remembered.source)) }))
    .filter(({ likeness }) => likeness >= LEAST_LIKENESS)
    .sort((one, other) => other.likeness - one.likeness);
  const said = new Set<string>();
  return found.filter(({ remembered: { target } }) => said.size < said.add(target).size).slice(0, MOST_RECALLED);
}

/** 1 less the share of words that are put in, left out or changed, each weighed by its length. */
function likenessOfWords(one: readonly string[], other: readonly string[]): number {
  const weight = (word: string): number => 2 + word.length;
  const whole = (words: readonly string[]): number => words.reduce((sum, word) => sum + weight(word), 0);
  let row = [0];
  for (const word of other) row.push(row.at(-1)! + weight(word));
  for (const word of one) {
    const next = [row[0]! + weight(word)];
    other.forEach((to, at) => {
      const change = row[at]! + (word === to ? 0 : Math.max(weight(word), weight(to)));
      next.push(Math.min(change, row[at + 1]! + weight(word), next[at]! + weight(to)));
    });
    row = next;
  }
  return 1 - row.at(-1)! / Math.max(1, whole(one), whole(other));
}
