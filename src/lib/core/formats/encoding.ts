/**
 * The text of a file in whatever encoding it was written: by its byte-order mark, else as UTF-8 where it is that to the
 * byte, else as the statistics of its bytes have it (ICU's, by chardet). Decoded as the Encoding Standard has it.
 */
import { analyse } from 'chardet';

/** Encodings that captions are found in, as the Encoding Standard names them, with what people call them. */
export const ENCODINGS = [
  ['utf-8', 'UTF-8'],
  ['utf-16le', 'UTF-16, little end first'],
  ['utf-16be', 'UTF-16, big end first'],
  ['windows-1252', 'Western (Windows-1252)'],
  ['iso-8859-15', 'Western (ISO 8859-15)'],
  ['macintosh', 'Western (Mac)'],
  ['windows-1250', 'Central European (Windows-1250)'],
  ['iso-8859-2', 'Central European (ISO 8859-2)'],
  ['windows-1251', 'Cyrillic (Windows-1251)'],
  ['koi8-r', 'Cyrillic (KOI8-R)'],
  ['iso-8859-5', 'Cyrillic (ISO 8859-5)'],
  ['x-mac-cyrillic', 'Cyrillic (Mac)'],
  ['windows-1253', 'Greek (Windows-1253)'],
  ['iso-8859-7', 'Greek (ISO 8859-7)'],
  ['windows-1254', 'Turkish (Windows-1254)'],
  ['windows-1255', 'Hebrew (Windows-1255)'],
  ['windows-1256', 'Arabic (Windows-1256)'],
  ['windows-1257', 'Baltic (Windows-1257)'],
  ['windows-1258', 'Vietnamese (Windows-1258)'],
  ['windows-874', 'Thai (Windows-874)'],
  ['shift_jis', 'Japanese (Shift JIS)'],
  ['euc-jp', 'Japanese (EUC)'],
  ['iso-2022-jp', 'Japanese (ISO 2022)'],
  ['euc-kr', 'Korean (EUC)'],
  ['gb18030', 'Chinese, simplified (GB 18030)'],
  ['big5', 'Chinese, traditional (Big5)']
] as const;
export type Encoding = (typeof ENCODINGS)[number][0];

const isEncoding = (name: string): name is Encoding => ENCODINGS.some(([id]) => id === name);

/** What a file begins with that says how it is written. */
const MARKS: readonly (readonly [Encoding, readonly number[]])[] = [
  ['utf-8', [0xef, 0xbb, 0xbf]],
  ['utf-16le', [0xff, 0xfe]],
  ['utf-16be', [0xfe, 0xff]]
];
/** So many bytes tell. */
const LOOKED_AT = 200_000;

/** The text, without a byte-order mark; bytes that the encoding has no sign for become U+FFFD. */
export const decodeText = (bytes: Uint8Array, encoding: Encoding): string => new TextDecoder(encoding).decode(bytes);

/** How the bytes are most likely written. */
export function findEncoding(bytes: Uint8Array): Encoding {
  const marked = MARKS.find(([, mark]) => mark.every((byte, at) => bytes[at] === byte));
  if (marked !== undefined) return marked[0];
  const start = bytes.subarray(0, LOOKED_AT);
  if (isUtf8(start)) return 'utf-8';
  const wide = zeroBytes(start);
  if (wide !== null) return wide;
  const likely = analyse(start).flatMap(({ name }) => encodingOf(name) ?? [])[0] ?? 'windows-1252';
  return WESTERN.includes(likely) && isMacRoman(start) ? 'macintosh' : likely;
}

/** What bytes of Mac Roman are taken for. */
const WESTERN: readonly Encoding[] = ['windows-1252', 'iso-8859-15', 'windows-1250', 'iso-8859-2', 'windows-1254'];
/** Letters of Mac Roman (á à â ç è ê ë ò ù) that Windows-1252 has as signs, or not at all. */
const MAC_LETTERS = new Set([0x87, 0x88, 0x89, 0x8d, 0x8f, 0x90, 0x98, 0x9d]);
const isLetter = (byte: number | undefined): boolean =>
  byte !== undefined && ((byte >= 0x41 && byte <= 0x5a) || (byte >= 0x61 && byte <= 0x7a));

/** Whether more accents stand beside letters as Mac Roman has them than as Windows-1252 has. */
function isMacRoman(bytes: Uint8Array): boolean {
  let mac = 0;
  let windows = 0;
  bytes.forEach((byte, at) => {
    if (byte < 0x80 || !(isLetter(bytes[at - 1]) || isLetter(bytes[at + 1]))) return;
    if (MAC_LETTERS.has(byte)) mac++;
    else if (byte >= 0xe0) windows++;
  });
  return mac > windows;
}

function isUtf8(bytes: Uint8Array): boolean {
  try {
    // The end may be cut within a sign.
    new TextDecoder('utf-8', { fatal: true }).decode(bytes, { stream: true });
    return !bytes.includes(0);
  } catch {
    return false;
  }
}

/** Timings are ASCII: in UTF-16 every other byte of them is zero. */
function zeroBytes(bytes: Uint8Array): Encoding | null {
  const zeros = [0, 0];
  for (let at = 0; at < bytes.length; at++) if (bytes[at] === 0) zeros[at % 2]!++;
  const most = Math.max(...zeros);
  if (most < bytes.length / 8) return null;
  return zeros[1] === most ? 'utf-16le' : 'utf-16be';
}

/** By the name that the Encoding Standard gives to what was found; `null` for what is not on the list. */
function encodingOf(name: string): Encoding | null {
  try {
    const standard = new TextDecoder(name).encoding;
    return isEncoding(standard) ? standard : null;
  } catch {
    return null;
  }
}
