/** What a passage may say: the findings of several searches as one list. */
import { overlapMs } from '../time';
import type { HeardWord } from '../heard-word';

export interface Reading {
  readonly text: string;
  /** 0 to 1: mean of its words' confidences. */
  readonly confidence: number;
  readonly words: readonly HeardWord[];
}

/** Ways to write the same: the recogniser's dictionary has letters, and letters with a stop, as words. */
const keyOf = (words: readonly HeardWord[]): string =>
  words.map((word) => word.text.toLowerCase().replaceAll('.', '')).join(' ');

/** More than these nobody reads. */
const MOST_READINGS = 9;

/** What one search found, with the natural logarithm of how likely each is against its best. */
export type Search = readonly { readonly words: readonly HeardWord[]; readonly logLikelihood: number }[];

/**
 * Readings that differ in their words, best first. Each search shares one vote among its readings by their likelihood;
 * a word's confidence is the share of the votes of readings that hold it at its place.
 */
export function rankReadings(searches: readonly Search[]): Reading[] {
  const byText = new Map<string, { words: readonly HeardWord[]; votes: number }>();
  for (const search of searches) {
    const total = search.reduce((sum, { logLikelihood }) => sum + Math.exp(logLikelihood), 0);
    for (const { words, logLikelihood } of search) {
      if (words.length === 0) continue;
      const key = keyOf(words);
      const known = byText.get(key);
      const votes = Math.exp(logLikelihood) / total;
      if (known === undefined) byText.set(key, { words, votes });
      else known.votes += votes;
    }
  }
  const all = [...byText.values()].sort((one, other) => other.votes - one.votes);
  const cast = all.reduce((sum, { votes }) => sum + votes, 0);
  const agreeing = (word: HeardWord): number =>
    all.reduce((sum, { words, votes }) => (words.some((other) => isSame(word, other)) ? sum + votes : sum), 0);
  return all.slice(0, MOST_READINGS).map(({ words }) => {
    const sure = words.map((word) => ({ ...word, confidence: Math.min(1, agreeing(word) / cast) }));
    return {
      text: sure.map((word) => word.text).join(' '),
      confidence: sure.reduce((sum, word) => sum + word.confidence, 0) / sure.length,
      words: sure
    };
  });
}

const isSame = (one: HeardWord, other: HeardWord): boolean =>
  one.text.toLowerCase() === other.text.toLowerCase() && overlapMs(one, other) > 0;
