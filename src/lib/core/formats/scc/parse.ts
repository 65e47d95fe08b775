/** Reads line 21 captions as a receiver does: cues that pop on, are painted, or roll up. */
import { parseTimecode, wholeMs } from '../../time';
import { escapeMarkup, type Placement } from '../../track';
import {
  badTiming,
  hasVisible,
  quote,
  splitLines,
  type FileCue,
  type ParsedCaptions,
  type ParseProblem
} from '../caption-file';
import { COLUMNS, controlOf, hasParity, midRowOf, preambleOf, ROWS, tabulatorOf, type Control } from './codes';
import { HEADER, RATE } from './format';
import { extendedLetter, plainLetter, specialLetter } from './letters';

const LINE = /^(\d{1,3}:\d{1,2}:\d{1,2})([:;.,])(\d{1,2})\s+(.*)$/;
/** What is loaded ahead of a cue at a full hour begins before it. */
const LOADED_AHEAD_MS = 10_000;
const HOUR_MS = 3_600_000;

export const isScc = (content: string): boolean => /^\ufeff?\s*Scenarist_SCC V\d/i.test(content);

/** Where a file's times begin at a later hour, that is taken off. Only the first of the four channels is read. */
export function parseScc(content: string): ParsedCaptions {
  const problems: ParseProblem[] = [];
  const receiver = new Receiver(problems);
  const lines = splitLines(content);
  if (!isScc(content))
    problems.push({
      ...{ code: 'no_header', line: 1, outcome: 'repaired' },
      message: `The file does not begin with “${HEADER}”; read all the same.`
    });
  lines.forEach((text, at) => {
    const line = at + 1;
    if (text.trim() === '' || isScc(text)) return;
    const [, clock = '', sign = '', frames = '', data = ''] = LINE.exec(text.trim()) ?? [];
    const isDropFrame = sign === ';' || sign === ',';
    const picture =
      parseTimecode(`${clock}:${frames}`, RATE, isDropFrame) ?? parseTimecode(`${clock}:${frames}`, RATE, false);
    if (picture === null) {
      // Without a time there is nothing that a receiver could show.
      problems.push({ ...badTiming(line, text), message: `${quote(text)} has no time; left out.`, outcome: 'skipped' });
      return;
    }
    receiver.take(line, picture, data);
  });
  const cues = receiver.end();
  const firstMs = cues.reduce((least, { startMs }) => Math.min(least, startMs), Infinity);
  const beganMs = cues.length === 0 ? 0 : Math.floor((firstMs + LOADED_AHEAD_MS) / HOUR_MS) * HOUR_MS;
  if (beganMs === 0) return { cues, problems, carried: null };
  problems.push({
    ...{ code: 'odd_timing', line: cues[0]!.line, outcome: 'repaired' },
    message: `Times begin at ${beganMs / HOUR_MS}:00:00:00, which is taken for the recording’s beginning.`
  });
  const moved = cues.map((cue) => ({
    ...cue,
    startMs: wholeMs(Math.max(0, cue.startMs - beganMs)),
    endMs: wholeMs(Math.max(0, cue.endMs - beganMs))
  }));
  return { cues: moved, problems, carried: null };
}

interface Cell {
  letter: string;
  italic: boolean;
  underline: boolean;
}
/** By row and column, from 0. */
type Memory = Map<number, Cell>;

interface Showing {
  readonly line: number;
  readonly startMs: number;
}

class Receiver {
  readonly #problems: ParseProblem[];
  readonly #cues: FileCue[] = [];
  #mode: 'pop on' | 'paint on' | 'roll up' | 'text' = 'pop on';
  #shown: Memory = new Map();
  #loaded: Memory = new Map();
  /** Something is loaded that has not been shown. */
  #waits = false;
  #showing: Showing | null = null;
  #row = ROWS - 1;
  #column = 0;
  #style = { italic: false, underline: false };
  #lastCode = 0;
  #isOurs = true;
  #line = 1;
  #ms = 0;
  readonly #told = new Set<string>();

  constructor(problems: ParseProblem[]) {
    this.#problems = problems;
  }

