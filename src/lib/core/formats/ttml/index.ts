/**
 * Timed Text Markup Language (TTML 2, https://www.w3.org/TR/ttml2/), written as two of its profiles: IMSC 1.1 Text
 * (https://www.w3.org/TR/ttml-imsc1.1/) and EBU-TT-D (EBU Tech 3380). Read as real files have it.
 */
export { formatTtml } from './format';
export { parseTtml } from './parse';
