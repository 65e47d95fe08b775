/**
 * What belongs together: how much it costs to part a word from the next, by classes of words that rarely change.
 * English has lists of its own; in languages whose small words are not known, only punctuation, capitals and numbers speak.
 */
import { bareWord, ENGLISH } from '../english';
import { smallWordsOf } from '../small-words';

/** `,` `;` `:` and dashes end a clause; full stops, question and exclamation marks end a sentence. */
export function endsWith(text: string): 'sentence' | 'clause' | 'nothing' {
  if (/[.!?…。！？؟۔][)\]"'”’»]*$/u.test(text)) return isAbbreviation(text) ? 'nothing' : 'sentence';
  if (/[,;:–—、，；：،؛][)\]"'”’»]*$/u.test(text)) return 'clause';
  return 'nothing';
}

const isAbbreviation = (text: string): boolean => /^(?:Mr|Mrs|Ms|Dr|St|Prof|No|vs|etc|\p{Lu})\.$/u.test(text);

const isCapital = (text: string): boolean => /^["'“‘(]*\p{Lu}\p{Ll}/u.test(text);
const isNumber = (text: string): boolean => /^[$£€]?\d[\d.,:]*%?$/.test(text);

/** Cost of parting the two words: 0 where nothing holds them together, 160 where nothing may come between. Negative: a good place. */
export function partingCost(words: readonly { readonly text: string }[], at: number, language: string): number {
  const word = words[at]!;
  const next = words[at + 1]!;
  if (endsWith(word.text) !== 'nothing') return 0;
  if (isNumber(word.text)) return 160;
  const isSentenceStart = at === 0 || endsWith(words[at - 1]!.text) === 'sentence';
  if (isCapital(word.text) && isCapital(next.text) && !isSentenceStart && word.text.length > 1) return 160;
  const here = bareWord(word.text);
  const there = bareWord(next.text);
  if (!/^en\b/i.test(language)) return partingBySmallWords(here, there, language);
  if (ENGLISH.determiners.has(here)) return ENGLISH.auxiliaries.has(there) ? 40 : 140;
  if (ENGLISH.prepositions.has(here)) return 110;
  if (ENGLISH.auxiliaries.has(here)) return 100;
  if (ENGLISH.subjects.has(here)) return 110;
  if (ENGLISH.openers.has(here)) return 100;
  if (ENGLISH.tight.has(here)) return 100;
  if (isCapital(word.text) && isCapital(next.text)) return 100;
  if (ENGLISH.openers.has(there)) return -50;
  if (ENGLISH.prepositions.has(there)) return -8;
  return 0;
}

function partingBySmallWords(here: string, there: string, language: string): number {
  const known = smallWordsOf(language);
  if (known === null) return 0;
  const { determiners, prepositions, openers, clinging } = known;
  if (determiners.has(here)) return 140;
  if (prepositions.has(here)) return 110;
  if (clinging.has(here) || openers.has(here)) return 100;
  if (openers.has(there)) return -50;
  return prepositions.has(there) ? -8 : 0;
}