  take(line: number, picture: number, data: string): void {
    this.#line = line;
    // Between lines nothing is repeated.
    this.#lastCode = 0;
    let at = 0;
    for (const text of data.split(/\s+/)) {
      if (text === '') continue;
      const ms = ((picture + at) * 1000) / RATE;
      if (ms < this.#ms - 1000 / RATE)
        this.#tell('unsorted', 'Times go back here: what was sent is read in the order of the file.');
      this.#ms = Math.max(this.#ms, ms);
      at++;
      if (!/^[\da-f]{4}$/i.test(text)) {
        this.#tell('bad_character', `${quote(text)} is no pair of bytes; left out.`, 'skipped');
        continue;
      }
      const value = parseInt(text, 16);
      const [first, second] = [value >> 8, value & 0xff];
      if (!hasParity(first) || !hasParity(second))
        this.#tell('bad_character', `${quote(text)} is damaged: its parity is wrong; read all the same.`);
      this.#pair(first & 0x7f, second & 0x7f);
    }
  }

  end(): readonly FileCue[] {
    if (this.#showing !== null) {
      const isOpen = this.#mode === 'pop on';
      // Nothing ever puts it away.
      this.#ms += isOpen ? 4000 : 2000;
      this.#close();
    }
    if (this.#waits && hasText(this.#loaded))
      this.#tell('stray_text', `${quote(textOf(this.#loaded))} is loaded, and never shown; left out.`, 'skipped');
    return this.#cues;
  }

  #pair(first: number, second: number): void {
    if (first === 0 && second === 0) return;
    if (first >= 0x10 && first < 0x20) {
      const code = (first << 8) | second;
      // Said twice, meant once.
      if (code === this.#lastCode) return void (this.#lastCode = 0);
      this.#lastCode = code;
      this.#isOurs = (first & 0x08) === 0;
      if (this.#isOurs) this.#code(first, second);
      else this.#tell('stray_text', 'The second channel is left out: only the first is read.', 'skipped');
      return;
    }
    this.#lastCode = 0;
    if (first > 0 && first < 0x10) {
      this.#isOurs = false; // Data about the programme.
      return;
    }
    if (!this.#isOurs) return;
    for (const byte of [first, second]) if (byte >= 0x20) this.#put(plainLetter(byte));
  }

  #code(first: number, second: number): void {
    const control = controlOf(first, second);
    if (control !== null) return this.#act(control);
    const preamble = preambleOf(first, second);
    if (preamble !== null) {
      this.#moveTo(preamble.row - 1, preamble.column);
      this.#style = { italic: preamble.italic, underline: preamble.underline };
      return;
    }
    const columns = tabulatorOf(first, second);
    if (columns > 0) return void (this.#column = Math.min(COLUMNS - 1, this.#column + columns));
    const style = midRowOf(first, second);
    if (style !== null) {
      this.#put(' ');
      this.#style = style;
      return;
    }
    const special = specialLetter(first, second);
    if (special !== null) return this.#put(special);
    const extended = extendedLetter(first, second);
    if (extended === null) return; // Backgrounds and the like.
    // It overwrites the letter that stands for it.
    this.#column = Math.max(0, this.#column - 1);
    this.#put(extended);
  }

  #act(control: Control): void {
    switch (control) {
      case 'load':
        return this.#enter('pop on');
      case 'paint':
        return this.#enter('paint on');
      case 'rollUp2':
      case 'rollUp3':
      case 'rollUp4':
        return this.#enter('roll up');
      case 'text':
      case 'textRestart':
        this.#tell('stray_text', 'A text that is no caption is left out.', 'skipped');
        this.#mode = 'text';
        return;
      case 'backspace':
        this.#column = Math.max(0, this.#column - 1);
        this.#memory.delete(this.#place);
        return;
      case 'deleteToEnd':
        for (let column = this.#column; column < COLUMNS; column++) this.#memory.delete(this.#row * COLUMNS + column);
        return;
      case 'eraseShown':
        this.#close();
        this.#shown.clear();
        return;
      case 'eraseLoaded':
        this.#loaded.clear();
        return;
      case 'carriageReturn':
        if (this.#mode !== 'roll up') return;
        // Each row is a cue of its own: the one above has been read.
        this.#close();
        this.#shown.clear();
        this.#column = 0;
        this.#style = { italic: false, underline: false };
        return;
      case 'show':
        this.#close();
        [this.#shown, this.#loaded] = [this.#loaded, this.#shown];
        this.#waits = false;
        this.#mode = 'pop on';
        if (this.#shown.size > 0) this.#open();
        return;
    }
  }

  #enter(mode: 'pop on' | 'paint on' | 'roll up'): void {
    // What is painted anew is another cue; what pops on leaves what is shown as it is.
    if (mode === 'paint on' || (mode === 'roll up' && this.#mode !== 'roll up')) {
      this.#close();
      this.#shown.clear();
      this.#style = { italic: false, underline: false };
      this.#column = 0;
      if (mode === 'roll up') this.#row = ROWS - 1;
    }
    this.#mode = mode;
  }

  #moveTo(row: number, column: number): void {
    this.#row = row;
    this.#column = column;
  }

  get #memory(): Memory {
    return this.#mode === 'pop on' ? this.#loaded : this.#shown;
  }
  get #place(): number {
    return this.#row * COLUMNS + this.#column;
  }

  #put(letter: string): void {
    if (this.#mode === 'text') return;
    if (this.#mode !== 'pop on' && this.#showing === null && letter.trim() !== '') this.#open();
    this.#waits ||= this.#mode === 'pop on';
    this.#memory.set(this.#place, { letter, ...this.#style });
    this.#column = Math.min(COLUMNS - 1, this.#column + 1);
  }

  #open(): void {
    this.#showing = { line: this.#line, startMs: this.#ms };
  }

  /** What is shown ends here, and is a cue. */
  #close(): void {
    if (this.#showing === null) return;
    const { line, startMs } = this.#showing;
    this.#showing = null;
    const { lines, placement } = readOff(this.#shown);
    this.#cues.push({
      ...{ line, startMs: wholeMs(startMs), endMs: wholeMs(this.#ms), placement, carried: null },
      lines: lines.map((markup) => ({ markup, speaker: null }))
    });
  }

  #tell(code: ParseProblem['code'], message: string, outcome: ParseProblem['outcome'] = 'repaired'): void {
    const key = `${code} ${this.#line}`;
    if (this.#told.has(key)) return;
    this.#told.add(key);
    this.#problems.push({ code, line: this.#line, message, outcome });
  }
}

const hasText = (memory: Memory): boolean => [...memory.values()].some(({ letter }) => letter.trim() !== '');
const textOf = (memory: Memory): string =>
  [...memory]
    .toSorted(([a], [b]) => a - b)
    .map(([, { letter }]) => letter)
    .join('');

function readOff(memory: Memory): { readonly lines: readonly string[]; readonly placement: Placement | null } {
  const rows: { row: number; from: number; to: number; cells: (Cell | null)[] }[] = [];
  for (const place of [...memory.keys()].sort((a, b) => a - b)) {
    const cell = memory.get(place)!;
    const [row, column] = [Math.floor(place / COLUMNS), place % COLUMNS];
    const last = rows.at(-1);
    if (last?.row === row) {
      while (last.from + last.cells.length < column) last.cells.push(null);
      last.cells.push(cell);
      if (cell.letter.trim() !== '') last.to = column + 1;
    } else if (cell.letter.trim() !== '') rows.push({ row, from: column, to: column + 1, cells: [cell] });
  }
  const lines = rows.map(({ cells, from, to }) => markupOf(cells.slice(0, to - from)));
  return { lines: lines.filter(hasVisible), placement: placeOf(rows) };
}

function markupOf(cells: readonly (Cell | null)[]): string {
  let markup = '';
  let [italic, underline] = [false, false];
  const turn = (i: boolean, u: boolean): void => {
    if (underline && (!u || i !== italic)) markup += '</u>';
    if (italic && !i) markup += '</i>';
    if (i && !italic) markup += '<i>';
    if (u && (!underline || i !== italic)) markup += '<u>';
    [italic, underline] = [i, u];
  };
  for (const cell of cells) {
    // Spaces are as what stands around them.
    if (cell !== null && cell.letter.trim() !== '') turn(cell.italic, cell.underline);
    markup += escapeMarkup(cell?.letter ?? ' ');
  }
  turn(false, false);
  return markup
    .replaceAll(/( +)((?:<\/?[iu]>)*<\/[iu]>)/g, '$2$1')
    .replaceAll(/ +/g, ' ')
    .trim();
}

type ReadRow = { readonly row: number; readonly from: number; readonly to: number };

function placeOf(rows: readonly ReadRow[]): Placement | null {
  const [top, bottom] = [rows[0], rows.at(-1)];
  if (top === undefined || bottom === undefined) return null;
  const middle = (top.row + bottom.row) / 2;
  const height = bottom.row >= 11 ? 'bottom' : top.row <= 3 ? 'top' : middle < 4 ? 'top' : 'middle';
  // By the rows whose place says something: a full one stands at both sides.
  const isLeft = rows.every(({ from }) => from <= 1);
  const isRight = rows.every(({ to }) => to >= COLUMNS - 1);
  return `${height} ${isLeft === isRight ? 'centre' : isLeft ? 'left' : 'right'}`;
}
