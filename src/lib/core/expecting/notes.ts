/** Names and terms in notes, a programme or an outline: what is likely to be said and not likely to be known. */

export interface FoundTerm {
  readonly text: string;
  /** How often it stands there. */
  readonly count: number;
}

/** Stand within names: "Keeper of the Clock", "Ada van Loon". */
const PARTICLES = new Set('of the de van von der la le du di da and &'.split(' '));
const ARTICLES = new Set('the a an'.split(' '));
const LONGEST_NAME = 5;
const LEAST_LETTERS = 4;

const isCapital = (word: string): boolean =>
  /^\p{Lu}[\p{L}\p{M}'’-]*\p{Ll}/u.test(word) || /^\p{Lu}\p{Ll}?$/u.test(word);

/**
 * Runs of capitalised words, but for the one that only begins a sentence or a line, and words in small letters that
 * `isKnown` (asked in small letters) does not know. The most frequent first, then as they come.
 */
export function termsInNotes(notes: string, isKnown: (word: string) => boolean): readonly FoundTerm[] {
  const counts = new Map<string, { text: string; count: number }>();
  const add = (text: string): void => {
    const key = text.toLowerCase();
    const known = counts.get(key);
    if (known === undefined) counts.set(key, { text, count: 1 });
    else known.count++;
  };
  const sentences = notes.normalize('NFC').split(/[\n\r\t•]+|(?<=[.!?:;])\s+|[()[\]"“”«»]+/u);
  for (const sentence of sentences) {
    const words = [...sentence.matchAll(/[\p{L}\p{M}][\p{L}\p{M}'’-]*|[,&.]/gu)].map(([word]) => word);
    for (let at = 0; at < words.length;) {
      const to = endOfName(words, at);
      if (to === at) {
        const word = words[at]!.replace(/['’]s$/, '');
        if (word.length >= LEAST_LETTERS && word === word.toLowerCase() && !isKnown(word)) add(word);
        at++;
        continue;
      }
      const run = words.slice(at, to);
      const begins = at === 0;
      // What stands large only because it begins: an article, or a word that is known in small letters.
      while (run.length > 0 && (ARTICLES.has(run[0]!.toLowerCase()) || (begins && isKnown(run[0]!.toLowerCase()))))
        run.shift();
      while (run.length > 0 && PARTICLES.has(run[0]!)) run.shift();
      const text = run.join(' ').replace(/['’]s$/, '');
      if (text.length > 1) add(text);
      at = to;
    }
  }
  return [...counts.values()].sort((one, other) => other.count - one.count);
}

/** The index after the name that begins here; the same index where none does. */
function endOfName(words: readonly string[], from: number): number {
  if (!isCapital(words[from]!)) return from;
  let to = from + 1;
  for (let at = to; at < words.length && at - from < LONGEST_NAME; at++) {
    if (isCapital(words[at]!)) to = at + 1;
    else if (!PARTICLES.has(words[at]!)) break;
  }
  return to;
}
