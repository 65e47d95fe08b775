/** SubRip text (.srt): a number, a timing line with comma milliseconds, lines of text, a blank line. It has no standard. */
export { formatSrt, formatSrtCues, srtCues, type SrtCue } from './format';
export { parseSrt } from './parse';
