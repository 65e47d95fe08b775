/** Names and phrases to expect: as they are written, as they are spoken, and back. */
import type { HeardWord } from '../heard-word';

/** A name or phrase as it is to be written. */
export interface Term {
  readonly text: string;
  /** English words that sound like it, where its spelling does not say how it is spoken; `null` for none. */
  readonly soundsLike: string | null;
}

export const MOST_TERMS = 5000;
const LONGEST_TERM = 120;

export interface ReadTerms {
  readonly terms: readonly Term[];
  /** Lines that hold nothing that can be spoken, with what they said. */
  readonly unread: readonly string[];
}

/** A list as people write one: a term a line or between semicolons, `Merrowby = merry oh bee`, doubles and bullets left out. */
export function readTerms(list: string): ReadTerms {
  const terms = new Map<string, Term>();
  const unread: string[] = [];
  for (const line of list.normalize('NFC').split(/[\n\r;]+/)) {
    const [written = '', ...rest] = line.split('=');
    const text = tidy(written.replace(/^\s*(?:[-*•·–]|\d+[.)])\s+/, ''));
    const soundsLike = tidy(rest.join('='));
    if (text === '' && soundsLike === '') continue;
    if (text.length > LONGEST_TERM || spokenForms(text).length === 0 || terms.size >= MOST_TERMS) {
      unread.push(line.trim());
      continue;
    }
    const key = text.toLowerCase();
    const known = terms.get(key);
    if (known === undefined || (known.soundsLike === null && soundsLike !== '')) {
      terms.set(key, { text: known?.text ?? text, soundsLike: spokenForms(soundsLike).length > 0 ? soundsLike : null });
    }
  }
  return { terms: [...terms.values()], unread };
}

/** The list that `readTerms` reads as these terms. */
export const writeTerms = (terms: readonly Term[]): string =>
  terms.map((term) => (term.soundsLike === null ? term.text : `${term.text} = ${term.soundsLike}`)).join('\n');

// eslint-disable-next-line no-control-regex -- they are what is taken out
const tidy = (text: string): string => text.replace(/[\u0000-\u001f\u007f-\u009f\s]+/g, ' ').trim();

/** The words of a text as a dictionary has them: small letters and apostrophes, accents off; what cannot be spoken is left out. */
export function spokenForms(text: string): readonly string[] {
  return text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[’ʼ]/g, "'")
    .replace(/&/g, ' and ')
    .replace(/ß/g, 'ss')
    .replace(/æ/g, 'ae')
    .replace(/œ/g, 'oe')
    .replace(/ø/g, 'o')
    .replace(/ł/g, 'l')
    .split(/[^a-z']+/)
    .map((word) => word.replace(/^'+|'+$/g, ''))
    .filter((word) => word !== '');
}

/**
 * Heard words written as the terms have them: "tobin ashe" becomes "Tobin Ashe", and two words heard for one written
 * with a hyphen become one, from the first one's start to the last one's end. The longest term wins.
 */
export function spellTerms(words: readonly HeardWord[], terms: readonly Term[]): readonly HeardWord[] {
  const byFirst = new Map<string, { readonly spoken: readonly string[]; readonly written: readonly string[] }[]>();
  for (const term of terms) {
    const spoken = spokenForms(term.text);
    const list = byFirst.get(spoken[0]!) ?? [];
    byFirst.set(spoken[0]!, list);
    list.push({ spoken, written: term.text.split(' ') });
  }
  for (const list of byFirst.values()) list.sort((a, b) => b.spoken.length - a.spoken.length);
  const out: HeardWord[] = [];
  for (let at = 0; at < words.length;) {
    const found = byFirst
      .get(words[at]!.text.toLowerCase())
      ?.find(({ spoken }) => spoken.every((form, step) => words[at + step]?.text.toLowerCase() === form));
    if (found === undefined) {
      out.push(words[at++]!);
      continue;
    }
    for (const text of found.written) {
      const count = spokenForms(text).length;
      // A sign that is not spoken goes with the word before it.
      if (count === 0) {
        const last = out.pop();
        if (last !== undefined) out.push({ ...last, text: `${last.text} ${text}` });
        continue;
      }
      const run = words.slice(at, at + count);
      out.push({
        text,
        startMs: run[0]!.startMs,
        endMs: run.at(-1)!.endMs,
        confidence: Math.min(...run.map((word) => word.confidence)),
        alternatives: count === 1 ? run[0]!.alternatives : [],
        endOdds: run.at(-1)!.endOdds
      });
      at += count;
    }
  }
  return out;
}
