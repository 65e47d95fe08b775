/**
 * Rows as a text for the clipboard, for any translator outside: a number in brackets ahead of each, a blank line between
 * them. It survives most of what such tools do to a text; `pasted.ts` reads what comes back.
 */
import { countCharacters } from '../track';
import type { Row } from './rows';
import { endsWith } from '../cueing';

export interface ClipboardPart {
  readonly text: string;
  /** The place of its first row among all rows, from 0. */
  readonly firstRow: number;
  /** How many rows it goes over, with those that say nothing and are left out. */
  readonly rows: number;
}

/** A row's number on the clipboard, from 1. */
export const rowNumber = (row: number): number => row + 1;

const BETWEEN = '\n\n';
const lineOf = (row: number, text: string): string => `[${rowNumber(row)}] ${text}`;

/**
 * The rows in parts of at most so many characters, in order. A part ends with a sentence; only one that is longer than a
 * part is parted, between two rows. A row that is longer makes a part of its own.
 */
export function clipboardParts(rows: readonly Pick<Row, 'source'>[], mostCharacters: number): readonly ClipboardPart[] {
  const parts: ClipboardPart[] = [];
  let from = 0;
  while (from < rows.length) {
    const to = partEnd(rows, from, mostCharacters);
    const lines = rows.slice(from, to).flatMap(({ source }, at) => (source === '' ? [] : lineOf(from + at, source)));
    if (lines.length > 0) parts.push({ text: lines.join(BETWEEN), firstRow: from, rows: to - from });
    from = to;
  }
  return parts;
}

function partEnd(rows: readonly Pick<Row, 'source'>[], from: number, mostCharacters: number): number {
  let characters = 0;
  let sentenceEnd = from;
  for (let at = from; at < rows.length; at++) {
    const { source } = rows[at]!;
    if (source !== '') characters += countCharacters(lineOf(at, source)) + (characters === 0 ? 0 : BETWEEN.length);
    if (characters > mostCharacters && at > from) return sentenceEnd > from ? sentenceEnd : at;
    if (source === '' || endsWith(source) === 'sentence') sentenceEnd = at + 1;
  }
  return rows.length;
}
