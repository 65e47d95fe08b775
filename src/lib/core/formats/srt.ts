/** SubRip text (.srt): a number, a timing line with comma milliseconds, lines of text, a blank line. It has no standard. */
import { markedLines, type Track } from '../track';
import {
  formatFileTime,
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
      settings: placed === null ? null : KEYPAD[placed[1]!]!
    });
  }
  return { cues, problems, header: '', blocks: [] };
}

/** Places as on a number pad, said as WebVTT settings. */
const KEYPAD: Readonly<Record<string, string>> = {
  1: 'position:5% align:start',
  2: '',
  3: 'position:95% align:end',
  4: 'line:50%,center position:5% align:start',
  5: 'line:50%,center',
  6: 'line:50%,center position:95% align:end',
  7: 'line:0 position:5% align:start',
  8: 'line:0',
  9: 'line:0 position:95% align:end'
};

export function formatSrt(track: Track): string {
  return track.cues
    .map((cue, at) => {
      const lines = markedLines(track, cue).filter(hasVisible).map(srtLine);
      // A cue without text keeps its place and time: readers drop one that has no line at all.
      return `${at + 1}\n${formatFileTime(cue.startMs, ',')} --> ${formatFileTime(cue.endMs, ',')}\n${lines.length > 0 ? lines.join('\n') : '\u00a0'}\n`;
    })
    .join('\n');
}

const JOINER = '\u2060';

/** The format has no escapes: an unseen joiner keeps text from being read as a tag, a timing or a number. */
function srtLine(markup: string): string {
  const parts = withoutControls(markup).split(/(<\/?[ibu]>)/);
  return parts
    .map((part, at) => (at % 2 === 1 ? part : srtText(part)))
    .join('')
    .replace(/^(?=\d+$)/, JOINER);
}

const srtText = (escaped: string): string =>
  escaped
    .replaceAll('&lt;', '<')
    .replaceAll('&gt;', '>')
    .replaceAll('&amp;', '&')
    .replaceAll('-->', `--${JOINER}>`)
    .replace(/<(?=\/?[a-z\d])/gi, `<${JOINER}`)
    .replace(/\{(?=\\)/g, `{${JOINER}`);
