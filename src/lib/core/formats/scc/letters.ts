/** The letters of line 21 captions (ANSI/CTA-608-E, 6.4.2): plain ones in a byte, special and extended ones in two. */
import type { Pair } from './codes';

/** Where the plain ones are not those of ASCII. */
const PLAIN: Readonly<Record<number, string>> = {
  ...{ 0x2a: 'á', 0x5c: 'é', 0x5e: 'í', 0x5f: 'ó', 0x60: 'ú', 0x7b: 'ç', 0x7c: '÷', 0x7d: 'Ñ', 0x7e: 'ñ', 0x7f: '█' },
  0x27: '’'
};
/** From 0x20 or 0x30 of their first byte on. The no-break space is the one that shows the picture. */
const SPECIAL = [...'®°½¿™¢£♪à\u00a0èâêîôû'];
const EXTENDED: Readonly<Record<number, readonly string[]>> = {
  0x12: [..."ÁÉÓÚÜü‘¡*'—©℠•“”ÀÂÇÈÊËëÎÏïÔÙùÛ«»"],
  0x13: [...'ÃãÍÌìÒòÕõ{}\\^_|~ÄäÖöß¥¤¦ÅåØø┌┐└┘']
};

const plain = new Map<number, string>();
for (let code = 0x20; code <= 0x7f; code++) plain.set(code, PLAIN[code] ?? String.fromCharCode(code));
const plainCodes = new Map([...plain].map(([code, letter]) => [letter, code]));
const specialCodes = new Map(SPECIAL.map((letter, at): [string, Pair] => [letter, [0x11, 0x30 + at]]));
const extendedCodes = new Map(
  Object.entries(EXTENDED).flatMap(([first, letters]) =>
    letters.map((letter, at): [string, Pair] => [letter, [Number(first), 0x20 + at]])
  )
);
/** What says the same to who reads it. */
const ALIKE: Readonly<Record<string, string>> = {
  ...{ '–': '—', '‒': '—', '―': '—', '„': '“', '‟': '“', '‹': '<', '›': '>', '‚': ',', ʼ: '’', '…': '...' },
  // The straight one takes a second pair, and nobody writes it.
  "'": '’',
  ...{ '\u2011': '-', '\u2010': '-', '−': '-', '♫': '♪', '♩': '♪', '\u202f': ' ', '\u2009': ' ' }
};
/** Shown in the place of an extended one by decoders that know the plain ones alone. */
const FALLBACKS: Readonly<Record<string, string>> = {
  ...{ '‘': '’', '—': '-', '“': '"', '”': '"', '«': '"', '»': '"', '•': '.', '¡': '!', ß: 's', '|': '/' },
  ...{ '{': '(', '}': ')', '\\': '/', _: '-', Ø: 'O', ø: 'o', '¦': '/', '*': '.' }
};

/** How a letter is written: a plain byte, a special pair, or an extended pair behind the letter that it overwrites. */
export type Written =
  | { readonly kind: 'plain'; readonly byte: number }
  | { readonly kind: 'special'; readonly pair: Pair }
  | { readonly kind: 'extended'; readonly fallback: number; readonly pair: Pair };

const spaceCode = 0x20;
function fallbackOf(letter: string): number {
  const bare = letter.normalize('NFD')[0]!;
  return plainCodes.get(FALLBACKS[letter] ?? bare) ?? spaceCode;
}

const known = new Map<string, readonly Written[]>();

/** A cluster as columns of a row; `null` where there are no such letters. */
export function writeLetters(cluster: string): readonly Written[] | null {
  const before = known.get(cluster);
  if (before !== undefined) return before;
  const written = findLetters(cluster);
  // There are few letters, each in one or two forms.
  if (written !== null) known.set(cluster, written);
  return written;
}

function findLetters(cluster: string): readonly Written[] | null {
  const composed = cluster.normalize('NFC');
  const byte = plainCodes.get(composed);
  if (byte !== undefined) return [{ kind: 'plain', byte }];
  const special = specialCodes.get(composed);
  if (special !== undefined) return [{ kind: 'special', pair: special }];
  const alike = ALIKE[composed];
  if (alike !== undefined) return [...alike].flatMap((letter) => findLetters(letter)!);
  const extended = extendedCodes.get(composed);
  return extended === undefined ? null : [{ kind: 'extended', fallback: fallbackOf(composed), pair: extended }];
}

export const plainLetter = (byte: number): string => plain.get(byte) ?? ' ';
export const specialLetter = (first: number, second: number): string | null =>
  first === 0x11 && second >= 0x30 && second < 0x40 ? SPECIAL[second - 0x30]! : null;
export const extendedLetter = (first: number, second: number): string | null =>
  second >= 0x20 && second < 0x40 ? (EXTENDED[first]?.[second - 0x20] ?? null) : null;
