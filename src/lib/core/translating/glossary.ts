/** The house's own words for its own things, and where a translation does not use them. */
import { z } from 'zod';
import { bareWord } from '../english';
import { setsNoSpaces } from '../track';

const termText = z.string().trim().min(1).max(200);

export const glossaryTermSchema = z
  .object({
    /** In the language of the source. */
    source: termText,
    /** In that of the translation. */
    target: termText,
    note: z.string().trim().max(1000).default('')
  })
  .readonly();
export type GlossaryTerm = z.infer<typeof glossaryTermSchema>;

/** Endings that a word may have that is bent: so many letters at its end may differ. */
const ENDING = 2;
const LEAST_STEM = 3;

/** The terms that a text has, the longest first. */
export function termsIn(text: string, terms: readonly GlossaryTerm[]): readonly GlossaryTerm[] {
  return terms
    .filter(({ source }) => hasTerm(text, source))
    .toSorted((one, other) => other.source.length - one.source.length);
}

/** The terms of the source that its translation does not use. */
export const termsNotUsed = (
  source: string,
  target: string,
  terms: readonly GlossaryTerm[]
): readonly GlossaryTerm[] =>
  target === '' ? [] : termsIn(source, terms).filter((term) => !hasTerm(target, term.target));

/** Whether a text has a term, however its words are bent; in scripts without spaces, whether it holds its signs. */
export function hasTerm(text: string, term: string): boolean {
  if (setsNoSpaces(term)) return text.includes(term);
  const wanted = bareWords(term);
  const words = bareWords(text);
  return words.some((_, at) => wanted.every((word, step) => isFormOf(words[at + step] ?? '', word)));
}

const bareWords = (text: string): readonly string[] =>
  text
    .split(/[\s’'-]+/)
    .map(bareWord)
    .filter((word) => word !== '');

function isFormOf(word: string, term: string): boolean {
  if (word === term) return true;
  const stem = term.slice(0, Math.max(LEAST_STEM, term.length - ENDING));
  return term.length > LEAST_STEM && word.startsWith(stem) && word.length <= term.length + ENDING + 1;
}
