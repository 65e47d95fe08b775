/** SCC: the bytes of line 21 captions (ANSI/CTA-608-E) in lines of hexadecimal pairs, each with its time code. */
export { cannotSayScc } from './cannot-say';
export { formatScc } from './format';
export { isScc, parseScc } from './parse';
