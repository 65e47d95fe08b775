/** A script as it is written, with the words of a dictionary that each of its words is spoken as. */
import { spokenForms } from '../expecting';
import { escapeMarkup, tokenize } from '../track';
import { sayNumber } from './say-number';

export interface ScriptWord {
  /** To the letter. */
  readonly text: string;
  /** As an English dictionary has it, in small letters; empty for a sign that is not spoken, and in other scripts. */
  readonly forms: readonly string[];
  readonly startsParagraph: boolean;
  /** False within a script that sets no spaces. */
  readonly spaceBefore: boolean;
}

/** A word without how it is said. */
export const withoutForms = ({ text, startsParagraph, spaceBefore }: ScriptWord): Omit<ScriptWord, 'forms'> => ({
  ...{ text, startsParagraph, spaceBefore }
});

/** Whether a synthesiser or a person says anything for it. */
export const isSpoken = ({ text }: Pick<ScriptWord, 'text'>): boolean => /[\p{L}\p{N}]/u.test(text);

/**
 * Words are what stands between white space, in scripts without spaces what the language (BCP 47) has as words; a line
 * that is left empty begins a paragraph.
 */
export function readScript(script: string, language: string): readonly ScriptWord[] {
  const paragraphs = script.normalize('NFC').split(/(?:\r\n?|\n)[^\S\r\n]*(?:\r\n?|\n)\s*/);
  return paragraphs.flatMap((paragraph) =>
    tokenize(escapeMarkup(paragraph), language).map(({ text, spaceBefore }, at) => ({
      ...{ text, forms: saidAs(text), startsParagraph: at === 0, spaceBefore }
    }))
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
