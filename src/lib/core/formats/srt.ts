/** SubRip text (.srt): a number, a timing line with comma milliseconds, lines of text, a blank line. It has no standard. */
import { formatMarkedLine, signedLines, shownWordsOfAll, type Placement, type Track } from '../track';
import {
  formatTiming,
  hasVisible,
  liftedTags,
  oddTiming,
  parseTiming,
  quoted,
  readMarkup,
  splitLines,
  withoutControls,
  type FileCue,
  type ParsedCaptions,
  type ParseProblem
} from './caption-file';

/** Reads what can be read: every timing line opens a cue, numbers are not needed, blank lines within a text are left out. */
export function parseSrt(content: string): ParsedCaptions {
  const lines = splitLines(content);
  const cues: FileCue[] = [];
  const problems: ParseProblem[] = [];
  const timings = lines.map((line) => (line.includes('>') ? parseTiming(line, 'srt') : null));
  let at = 0;
  for (; at < lines.length && timings[at] === null; at++) {
    const text = lines[at]!.trim();
    if (text === '' || /^\d+$/.test(text)) continue;
    problems.push(
      text.includes('-->')
        ? {
            code: 'bad_timing',
            line: at + 1,
            message: `${quoted(text)} is no timing that can be read; left out.`,
            outcome: 'skipped'
          }
        : {
            code: 'stray_text',
            line: at + 1,
            message: `${quoted(text)} stands before the first cue; left out.`,
            outcome: 'skipped'
          }
    );
  }
  while (at < lines.length) {
    const timing = timings[at]!;
    const line = at + 1;
    if (!timing.isStrict) {
      problems.push(oddTiming(line, lines[at]!));
    }
    at++;
    const text: string[] = [];
    while (at < lines.length && timings[at] === null) text.push(lines[at++]!);
    if (at < lines.length) {
      // The number of the next cue is no text, with or without a blank line before it.
      const last = text.findLastIndex((one) => one.trim() !== '');
      if (last >= 0 && /^\s*\d+\s*$/.test(text[last]!) && (last === 0 || text.length - 1 === last)) text.length = last;
    }
    while (text.length > 0 && text.at(-1)!.trim() === '') text.pop();
    const bad = text.findIndex((one) => one.includes('-->'));
    if (bad >= 0) {
      problems.push({
        code: 'bad_timing',
        line: line + 1 + bad,
        message: `${quoted(text[bad]!)} is no timing that can be read; kept as text.`,
        outcome: 'kept'
      });
    }
    if (text.some((one) => one.trim() === '')) {
      problems.push({
        code: 'blank_line',
        line,
        message: 'A blank line within the text was left out.',
        outcome: 'repaired'
      });
    }
    const placed = /^\s*\{\\an([1-9])\}/.exec(text[0] ?? '');
    const markup = readMarkup(
      text.map((one) => one.replace(/\{\\[^{}]*\}/g, '')),
      (one) => one
    );
    if (markup.unknownTags.length > 0) {
      problems.push(liftedTags(line, markup.unknownTags));
    }
    cues.push({
      line,
      startMs: timing.startMs,
      endMs: timing.endMs,
      lines: markup.lines,
      placement: placed === null ? null : KEYPAD[Number(placed[1]) - 1]!,
      carried: null
    });
  }
  return { cues, problems, carried: null };
}

/** Places as on a number pad, from 1. */
const KEYPAD: readonly Placement[] = [
  'bottom left',
  'bottom centre',
  'bottom right',
  'middle left',
  'middle centre',
  'middle right',
  'top left',
  'top centre',
  'top right'
];

export function formatSrt(track: Track): string {
  const words = shownWordsOfAll(track);
  const lines: string[] = [];
  track.cues.forEach((cue, at) => {
    const text = signedLines(track, cue, words[at]!).map(formatMarkedLine).filter(hasVisible).map(srtLine);
    lines.push(String(at + 1), formatTiming(cue, ','));
    // A cue without text keeps its place and time: readers drop one that has no line at all.
    if (text.length > 0) lines.push(...text, '');
    else lines.push('\u00a0', '');
  });
  return lines.join('\n');
}

const JOINER = '\u2060';

/** The format has no escapes: an unseen joiner keeps text from being read as a tag, a timing or a number. */
function srtLine(markup: string): string {
  const line = withoutControls(markup);
  // Most lines hold nothing that could be read as anything but text.
  const text = /[<&{]/.test(line)
    ? line
        .split(/(<\/?[ibu]>)/)
        .map((part, at) => (at % 2 === 1 ? part : srtText(part)))
        .join('')
    : line;
  return text.replace(/^(?=\d+$)/, JOINER);
}

const srtText = (escaped: string): string =>
  escaped
    .replaceAll('&lt;', '<')
    .replaceAll('&gt;', '>')
    .replaceAll('&amp;', '&')
    .replaceAll('-->', `--${JOINER}>`)
    .replace(/<(?=\/?[a-z\d])/gi, `<${JOINER}`)
    .replace(/\{(?=\\)/g, `{${JOINER}`);
