/**
 * The character code tables of EBU STL (EBU Tech 3264, 4.3 and appendix 2): Latin as ISO 6937 has it, in which an accent
 * stands before its letter, and parts 5 to 8 of ISO 8859.
 */

/** ISO 6937 from 0xA0 on; a space where there is no letter. */
const UPPER_ROWS = [
  '\u00a0¡¢£$¥ §¤‘“«←↑→↓',
  '°±²³×µ¶·÷’”»¼½¾¿',
  '                ',
  '            ⅛⅜⅝⅞',
  'ΩÆĐªĦ ĲĿŁØŒºÞŦŊŉ',
  'ĸæđðħıĳŀłøœßþŧŋ\u00ad'
];
const EXTRA: Readonly<Record<number, string>> = {
  ...{ 0xd0: '―', 0xd1: '¹', 0xd2: '®', 0xd3: '©', 0xd4: '™', 0xd5: '♪', 0xd6: '¬', 0xd7: '¦' }
};
/** Accents, as they are combined in Unicode. */
const ACCENTS: Readonly<Record<number, string>> = {
  ...{ 0xc1: '\u0300', 0xc2: '\u0301', 0xc3: '\u0302', 0xc4: '\u0303', 0xc5: '\u0304', 0xc6: '\u0306', 0xc7: '\u0307' },
  ...{ 0xc8: '\u0308', 0xca: '\u030a', 0xcb: '\u0327', 0xcd: '\u030b', 0xce: '\u0328', 0xcf: '\u030c' }
};
const ACCENT_CODES = new Map(Object.entries(ACCENTS).map(([code, accent]) => [accent, Number(code)]));

const latin = new Map<number, string>(Object.entries(EXTRA).map(([code, letter]) => [Number(code), letter]));
for (let code = 0x20; code < 0x7f; code++) latin.set(code, String.fromCharCode(code));
UPPER_ROWS.forEach((row, at) => {
  [...row].forEach((letter, column) => {
    if (letter !== ' ') latin.set(0xa0 + at * 16 + column, letter);
  });
});
/** The dollar is 0xA4 in the standard's edition of 1983, which the format names, and 0x24 in later ones: both are read. */
const latinCodes = new Map([...latin].map(([code, letter]) => [letter, code]));
latinCodes.set(' ', 0x20);
latinCodes.set('–', 0xd0).set('—', 0xd0);

/** A code table: its number in the file, bytes of a letter (`null`: it has none), and text of bytes. */
export interface CodeTable {
  readonly id: '00' | '01' | '02' | '03' | '04';
  readonly encode: (cluster: string) => readonly number[] | null;
  readonly decode: (bytes: readonly number[]) => string;
}

const LATIN: CodeTable = {
  id: '00',
  encode(cluster) {
    const whole = latinCodes.get(cluster.normalize('NFC'));
    if (whole !== undefined) return [whole];
    const [letter = '', accent = '', ...more] = cluster.normalize('NFD');
    const base = latinCodes.get(letter);
    const sign = ACCENT_CODES.get(accent);
    return more.length > 0 || base === undefined || sign === undefined || !/[a-z]/i.test(letter) ? null : [sign, base];
  },
  decode(bytes) {
    let text = '';
    let accent = '';
    for (const byte of bytes) {
      const sign = ACCENTS[byte];
      if (sign !== undefined) {
        accent = sign;
        continue;
      }
      text += `${latin.get(byte) ?? '\ufffd'}${accent}`;
      accent = '';
    }
    return text.normalize('NFC');
  }
};

function part(id: CodeTable['id'], encoding: string): CodeTable {
  const decoder = new TextDecoder(encoding);
  const codes = new Map<string, number>();
  for (let code = 0x20; code < 0x100; code++) {
    const letter = decoder.decode(Uint8Array.of(code));
    // From 0x80 on there are codes of the format's own.
    if ((code < 0x7f || code >= 0xa0) && letter !== '\ufffd') codes.set(letter, code);
  }
  return {
    id,
    encode(cluster) {
      const bytes = [...cluster.normalize('NFC')].map((letter) => codes.get(letter));
      return bytes.every((byte) => byte !== undefined) ? bytes : null;
    },
    decode: (bytes) => decoder.decode(Uint8Array.from(bytes))
  };
}

export const CODE_TABLES: readonly CodeTable[] = [
  LATIN,
  part('01', 'iso-8859-5'),
  part('02', 'iso-8859-6'),
  part('03', 'iso-8859-7'),
  part('04', 'iso-8859-8')
];
