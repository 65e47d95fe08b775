/** EBU STL (EBU Tech 3264-1991): a block of 1,024 bytes about the file, and blocks of 128 bytes with the subtitles. */
export { cannotSayStl } from './cannot-say';
export { formatStl } from './format';
export { isStl, parseStl } from './parse';
