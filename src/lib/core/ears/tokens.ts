/** A model's list of pieces: a line each, the piece, a space, its number. */
import type { TokenFacts } from './families';

/** What says nothing: blanks, and marks of a language or a task. */
const MARKER = /^<.*>$/;

export function readTokens(text: string): TokenFacts | 'unreadable' {
  const pieces: string[] = [];
  for (const line of text.split(/\r?\n/)) {
    if (line === '') continue;
    // A piece may be white space itself.
    const [, piece, number] = /^(.*?)[ \t](\d+)\s*$/.exec(line) ?? [];
    if (number === undefined || Number(number) !== pieces.length || piece!.includes('\ufffd')) return 'unreadable';
    pieces.push(piece!);
  }
  if (pieces.length === 0) return 'unreadable';
  const said = pieces.filter((piece) => !MARKER.test(piece)).join('');
  const areCased = /\p{Lu}|\p{Ll}/u.test(said);
  const hasBothCases = /\p{Lu}/u.test(said) && /\p{Ll}/u.test(said);
  return { count: pieces.length, writeText: /[.?。？؟।]/.test(said) && (hasBothCases || !areCased) };
}
