/** What else a word could be: the words of a lattice that lie where it lies. */
import { overlapMs, type Span } from '../time';
import type { HeardWord } from '../heard-word';

/** A word on some path through the lattice. */
export interface WeighedWord extends Span {
  readonly text: string;
  /** How likely it is that the sound goes through it: 0 to 1. */
  readonly posterior: number;
}

/** More than these nobody reads. */
const MOST = 4;
/** Below it a word is in the lattice by chance. */
const LEAST_POSTERIOR = 0.002;
/** Of the longer one's length, that both lie on. */
const LEAST_SHARED = 0.5;

/** The words with what else was likely at their place, likeliest first. Both lists in the same time. */
export function withAlternatives(words: readonly HeardWord[], lattice: readonly WeighedWord[]): HeardWord[] {
  const likely = lattice
    .filter((word) => word.posterior >= LEAST_POSTERIOR)
    .toSorted((one, other) => one.startMs - other.startMs);
  return words.map((word) => {
    const weights = new Map<string, number>();
    for (const other of likely) {
      if (other.startMs >= word.endMs) break;
      const longestMs = Math.max(word.endMs - word.startMs, other.endMs - other.startMs);
      if (other.text === word.text || overlapMs(word, other) < LEAST_SHARED * longestMs) continue;
      weights.set(other.text, (weights.get(other.text) ?? 0) + other.posterior);
    }
    const best = [...weights].sort(([, one], [, other]) => other - one).slice(0, MOST);
    return { ...word, alternatives: best.map(([text]) => text) };
  });
}
