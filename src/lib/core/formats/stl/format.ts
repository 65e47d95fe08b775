/** Writes EBU STL as open subtitles (display standard 0). */
import {
  formatMarkedLine,
  clustersOf,
  parseMarkedLine,
  placementOf,
  primarySubtag,
  rowAndSide,
  shownWordsOfAll,
  signedLines,
  type Cue,
  type Track
} from '../../track';
import { withoutControls } from '../caption-file';
import { FRAME_RATES, type WriteOptions } from '../options';
import { CODES, GSI_BYTES, LAST_BLOCK, MOST_BLOCKS, ROWS, TEXT_BYTES, TEXT_FROM, TTI_BYTES } from './blocks';
import { CODE_TABLES, type CodeTable } from './letters';

/** The file knows 25 and 30 pictures a second. */
export const stlRate = ({ frameRate }: Pick<WriteOptions, 'frameRate'>): 25 | 30 =>
  Math.round(FRAME_RATES[frameRate]) % 30 === 0 ? 30 : 25;

/** The table that has the most of the letters; of two that have as many the first. */
export function tableFor(track: Track): CodeTable {
  const letters = new Set<string>();
  for (const text of new Set(track.words.map((word) => word.text)))
    for (const { segment } of clustersOf(text)) letters.add(segment);
  const lacking = (table: CodeTable): number =>
    [...letters].reduce((count, letter) => count + (table.encode(letter) === null ? 1 : 0), 0);
  return CODE_TABLES.reduce((best, table) => (lacking(table) < lacking(best) ? table : best));
}

/** Languages by their numbers (EBU Tech 3264, appendix 3); 00: unknown. */
const LANGUAGES: Readonly<Record<string, string>> = {
  ...{ sq: '01', br: '02', ca: '03', hr: '04', cy: '05', cs: '06', da: '07', de: '08', en: '09', es: '0A', eo: '0B' },
  ...{ et: '0C', eu: '0D', fo: '0E', fr: '0F', fy: '10', ga: '11', gd: '12', gl: '13', is: '14', it: '15', la: '17' },
  ...{ lv: '18', lb: '19', lt: '1A', hu: '1B', mt: '1C', nl: '1D', no: '1E', nb: '1E', oc: '1F', pl: '20', pt: '21' },
  ...{ ro: '22', rm: '23', sr: '24', sk: '25', sl: '26', fi: '27', sv: '28', tr: '29', ar: '7E', ru: '56', uk: '48' },
  ...{ el: '70', he: '6A' }
};

interface TimeCode {
  readonly hours: number;
  readonly minutes: number;
  readonly seconds: number;
  readonly frames: number;
}

function timeCode(count: number, rate: number): TimeCode {
  const seconds = Math.floor(count / rate);
  return {
    ...{ hours: Math.floor(seconds / 3600) % 24, minutes: Math.floor(seconds / 60) % 60 },
    ...{ seconds: seconds % 60, frames: count % rate }
  };
}

/** In pictures, of `hh:mm:ss:ff`. */
export function startCount(startTimecode: string, rate: number): number {
  const [hours = 0, minutes = 0, seconds = 0, frames = 0] = startTimecode.split(/[:;]/).map(Number);
  return ((hours * 60 + minutes) * 60 + seconds) * rate + Math.min(frames, rate - 1);
}

const two = (value: number): string => String(value).padStart(2, '0');
const written = ({ hours, minutes, seconds, frames }: TimeCode): string =>
  two(hours) + two(minutes) + two(seconds) + two(frames);

