/** Words that are always written with a capital, from a spelling dictionary. */
import { bareWord } from '../english';

const ENDINGS = ['s', 'es', 'ed', 'd', 'er', 'r', 'ing', 'ings', 'ly', 'y', 'ers'];

export interface EnglishWords {
  /** Always with a capital: Monday, London, Peter; not Mark, May or Reading. In small letters. */
  readonly names: ReadonlySet<string>;
  /** Whether a word, in small letters, stands in the dictionary or is plainly made from one that does. */
  readonly isKnown: (word: string) => boolean;
}

/** A Hunspell dictionary (hunspell(5), `.dic`: one stem a line, with its flags after a slash). */
export function readDictionary(dictionary: string): EnglishWords {
  const stems = dictionary
    .split('\n')
    .map((line) => line.split('/')[0]!.trim())
    .filter((stem) => /^\p{L}+$/u.test(stem));
  const small = new Set(stems.filter((stem) => stem === stem.toLowerCase()));
  const isKnown = (word: string): boolean =>
    small.has(word) ||
    ENDINGS.some((ending) => {
      if (!word.endsWith(ending)) return false;
      const stem = word.slice(0, -ending.length);
      const forms = [stem, `${stem}e`, stem.replace(/(.)\1$/, '$1'), stem.replace(/i$/, 'y')];
      return stem.length > 1 && forms.some((one) => small.has(one));
    });
  const names = stems
    .filter((stem) => /^\p{Lu}\p{Ll}+$/u.test(stem))
    .map((stem) => stem.toLowerCase())
    .filter((stem) => stem.length > 2 && !isKnown(stem));
  return { names: new Set(names), isKnown };
}

/** A heard word with the capital that it always has. */
export const capitaliseName = (text: string, names: ReadonlySet<string>): string =>
  text === text.toLowerCase() && names.has(bareWord(text).replace(/'s$/, '')) ? capitalise(text) : text;

/** With its first letter large. */
export const capitalise = (text: string): string => text.replace(/\p{L}/u, (letter) => letter.toUpperCase());
