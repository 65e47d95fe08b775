/** What every captions format says: timed cues of lines, each with who speaks it. Readers give it, writers take it. */
import { type Ms, type Span, toSpan, wholeMs } from '../time';
import {
  countCharacters,
  escapeMarkup,
  HOUSE_RULES,
  joinWords,
  type Cue,
  type Placement,
  type Track,
  type Word
} from '../track';

export interface FileLine {
  /** Text with `<i>`, `<b>`, `<u>`; a literal `&`, `<`, `>` stands as its entity. */
  readonly markup: string;
  readonly speaker: string | null;
  /** Of its words, parted by white space, where the file says when each is spoken; `null` for one of which it does not. */
  readonly wordTimes?: readonly (Span | null)[];
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
    | 'bad_character'
    | 'bad_markup';
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
  (content.includes('\r') ? content.replace(/\r\n?/g, '\n') : content)
    .replace(/^\ufeff/, '')
    .replaceAll('\u0000', '\ufffd')
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
  if (!line.includes('>')) return null;
  // Nearly all lines are written to the letter, and those are read without an expression.
  if (line.length === PLAIN_LENGTH && line.startsWith(' --> ', PLAIN_TIME_LENGTH)) {
    const startMs = plainTime(line, 0, SIGNS[format]);
    const endMs = plainTime(line, PLAIN_LENGTH - PLAIN_TIME_LENGTH, SIGNS[format]);
    if (startMs >= 0 && endMs >= 0)
      return { startMs: wholeMs(startMs), endMs: wholeMs(endMs), rest: '', isStrict: true };
  }
  const found = TIMING.exec(line);
  if (found === null) return null;
  const read = (at: number): number =>
    ((Number(found[at] ?? 0) * 60 + Number(found[at + 1])) * 60 + Number(found[at + 2])) * 1000 +
    Number((found[at + 3] ?? '').padEnd(3, '0').slice(0, 3));
  return {
    ...toSpan({ startMs: read(1), endMs: read(5) }),
    rest: found[9] ?? '',
    isStrict: STRICT[format].test(line)
  };
}

/** Whether a line is meant as a timing, with whatever arrow and times. */
export const isMeantAsTiming = (line: string): boolean =>
  line.includes('-->') || (beginsWithDigit(line) && /^\s*\d[\d:.,;\s]*(?:[-–—=]+>|→)\s*\d/.test(line));

/** Asked of every line of a file: only what may begin a time is looked at further. */
const beginsWithDigit = (line: string): boolean => line.charCodeAt(0) <= 0x39 || line.charCodeAt(0) > 0x7f;

/** Cues whose times could not be read, `untimed`, get the room behind the one before them, as long as their text takes. */
export function fillTimes(cues: readonly FileCue[], untimed: ReadonlySet<FileCue>): readonly FileCue[] {
  if (untimed.size === 0) return cues;
  const nextTimed: (FileCue | undefined)[] = [];
  let next: FileCue | undefined;
  for (let at = cues.length - 1; at >= 0; at--) {
    nextTimed[at] = next;
    if (!untimed.has(cues[at]!)) next = cues[at];
  }
  let lastEndMs = 0;
  return cues.map((cue, at) => {
    const timed = untimed.has(cue) ? { ...cue, ...roomAfter(lastEndMs, cue, nextTimed[at]) } : cue;
    lastEndMs = Math.max(timed.startMs, timed.endMs);
    return timed;
  });
}

function roomAfter(startMs: number, cue: FileCue, next: FileCue | undefined): Span {
  const neededMs = readableMs(cue.lines);
  const roomMs = next !== undefined && next.startMs > startMs ? next.startMs - startMs : neededMs;
  return toSpan({ startMs, endMs: startMs + Math.min(neededMs, roomMs) });
}

/** How long lines stay by the house's rules where a file does not say it. */
export const readableMs = (lines: readonly FileLine[]): number =>
  Math.max(
    HOUSE_RULES.minDurationMs,
    Math.round(
      (lines.reduce((sum, line) => sum + countCharacters(line.markup), 0) * 1000) / HOUSE_RULES.maxCharsPerSecond
    )
  );

export const badTiming = (line: number, text: string): ParseProblem => ({
  code: 'bad_timing',
  line,
  message: `${quote(text)} is no timing that can be read; its text stands behind the cue before it.`,
  outcome: 'repaired'
});

