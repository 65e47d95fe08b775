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

export function habitsOf(words: readonly Word[]): Habits {
  const dashes = new Map<string, number>();
  const ellipses = new Map<string, number>();
  const quotes = new Map<'straight' | 'curly', number>();
  const count = <K>(counts: Map<K, number>, key: K | null | undefined): void => {
    if (key !== null && key !== undefined) counts.set(key, (counts.get(key) ?? 0) + 1);
  };
  for (const { text, shown } of words) {
    // Most words are letters alone.
    if (!shown || /^[\p{L}\p{N},]*[.?!]?$/u.test(text)) continue;
    count(dashes, DASH.exec(text)?.[0]);
    count(ellipses, ELLIPSIS.exec(text)?.[0]);
    count(quotes, quotesOf(text));
  }
  return { dash: mostOf(dashes), ellipsis: mostOf(ellipses), quotes: mostOf(quotes) };
}

/** The most frequent one; of two as frequent, the one that came first. */
function mostOf<K>(counts: ReadonlyMap<K, number>): K | null {
  let most: K | null = null;
  for (const [key, count] of counts) if (most === null || count > counts.get(most)!) most = key;
  return most;
}
