/** A script as it is written, with the words of a dictionary that each of its words is spoken as. */
import { spokenForms } from '../expecting';
import { sayNumber } from './say-number';

export interface ScriptWord {
  /** To the letter. */
  readonly text: string;
  /** As it is spoken, in small letters; empty for a sign that is not. */
  readonly forms: readonly string[];
  readonly startsParagraph: boolean;
}

/** Words are what stands between white space; a line that is left empty begins a paragraph. */
export function readScript(script: string): readonly ScriptWord[] {
  const paragraphs = script.normalize('NFC').split(/(?:\r\n?|\n)[^\S\r\n]*(?:\r\n?|\n)\s*/);
  return paragraphs.flatMap((paragraph) =>
    paragraph
      .split(/\s+/)
      .filter((text) => text !== '')
      .map((text, at) => ({ text, forms: saidAs(text), startsParagraph: at === 0 }))
  );
}

const saidAs = (text: string): readonly string[] =>
  spokenForms(
    text
      .replace(/(\d)[,'’](?=\d{3})/g, '$1')
      .replace(/([$£€])\s?(\d+)\.(\d\d)(?!\d)/g, (_, sign: string, whole: string, rest: string) =>
        rest === '00' ? `${sign}${whole}` : `${whole} ${CURRENCIES[sign]} ${rest}`
      )
      .replace(/[$£€]\s?(\d[\d.]*)/g, (_, amount: string) => `${amount} ${CURRENCIES[text.match(/[$£€]/)![0]]}`)
      .replace(/%/g, ' percent ')
      .replace(/\d+(?:\.\d+)?(st|nd|rd|th)?/g, (number) => ` ${sayNumber(number)} `)
  );
const CURRENCIES: Readonly<Record<string, string>> = { $: 'dollars', '£': 'pounds', '€': 'euros' };
