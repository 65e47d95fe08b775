/** Where in a script somebody reads, by the words that are heard. */
import { bareWord } from '../english';

export interface ScriptToken {
  /** Between white space, with its punctuation. */
  readonly text: string;
  /** What is compared; empty for what is not spoken. */
  readonly bare: string;
  readonly paragraph: number;
}

export const scriptWords = (script: string): ScriptToken[] =>
  script
    .split(/\n\s*\n|\n/)
    .filter((paragraph) => paragraph.trim() !== '')
    .flatMap((paragraph, at) =>
      paragraph
        .trim()
        .split(/\s+/)
        .map((text) => ({ text, bare: bareWord(text), paragraph: at }))
    );

/** So many of the words that were heard last are looked at. */
const LAST_WORDS = 8;
/** How far ahead, and back, is looked; who skips more finds it by hand. */
const AHEAD = 60;
const BACK = 12;
/** Of the words that are looked at so many have to agree, and no fewer than two. */
const LEAST_SHARE = 0.5;

/**
 * The word that is read next. `from`: the one that was next before; it is given back where what is heard is not in the
 * script thereabouts. The last words are aligned with each stretch of the script that ends near there (longest common
 * subsequence, with a little less for what is farther on), so that misheard, left out and added words do no harm.
 */
export function placeInScript(script: readonly ScriptToken[], heard: readonly string[], from: number): number {
  const last = heard
    .slice(-LAST_WORDS)
    .map(bareWord)
    .filter((word) => word !== '');
  if (last.length < 2) return from;
  const first = Math.max(0, from - BACK);
  const until = Math.min(script.length, from + AHEAD);
  const least = Math.max(2, Math.ceil(last.length * LEAST_SHARE));
  let best = { next: from, worth: 0 };
  for (let next = first + 1; next <= until; next++) {
    // A stretch that ends with a word that was heard: else the same words end it earlier.
    if (!last.slice(-2).includes(script[next - 1]!.bare)) continue;
    const stretch = script.slice(Math.max(first, next - last.length - 2), next).map(({ bare }) => bare);
    const common = commonWords(last, stretch);
    const worth = common - Math.abs(next - from - 1) * 0.02;
    if (common >= least && worth > best.worth) best = { next, worth };
  }
  return best.next;
}

/** Length of the longest common subsequence. */
function commonWords(a: readonly string[], b: readonly string[]): number {
  let row = new Array<number>(b.length + 1).fill(0);
  for (const word of a) {
    const next = [0];
    for (let at = 0; at < b.length; at++) next.push(word === b[at] ? row[at]! + 1 : Math.max(row[at + 1]!, next[at]!));
    row = next;
  }
  return row[b.length]!;
}
