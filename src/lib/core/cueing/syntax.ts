/**
 * What belongs together: how much it costs to part a word from the next, by classes of words that rarely change.
 * English has lists of its own; in other languages only punctuation, capitals and numbers speak.
 */
import type { Word } from '../track';

const list = (words: string): ReadonlySet<string> => new Set(words.split(' '));

const ENGLISH = {
  determiners: list(
    'a an the this that these those my your his her its our their some any no every each another both either neither whose'
  ),
  prepositions: list(
    'of in on at by for with from to into onto over under about after before between through during without within against among around behind beside beyond near off past since toward towards until upon up down out across along like as than'
  ),
  auxiliaries: list(
    "am is are was were be been being have has had do does did will would shall should can could may might must not isn't aren't wasn't weren't haven't hasn't hadn't don't doesn't didn't won't wouldn't shouldn't can't couldn't i'm you're we're they're he's she's it's i've you've we've they've i'll you'll he'll she'll we'll they'll"
  ),
  subjects: list('i you he she it we they who there'),
  openers: list('and but or nor so because although though while when where which who that if unless until since then'),
  tight: list('very too quite so more most less rather as')
};

/** `,` `;` `:` and dashes end a clause; full stops, question and exclamation marks end a sentence. */
export function endsWith(text: string): 'sentence' | 'clause' | 'nothing' {
  if (/[.!?…。！？؟۔][)\]"'”’»]*$/u.test(text)) return isAbbreviation(text) ? 'nothing' : 'sentence';
  if (/[,;:–—、，；：،؛][)\]"'”’»]*$/u.test(text)) return 'clause';
  return 'nothing';
}

const isAbbreviation = (text: string): boolean => /^(?:Mr|Mrs|Ms|Dr|St|Prof|No|vs|etc|\p{Lu})\.$/u.test(text);

const bare = (text: string): string =>
  text
    .toLowerCase()
    .replaceAll('’', "'")
    .replace(/[^\p{L}\p{N}']/gu, '');
const isCapital = (text: string): boolean => /^["'“‘(]*\p{Lu}\p{Ll}/u.test(text);
const isNumber = (text: string): boolean => /^[$£€]?\d[\d.,:]*%?$/.test(text);

/** Cost of parting the two words: 0 where nothing holds them together, 160 where nothing may come between. Negative: a good place. */
export function partingCost(words: readonly Word[], at: number, language: string): number {
  const word = words[at]!;
  const next = words[at + 1]!;
  if (endsWith(word.text) !== 'nothing') return 0;
  if (isNumber(word.text)) return 160;
  const isSentenceStart = at === 0 || endsWith(words[at - 1]!.text) === 'sentence';
  if (isCapital(word.text) && isCapital(next.text) && !isSentenceStart && word.text.length > 1) return 160;
  if (!/^en\b/i.test(language)) return 0;
  const here = bare(word.text);
  const there = bare(next.text);
  if (ENGLISH.determiners.has(here)) return ENGLISH.auxiliaries.has(there) ? 40 : 140;
  if (ENGLISH.prepositions.has(here)) return 110;
  if (ENGLISH.auxiliaries.has(here)) return 100;
  if (ENGLISH.subjects.has(here)) return 110;
  if (ENGLISH.openers.has(here)) return 100;
  if (ENGLISH.tight.has(here)) return 100;
  if (isCapital(word.text) && isCapital(next.text)) return 100;
  if (ENGLISH.openers.has(there)) return -25;
  if (ENGLISH.prepositions.has(there)) return -8;
  return 0;
}
