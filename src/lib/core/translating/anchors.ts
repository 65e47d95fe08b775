/** What stays the same in a translation: figures, whatever digits they are written in, and names. */

/** Code points of the digit nought in the scripts that write numbers in tens (Unicode, general category Nd). */
const NOUGHTS = [
  0x30, 0x660, 0x6f0, 0x7c0, 0x966, 0x9e6, 0xa66, 0xae6, 0xb66, 0xbe6, 0xc66, 0xce6, 0xd66, 0xe50, 0xed0, 0xf20, 0x1040,
  0x17e0, 0x1810, 0xff10
];

/** Text with the digits of every script as 0 to 9. */
export const plainDigits = (text: string): string =>
  text.replace(/\p{Nd}/gu, (digit) => {
    const code = digit.codePointAt(0)!;
    const nought = NOUGHTS.find((first) => code >= first && code < first + 10);
    return nought === undefined ? digit : String(code - nought);
  });

/** A figure without what groups or parts its digits, which languages write each in their own way. */
const FIGURE = /\d+(?:[.,:٫٬'’\u00a0\u202f]\d+)*/g;
/** Two letters at least, the first a capital one. */
const NAME = /(?<![\p{L}\p{M}])\p{Lu}[\p{L}\p{M}'’-]*\p{L}/gu;

export const figuresIn = (text: string): readonly string[] =>
  (plainDigits(text).match(FIGURE) ?? []).map((figure) => figure.replace(/\D/g, ''));

/** Words with a capital that do not begin a sentence. */
export function namesIn(text: string): readonly string[] {
  const names: string[] = [];
  for (const { 0: name, index } of text.matchAll(NAME)) {
    const before = text.slice(0, index).trimEnd();
    if (before !== '' && !/[.!?…:]["'”’»)\]]*$|^[¿¡"'“‘«([-]+$/u.test(before)) names.push(name);
  }
  return names;
}

/** Figures and names, the same ones for a text and its translation. */
export const anchorsIn = (text: string): readonly string[] => [...figuresIn(text), ...namesIn(text)];
