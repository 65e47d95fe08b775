/** Cues as a table (RFC 4180), for spreadsheets: a row a cue, with its number, times, speaker and text. */
import Papa from 'papaparse';
import { wholeMs, type Ms } from '../../time';
import { cueSpeaker, formatMarkedLine, shownWordsOfAll, signedLines, type Track } from '../../track';
import {
  fillTimes,
  formatFileTime,
  hasVisible,
  PLAIN_TIME_LENGTH,
  plainLine,
  plainTime,
  quote,
  withoutControls,
  type FileCue,
  type FileLine,
  type ParsedCaptions,
  type ParseProblem
} from '../caption-file';
import type { WriteOptions } from '../options';

const HEAD = ['number', 'start', 'end', 'speaker', 'text'] as const;
type Column = (typeof HEAD)[number];

/** What spreadsheets take for a formula stands behind an apostrophe, which reading takes off again. */
const FORMULA = /^'?[=+\-@\t\r]/;
const cell = (text: string): string => (FORMULA.test(text) ? `'${text}` : text);
const uncelled = (text: string): string => (text.startsWith("'") && /^'+[=+\-@\t\r]/.test(text) ? text.slice(1) : text);

export function formatCsv(track: Track, { speakers }: WriteOptions): string {
  const words = shownWordsOfAll(track);
  const names = new Map(track.speakers.map(({ id, name }) => [id, name]));
  const rows = track.cues.map((cue, at) => {
    const speakerId = speakers ? cueSpeaker(track, cue) : null;
    const lines = signedLines(track, cue, words[at]!).map(
      (line) => plainLine(line) ?? withoutControls(formatMarkedLine(line))
    );
    return [
      ...[String(at + 1), formatFileTime(cue.startMs, '.'), formatFileTime(cue.endMs, '.')],
      ...[cell(speakerId === null ? '' : (names.get(speakerId) ?? '')), cell(lines.filter(hasVisible).join('\n'))]
    ];
  });
  return `${Papa.unparse([[...HEAD], ...rows], { newline: '\r\n' })}\r\n`;
}

/** What columns are called in tables that others made. */
const CALLED: Readonly<Record<Column, RegExp>> = {
  number: /^(?:number|no\.?|#|id|index)$/i,
  start: /^(?:start|begin|in|from)/i,
  end: /^(?:end|out|to)\b/i,
  speaker: /^(?:speaker|voice|name|character)/i,
  text: /^(?:text|caption|subtitle|dialogue|words)/i
};

const LINE_END = /\r\n?|\n/;
const TIME = /^(?:(?:(\d{1,4}):)?(\d{1,3}):)?(\d{1,6})(?:[.,](\d{1,6}))?$/;
function parseTime(text: string): Ms | null {
  const plainMs = text.length === PLAIN_TIME_LENGTH ? plainTime(text, 0, '.') : -1;
  if (plainMs >= 0) return wholeMs(plainMs);
  const found = TIME.exec(text.trim());
  if (found === null) return null;
  const [, hours, minutes, seconds, fraction] = found;
  const whole = (Number(hours ?? 0) * 60 + Number(minutes ?? 0)) * 60 + Number(seconds);
  return wholeMs(whole * 1000 + Number(`0.${fraction ?? 0}`) * 1000);
}

/** Columns by their names, in any order; without any that is known, as we write them. */
export function parseCsv(content: string): ParsedCaptions {
  const { data, errors } = Papa.parse<string[]>(content.replace(/^\ufeff/, ''), { skipEmptyLines: 'greedy' });
  const problems: ParseProblem[] = errors
    .filter(({ type }) => type !== 'Delimiter')
    .slice(0, 50)
    .map(({ row, message }) => ({
      ...{ code: 'bad_markup', line: (row ?? 0) + 1, outcome: 'repaired' },
      message: `The table is not written as it should be: ${message}; read all the same.`
    }));
  const first = data[0]?.map((name) => name.trim()) ?? [];
  const named = (column: Column): number => first.findIndex((name) => CALLED[column].test(name));
  const isNamed = named('start') >= 0 && named('text') >= 0;
  const at = Object.fromEntries(HEAD.map((column, place) => [column, isNamed ? named(column) : place])) as Record<
    Column,
    number
  >;
  const untimed = new Set<FileCue>();
  const cues: FileCue[] = [];
  const from = isNamed ? 1 : 0;
  for (let index = from; index < data.length; index++) {
    const row = data[index]!;
    const get = (column: Column): string => uncelled((row[at[column]] ?? '').trim());
    const [start, speaker] = [get('start'), get('speaker') || null];
    const startMs = parseTime(start);
    const lines: FileLine[] = [];
    for (const one of get('text').split(LINE_END)) {
      const markup = withoutControls(one).trim();
      if (hasVisible(markup)) lines.push({ markup, speaker });
    }
    if (startMs === null && lines.length === 0) continue;
    const cue: FileCue = {
      line: index + 1,
      startMs: startMs ?? wholeMs(0),
      endMs: parseTime(get('end')) ?? startMs ?? wholeMs(0),
      lines,
      placement: null,
      carried: null
    };
    cues.push(cue);
    if (startMs !== null) continue;
    untimed.add(cue);
    problems.push({
      ...{ code: 'bad_timing', line: cue.line, outcome: 'repaired' },
      message: `${quote(start)} is no time that can be read; its text stands behind the cue before it.`
    });
  }
  return { cues: fillTimes(cues, untimed), problems, carried: null };
}
