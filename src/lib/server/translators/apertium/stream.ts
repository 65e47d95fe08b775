/** A sentence as Apertium reads it, and what it gives back (“Apertium stream format”, wiki of the project, 2023). */
import type { TranslatedSentence } from '$lib/core/translating';

/** Signs of the format itself. */
const RESERVED = /[\\^$/<>{}[\]]/g;
/** What it marks unknown words with; in a text they become signs that nobody uses, and back. */
const MARKS = ['~', '*', '#', '@'] as const;
const PRIVATE = 0xe000;

/** Without it, the last full stop is lost, and no answer comes. */
const END = '[]\n';

/** `number`: by which its answer is known. It goes through as what stands between the brackets of a format does. */
export const toStream = (sentence: string, number: number): string =>
  `[${number}]` +
  sentence
    .normalize('NFC')
    .replace(/[\0\s]+/g, ' ')
    .trim()
    .replace(/[~*#@]/g, (mark) => String.fromCharCode(PRIVATE + MARKS.indexOf(mark as '~')))
    .replace(RESERVED, (sign) => `\\${sign}`) +
  END;

const UNKNOWN = /(^|[^\p{L}\p{N}])[*@#](?=\p{L}|\p{N})/gu;

/** `null` where it is no answer to what has this number. */
export function fromStream(answer: string, number: number): TranslatedSentence | null {
  const label = `[${number}]`;
  if (!answer.includes(label)) return null;
  const text = answer
    .replace(label, '')
    .replace(/\[\]\s*$/, '')
    .replace(/\\(.)/g, '$1')
    .replace(/\s+/g, ' ')
    .trim();
  const unknown: number[] = [];
  const words = text.split(' ').map((word, at) => {
    const plain = word.replace(UNKNOWN, '$1');
    if (plain !== word) unknown.push(at);
    return plain.replace(/[\ue000-\ue003]/g, (sign) => MARKS[sign.charCodeAt(0) - PRIVATE]!);
  });
  return { text: words.join(' '), unknown: text === '' ? [] : unknown };
}
