/** Reads EBU STL, open subtitles and those of teletext, in any of its code tables. */
import { wholeMs } from '../../time';
import { escapeMarkup, type Placement } from '../../track';
import { hasVisible, type FileCue, type FileLine, type ParsedCaptions, type ParseProblem } from '../caption-file';
import { CODES, GSI_BYTES, LAST_BLOCK, ROWS, TEXT_FROM, TTI_BYTES, USER_DATA } from './blocks';
import { CODE_TABLES } from './letters';

const ascii = (bytes: Uint8Array, from: number, length: number): string =>
  String.fromCharCode(...bytes.subarray(from, from + length));

export const isStl = (bytes: Uint8Array): boolean => /^STL\d\d\.\d\d$/.test(ascii(bytes, 3, 8));

interface Open {
  readonly line: number;
  readonly startMs: number;
  readonly endMs: number;
  readonly row: number;
  readonly side: number;
  readonly bytes: number[];
}

/** Lines of problems are blocks, from 1. Times count from the start of the programme, where the file says when that is. */
export function parseStl(bytes: Uint8Array): ParsedCaptions {
  const problems: ParseProblem[] = [];
  const cues: FileCue[] = [];
  if (!isStl(bytes) || bytes.length < GSI_BYTES) {
    problems.push({
      ...{ code: 'no_header', line: 1, outcome: 'skipped' },
      message: 'The file does not begin as EBU STL does.'
    });
    return { cues, problems, carried: null };
  }
  const rate = ascii(bytes, 6, 2) === '30' ? 30 : 25;
  const tableId = ascii(bytes, 12, 2).replace(' ', '0');
  const table = CODE_TABLES.find(({ id }) => id === tableId) ?? CODE_TABLES[0]!;
  const start = /^\d{8}$/.exec(ascii(bytes, 256, 8))?.[0] ?? '00000000';
  const [hours = 0, minutes = 0, seconds = 0, frames = 0] = [0, 2, 4, 6].map((at) => Number(start.slice(at, at + 2)));
  const programMs = (((hours * 60 + minutes) * 60 + seconds) * rate + frames) * (1000 / rate);
  const time = (at: number): number => {
    const count = ((bytes[at]! * 60 + bytes[at + 1]!) * 60 + bytes[at + 2]!) * rate + bytes[at + 3]!;
    return count * (1000 / rate);
  };
  const blocks = Math.floor((bytes.length - GSI_BYTES) / TTI_BYTES);
  const starts = Array.from({ length: blocks }, (_, block) => time(GSI_BYTES + block * TTI_BYTES + 5));
  // Some say an hour that no subtitle keeps to: then their times are those of the recording.
  const beganMs = starts.some((ms) => ms < programMs) ? 0 : programMs;
  if ((bytes.length - GSI_BYTES) % TTI_BYTES !== 0)
    problems.push({
      ...{ code: 'stray_text', line: blocks + 1, outcome: 'skipped' },
      message: 'The file ends within a block; the rest is left out.'
    });
  let open: Open | null = null;
  for (let block = 0; block < blocks; block++) {
    const from = GSI_BYTES + block * TTI_BYTES;
    const extension = bytes[from + 3]!;
    // Comments, and data of programs.
    if (extension === USER_DATA || bytes[from + 15] === 1) continue;
    open ??= {
      ...{ line: block + 1, startMs: starts[block]! - beganMs, endMs: time(from + 9) - beganMs },
      ...{ row: bytes[from + 13]!, side: bytes[from + 14]!, bytes: [] }
    };
    open.bytes.push(...bytes.subarray(from + TEXT_FROM, from + TTI_BYTES));
    if (extension === LAST_BLOCK) {
      cues.push(cueOf(open, table.decode));
      open = null;
    }
  }
  if (open !== null) {
    problems.push({
      ...{ code: 'stray_text', line: open.line, outcome: 'repaired' },
      message: 'The last block of this subtitle is missing; what there is of it is kept.'
    });
    cues.push(cueOf(open, table.decode));
  }
  return { cues, problems, carried: null };
}

const cueOf = (
  { line, startMs, endMs, row, side, bytes }: Open,
  decode: (bytes: readonly number[]) => string
): FileCue => {
  const lines = linesOf(bytes, decode);
  return {
    ...{ line, startMs: wholeMs(startMs), endMs: wholeMs(endMs), carried: null },
    lines,
    placement: placeOf(row, side, lines.length)
  };
};

const SIDES = ['centre', 'left', 'centre', 'right'] as const;

/** The rows are counted from the top; the block as a whole is where its middle is. */
function placeOf(row: number, side: number, lines: number): Placement | null {
  const middle = row + Math.max(0, lines - 1) / 2;
  const height = middle < ROWS / 3 ? 'top' : middle < (ROWS * 2) / 3 ? 'middle' : 'bottom';
  const place = `${height} ${SIDES[side] ?? 'centre'}` as const;
  return place === 'bottom centre' ? null : place;
}

/** Texts end at the first unused byte; colours and boxes of teletext are lifted off. */
function linesOf(bytes: readonly number[], decode: (bytes: readonly number[]) => string): readonly FileLine[] {
  const lines: string[] = [''];
  let [italic, underline] = [false, false];
  let run: number[] = [];
  const flush = (): void => {
    const text = escapeMarkup(decode(run));
    run = [];
    if (text === '') return;
    const marked = `${italic ? '<i>' : ''}${underline ? '<u>' : ''}${text}${underline ? '</u>' : ''}${italic ? '</i>' : ''}`;
    lines[lines.length - 1] += text.trim() === '' ? text : marked;
  };
  for (const byte of bytes) {
    if (byte === CODES.unused) continue;
    if (byte === CODES.newLine) {
      flush();
      lines.push('');
    } else if (byte >= CODES.italicOn && byte <= CODES.underlineOff) {
      flush();
      if (byte <= CODES.italicOff) italic = byte === CODES.italicOn;
      else underline = byte === CODES.underlineOn;
    } else if (byte < 0x20) {
      // A colour of teletext takes the room of a space.
      if (run.length > 0) run.push(0x20);
    } else if (byte < 0x80 || byte >= 0xa0) run.push(byte);
  }
  flush();
  return lines
    .map((line) => ({ markup: line.replaceAll(/ {2,}/g, ' ').trim(), speaker: null }))
    .filter(({ markup }) => hasVisible(markup));
}
