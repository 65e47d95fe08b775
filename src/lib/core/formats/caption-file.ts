/** What every captions format says: timed cues of lines, each with who speaks it. Readers give it, writers take it. */
import type { Ms, Span } from '../time';
import { escapeMarkup, type Cue, type Placement, type Track } from '../track';

export interface FileLine {
  /** Text with `<i>`, `<b>`, `<u>`; a literal `&`, `<`, `>` stands as its entity. */
  readonly markup: string;
  readonly speaker: string | null;
}

export interface FileCue {
  /** Line of the file its timing stands in, from 1. */
  readonly line: number;
  readonly startMs: Ms;
  /** May be at or before `startMs`, as files have it. */
  readonly endMs: Ms;
  readonly lines: readonly FileLine[];
  /** Where the file puts it, at the nearest of our places; `null` where it says nothing of that. */
  readonly placement: Placement | null;
  readonly carried: Cue['carried'];
}

export interface ParseProblem {
  readonly code:
    | 'no_header'
    | 'bad_timing'
    | 'odd_timing'
    | 'blank_line'
    | 'unknown_tag'
    | 'zero_length'
    | 'backward'
    | 'overlap'
    | 'unsorted'
    | 'past_end'
    | 'stray_text'
    | 'bad_character';
  /** From 1. */
  readonly line: number;
  readonly message: string;
  readonly outcome: 'kept' | 'repaired' | 'skipped';
}

export interface ParsedCaptions {
  readonly cues: readonly FileCue[];
  readonly problems: readonly ParseProblem[];
  readonly carried: Track['carried'];
}

/** Lines of a file in any line ending, without its byte-order mark; NUL becomes U+FFFD. */
export const splitLines = (content: string): string[] =>
  content
    .replace(/^\ufeff/, '')
    .replaceAll('\u0000', '\ufffd')
    .replace(/\r\n?/g, '\n')
    .split('\n');

const TIME = String.raw`(?:(\d{1,4}):)?(\d{1,2}):(\d{1,2})(?:[.,](\d{1,6}))?`;
const TIMING = new RegExp(String.raw`^\s*${TIME}\s*-{1,2}>\s*${TIME}(?:\s+(.*?))?\s*$`);
const STRICT = {
  srt: /^\d{2,}:[0-5]\d:[0-5]\d,\d{3} --> \d{2,}:[0-5]\d:[0-5]\d,\d{3}$/,
  vtt: /^(?:\d{2,}:)?[0-5]\d:[0-5]\d\.\d{3}[ \t]+-->[ \t]+(?:\d{2,}:)?[0-5]\d:[0-5]\d\.\d{3}(?:[ \t].*)?$/
};

export interface Timing {
  readonly startMs: Ms;
  readonly endMs: Ms;
  readonly rest: string;
  readonly isStrict: boolean;
}

/** A timing line, read as leniently as it can be understood; `isStrict` says whether the format's own grammar has it so. */
export function parseTiming(line: string, format: 'srt' | 'vtt'): Timing | null {
  const found = TIMING.exec(line);
  if (found === null) return null;
  const ms = (at: number): number =>
    ((Number(found[at] ?? 0) * 60 + Number(found[at + 1])) * 60 + Number(found[at + 2])) * 1000 +
    Number((found[at + 3] ?? '').padEnd(3, '0').slice(0, 3));
  return { startMs: ms(1), endMs: ms(5), rest: found[9] ?? '', isStrict: STRICT[format].test(line) };
}

const TAG = /<(\/?)([a-z]+)([^<>]*)>|<\d[\d:.]*>/gi;

/**
 * The inline tags of a file's text to the small markup: `i`, `b`, `u` stay, `v` names the speaker, others are lifted off
 * and what they hold is kept. `decode` turns the file's own escapes into characters.
 */
export function readMarkup(
  lines: readonly string[],
  decode: (text: string) => string
): { readonly lines: readonly FileLine[]; readonly unknownTags: readonly string[] } {
  const unknownTags = new Set<string>();
  let speaker: string | null = null;
  const read = lines.map((line) => {
    if (!line.includes('<')) return { markup: escapeMarkup(decode(line)).trim(), speaker };
    let markup = '';
    let last = 0;
    let lineSpeaker: string | null = speaker;
    let hasText = false;
    const add = (text: string): void => {
      if (text.trim() !== '' && !hasText) {
        hasText = true;
        lineSpeaker = speaker;
      }
      markup += escapeMarkup(decode(text));
    };
    for (const found of line.matchAll(TAG)) {
      add(line.slice(last, found.index));
      last = found.index + found[0].length;
      const [whole, slash = '', tag] = found;
      const name = tag?.toLowerCase();
      if (name === 'i' || name === 'b' || name === 'u') markup += `<${slash}${name}>`;
      else if (name === 'v')
        speaker = slash === '' ? decode(found[3]!.replace(/^[.\w-]*\s*/, '')).trim() || null : null;
      else unknownTags.add(whole);
    }
    add(line.slice(last));
    return { markup: markup.trim(), speaker: lineSpeaker };
  });
  return { lines: read.filter((line) => hasVisible(line.markup)), unknownTags: [...unknownTags] };
}

/** Whether there is anything to see besides markup and white space of any kind. */
export const hasVisible = (markup: string): boolean =>
  /[^\s\u00a0\u200b-\u200f\u2060\ufeff]/.test(markup.includes('<') ? markup.replace(/<[^>]*>/g, '') : markup);

/** Characters that no text file of captions may hold: controls, but for the tabulator. */
// eslint-disable-next-line no-control-regex -- they are what is looked for
const CONTROLS = /[\u0000-\u0008\u000a-\u001f\u007f-\u009f\u2028\u2029]/g;
export const withoutControls = (text: string): string => text.replace(CONTROLS, ' ');

/** `00:01:02.345` with the sign that the format sets before the milliseconds; hours of two digits or more. */
function formatFileTime(ms: Ms, sign: ',' | '.'): string {
  const pad = (value: number): string => (value < 10 ? `0${value}` : String(value));
  const seconds = Math.floor(ms / 1000);
  const minutes = Math.floor(seconds / 60);
  const thousandths = String(1000 + (ms % 1000)).slice(1);
  return `${pad(Math.floor(minutes / 60))}:${pad(minutes % 60)}:${pad(seconds % 60)}${sign}${thousandths}`;
}

export const formatTiming = ({ startMs, endMs }: Span, sign: ',' | '.'): string =>
  `${formatFileTime(startMs, sign)} --> ${formatFileTime(endMs, sign)}`;

/** As much of a line as a message quotes. */
export const quoted = (line: string): string => `“${line.trim().slice(0, 60)}”`;

export const oddTiming = (line: number, text: string): ParseProblem => ({
  code: 'odd_timing',
  line,
  message: `The timing ${quoted(text)} is not written as the format has it; read all the same.`,
  outcome: 'repaired'
});

export const liftedTags = (line: number, tags: readonly string[]): ParseProblem => ({
  code: 'unknown_tag',
  line,
  message: `${tags.join(' ')} was lifted off; what it holds is kept.`,
  outcome: 'repaired'
});