export function formatStl(track: Track, options: WriteOptions): Uint8Array {
  const rate = stlRate(options);
  const table = tableFor(track);
  const from = startCount(options.startTimecode, rate);
  const countAt = (ms: number): number => from + Math.round((ms * rate) / 1000);
  const words = shownWordsOfAll(track);
  const blocks: Uint8Array[] = [];
  let mostRows = 1;
  let longest = 1;
  for (const [number, cue] of track.cues.entries()) {
    const lines = signedLines(track, cue, words[number]!).map((line) => lineBytes(formatMarkedLine(line), table));
    mostRows = Math.max(mostRows, lines.length);
    longest = Math.max(longest, ...lines.map(({ length }) => length));
    const start = countAt(cue.startMs);
    // One picture at least.
    const end = Math.max(start + 1, countAt(cue.endMs));
    blocks.push(
      ...subtitle(track, cue, {
        number,
        text: joined(lines),
        rows: lines.length,
        start: timeCode(start, rate),
        end: timeCode(end, rate)
      })
    );
  }
  const head = new Uint8Array(GSI_BYTES).fill(0x20);
  const set = (offset: number, length: number, text: string): void => {
    for (let place = 0; place < length; place++) head[offset + place] = (text[place] ?? ' ').charCodeAt(0) & 0x7f;
  };
  const plain = options.title.normalize('NFKD').replaceAll(/[^\x20-\x7e]/g, '');
  set(0, 3, '850');
  set(3, 8, `STL${rate}.01`);
  set(11, 1, '0');
  set(12, 2, table.id);
  set(14, 2, LANGUAGES[primarySubtag(track.language)] ?? '00');
  set(16, 32, plain);
  set(236, 2, '00');
  set(238, 5, String(blocks.length).padStart(5, '0'));
  set(243, 5, String(track.cues.length).padStart(5, '0'));
  set(248, 3, '001');
  set(251, 2, two(Math.min(99, longest)));
  set(253, 2, two(ROWS));
  set(255, 1, '1');
  set(256, 8, written(timeCode(from, rate)));
  set(264, 8, written(timeCode(countAt(track.cues[0]?.startMs ?? 0), rate)));
  set(272, 2, '11');
  const file = new Uint8Array(GSI_BYTES + blocks.length * TTI_BYTES);
  file.set(head);
  blocks.forEach((block, place) => file.set(block, GSI_BYTES + place * TTI_BYTES));
  return file;
}

function joined(lines: readonly (readonly number[])[]): readonly number[] {
  return lines.flatMap((line, at) => (at === 0 ? line : [CODES.newLine, ...line]));
}

/** What the table has not is a question mark. */
function lineBytes(markup: string, table: CodeTable): readonly number[] {
  const { text, marks } = parseMarkedLine(withoutControls(markup));
  const bytes: number[] = [];
  const has = (kind: 'i' | 'u', unit: number): boolean =>
    marks.some((mark) => mark.kind === kind && mark.from <= unit && mark.to > unit);
  let [italic, underline] = [false, false];
  const turn = (i: boolean, u: boolean): void => {
    if (i !== italic) bytes.push(i ? CODES.italicOn : CODES.italicOff);
    if (u !== underline) bytes.push(u ? CODES.underlineOn : CODES.underlineOff);
    [italic, underline] = [i, u];
  };
  for (const { segment, index } of clustersOf(text)) {
    turn(has('i', index), has('u', index));
    bytes.push(...(table.encode(segment) ?? [0x3f]));
  }
  turn(false, false);
  return bytes;
}

interface Subtitle {
  readonly number: number;
  readonly text: readonly number[];
  readonly rows: number;
  readonly start: TimeCode;
  readonly end: TimeCode;
}

/** As many blocks as the text needs; an accent is not parted from its letter. */
function subtitle(track: Track, cue: Cue, { number, text, rows, start, end }: Subtitle): readonly Uint8Array[] {
  const pieces: number[][] = [[]];
  for (let at = 0; at < text.length; at++) {
    const isAccent = text[at]! >= 0xc1 && text[at]! <= 0xcf;
    if (pieces.at(-1)!.length + (isAccent ? 2 : 1) > TEXT_BYTES) pieces.push([]);
    pieces.at(-1)!.push(text[at]!);
  }
  const kept = pieces.slice(0, MOST_BLOCKS + 1);
  const { row, side } = rowAndSide(placementOf(track, cue));
  const first = row === 'top' ? 1 : row === 'middle' ? Math.round((ROWS - rows) / 2) : Math.max(1, ROWS - rows);
  return kept.map((piece, at) => {
    const block = new Uint8Array(TTI_BYTES).fill(CODES.unused, TEXT_FROM);
    block.set([0, number & 0xff, number >> 8, at === kept.length - 1 ? LAST_BLOCK : at, 0]);
    block.set(
      [start.hours, start.minutes, start.seconds, start.frames, end.hours, end.minutes, end.seconds, end.frames],
      5
    );
    block.set([first, side === 'left' ? 1 : side === 'right' ? 3 : 2, 0], 13);
    block.set(piece, TEXT_FROM);
    return block;
  });
}
