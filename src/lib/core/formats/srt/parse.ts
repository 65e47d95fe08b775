/** Reads SubRip text. */
import { wholeMs } from '../../time';
import type { Placement } from '../../track';
import {
  badTiming,
  fillTimes,
  isMeantAsTiming,
  liftedTags,
  oddTiming,
  parseTiming,
  quote,
  readMarkup,
  splitLines,
  type FileCue,
  type ParsedCaptions,
  type ParseProblem
} from '../caption-file';

/** Reads what can be read: every timing line opens a cue, numbers are not needed, blank lines within a text are left out. */
export function parseSrt(content: string): ParsedCaptions {
  const lines = splitLines(content);
  const cues: FileCue[] = [];
  const untimed = new Set<FileCue>();
  const problems: ParseProblem[] = [];
  const timings = lines.map((line) => parseTiming(line, 'srt') ?? (opensCue(line) ? 'unreadable' : null));
  let at = 0;
  for (; at < lines.length && timings[at] === null; at++) {
    const text = lines[at]!.trim();
    if (text === '' || /^\d+$/.test(text)) continue;
    problems.push({
      code: 'stray_text',
      line: at + 1,
      message: `${quote(text)} stands before the first cue; left out.`,
      outcome: 'skipped'
    });
  }
  while (at < lines.length) {
    const timing = timings[at]!;
    const line = at + 1;
    if (timing === 'unreadable') problems.push(badTiming(line, lines[at]!));
    else if (!timing.isStrict) problems.push(oddTiming(line, lines[at]!));
    at++;
    const from = at;
    while (at < lines.length && timings[at] === null) at++;
    let to = at;
    while (to > from && isBlank(lines[to - 1]!)) to--;
    // The number of the next cue is no text, with or without a blank line before it.
    const isNumber = at < lines.length && to > from && /^\s*\d+\s*$/.test(lines[to - 1]!);
    if (isNumber && (to - from === 1 || to === at)) to--;
    while (to > from && isBlank(lines[to - 1]!)) to--;
    const text = lines.slice(from, to);
    if (text.some(isBlank)) {
      problems.push({
        code: 'blank_line',
        line,
        message: 'A blank line within the text was left out.',
        outcome: 'repaired'
      });
    }
    const isCoded = text.some((one) => one.includes('{'));
    const placed = isCoded ? /^\s*\{\\an([1-9])\}/.exec(text[0] ?? '') : null;
    const markup = readMarkup(isCoded ? text.map((one) => one.replace(/\{\\[^{}]*\}/g, '')) : text, (one) => one);
    if (markup.unknownTags.length > 0) {
      problems.push(liftedTags(line, markup.unknownTags));
    }
    const isTimed = timing !== 'unreadable';
    const cue: FileCue = {
      line,
      startMs: isTimed ? timing.startMs : wholeMs(0),
      endMs: isTimed ? timing.endMs : wholeMs(0),
      lines: markup.lines,
      placement: placed === null ? null : KEYPAD[Number(placed[1]) - 1]!,
      carried: null
    };
    if (!isTimed) untimed.add(cue);
    cues.push(cue);
  }
  return { cues: fillTimes(cues, untimed), problems, carried: null };
}

/** Times with an arrow, or what is left of them; an arrow between words is text. */
const opensCue = (line: string): boolean => isMeantAsTiming(line) && /\d\s*[:;.,]\s*\d/.test(line);

const isBlank = (line: string): boolean => line === '' || line.trim() === '';

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