const SIGNS = { srt: ',', vtt: '.' } as const;
export const PLAIN_TIME_LENGTH = '00:00:00,000'.length;
const PLAIN_LENGTH = '00:00:00,000 --> 00:00:00,000'.length;

/** Milliseconds of `00:01:02,345` at a place of a line; below 0 where it is not written just so. */
export function plainTime(line: string, from: number, sign: ',' | '.'): number {
  if (line[from + 2] !== ':' || line[from + 5] !== ':' || line[from + 8] !== sign) return -1;
  const hours = twoDigits(line, from);
  const minutes = twoDigits(line, from + 3);
  const seconds = twoDigits(line, from + 6);
  const hundredths = twoDigits(line, from + 9);
  const last = line.charCodeAt(from + 11) - ZERO;
  if (hours < 0 || minutes < 0 || minutes > 59 || seconds < 0 || seconds > 59 || hundredths < 0) return -1;
  return last < 0 || last > 9 ? -1 : ((hours * 60 + minutes) * 60 + seconds) * 1000 + hundredths * 10 + last;
}

const ZERO = '0'.charCodeAt(0);

/** The number of two digits; -1 where they are none. */
function twoDigits(line: string, at: number): number {
  const [tens, ones] = [line.charCodeAt(at) - ZERO, line.charCodeAt(at + 1) - ZERO];
  return tens < 0 || tens > 9 || ones < 0 || ones > 9 ? -1 : tens * 10 + ones;
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
  isPlainSign(markup.charCodeAt(0)) ||
  /[^\s\u00a0\u200b-\u200f\u2060\ufeff]/.test(markup.includes('<') ? markup.replace(/<[^>]*>/g, '') : markup);

/** A letter, digit or sign of ASCII that opens no tag: what most lines begin with. */
const isPlainSign = (unit: number): boolean => unit > 0x20 && unit < 0x7f && unit !== 0x3c;

/** Characters that no text file of captions may hold: controls, but for the tabulator. */
// eslint-disable-next-line no-control-regex -- they are what is looked for
const CONTROLS = /[\u0000-\u0008\u000a-\u001f\u007f-\u009f\u2028\u2029]/g;
export const withoutControls = (text: string): string => text.replace(CONTROLS, ' ');

/** What a format could read as anything but text: markup, codes, controls. */
// eslint-disable-next-line no-control-regex -- they are what is looked for
const NOT_PLAIN = /[&<>{\u0000-\u001f\u007f-\u009f\u2028\u2029]/;

/** A line as it stands where it begins with a letter and holds nothing but text, as nearly all do; else `null`. */
export function plainLine(words: readonly Word[]): string | null {
  for (const { marks } of words) if (marks.length > 0) return null;
  const text = joinWords(words);
  const first = text.charCodeAt(0) | 0x20;
  return first >= 0x61 && first <= 0x7a && !NOT_PLAIN.test(text) ? text : null;
}

/** `00:01:02.345` with the sign that the format sets before the milliseconds; hours of two digits or more. */
export function formatFileTime(ms: Ms, sign: ',' | '.'): string {
  const pad = (value: number): string => (value < 10 ? `0${value}` : String(value));
  const seconds = Math.floor(ms / 1000);
  const minutes = Math.floor(seconds / 60);
  const thousandths = String(1000 + (ms % 1000)).slice(1);
  return `${pad(Math.floor(minutes / 60))}:${pad(minutes % 60)}:${pad(seconds % 60)}${sign}${thousandths}`;
}

export const formatTiming = ({ startMs, endMs }: Span, sign: ',' | '.'): string =>
  `${formatFileTime(startMs, sign)} --> ${formatFileTime(endMs, sign)}`;

/** As much of a line as a message quotes. */
export const quote = (line: string): string => `“${line.trim().slice(0, 60)}”`;

export const oddTiming = (line: number, text: string): ParseProblem => ({
  code: 'odd_timing',
  line,
  message: `The timing ${quote(text)} is not written as the format has it; read all the same.`,
  outcome: 'repaired'
});

export const liftedTags = (line: number, tags: readonly string[]): ParseProblem => ({
  code: 'unknown_tag',
  line,
  message: `${tags.join(' ')} was lifted off; what it holds is kept.`,
  outcome: 'repaired'
});
