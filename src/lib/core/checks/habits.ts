/** How a track writes what can be written in more than one way: what most of it does is what all of it should do. */
import type { Word } from '../track';

export interface Habits {
  readonly dash: string | null;
  readonly ellipsis: string | null;
  readonly quotes: 'straight' | 'curly' | null;
}

/** Dashes between words or at their edges; a hyphen inside a word is none. */
export const DASH = /^--?(?=$)|^[–—]+|--|[–—]+/u;
export const ELLIPSIS = /\.{3,}|…/u;
export const STRAIGHT = /["']/;
export const CURLY = /[“”‘’]/;

export const quotesOf = (text: string): Habits['quotes'] =>
  STRAIGHT.test(text) ? 'straight' : CURLY.test(text) ? 'curly' : null;

export const habitsOf = (words: readonly Word[]): Habits => habitsIn(countHabits(words));

type Counts = { readonly [K in keyof Habits]: Map<NonNullable<Habits[K]>, number> };

export function countHabits(words: readonly Word[]): Counts {
  const counts: Counts = { dash: new Map(), ellipsis: new Map(), quotes: new Map() };
  addHabits(counts, words, 1);
  return counts;
}

export const habitsIn = ({ dash, ellipsis, quotes }: Counts): Habits => ({
  ...{ dash: mostOf(dash), ellipsis: mostOf(ellipsis), quotes: mostOf(quotes) }
});

/** Counts words in, or out again. */
function addHabits(counts: Counts, words: readonly Word[], by: 1 | -1): void {
  const count = <K>(of: Map<K, number>, key: K | null | undefined): void => {
    if (key !== null && key !== undefined) of.set(key, (of.get(key) ?? 0) + by);
  };
  for (const { text, shown } of words) {
    // Most words are letters alone.
    if (!shown || /^[\p{L}\p{N},]*[.?!]?$/u.test(text)) continue;
    count(counts.dash, DASH.exec(text)?.[0]);
    count(counts.ellipsis, ELLIPSIS.exec(text)?.[0]);
    count(counts.quotes, quotesOf(text));
  }
}

/** Counts other words in place of some; takes that back, and is false, where the habits would be others. */
export function keepsHabits(counts: Counts, before: readonly Word[], after: readonly Word[]): boolean {
  const { dash, ellipsis, quotes } = habitsIn(counts);
  addHabits(counts, before, -1);
  addHabits(counts, after, 1);
  const isKept =
    isStillMost(counts.dash, dash) && isStillMost(counts.ellipsis, ellipsis) && isStillMost(counts.quotes, quotes);
  if (!isKept) {
    addHabits(counts, after, -1);
    addHabits(counts, before, 1);
  }
  return isKept;
}

/** A habit that nothing has is not broken. */
const isStillMost = <K>(counts: ReadonlyMap<K, number>, habit: K | null): boolean =>
  habit === null || [...counts].every(([key, count]) => key === habit || count === 0 || count < counts.get(habit)!);

/** The most frequent one; of two as frequent, the one that came first. */
function mostOf<K>(counts: ReadonlyMap<K, number>): K | null {
  let most: K | null = null;
  for (const [key, count] of counts) if (count > 0 && (most === null || count > counts.get(most)!)) most = key;
  return most;
}
