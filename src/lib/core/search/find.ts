/** Finding text in a track's words and writing other text in its place. */
import { doubleMetaphone } from 'double-metaphone';
import type { ClientCommand } from '../commands';
import type { Word } from '../track';
import { capitalise } from '../wording';
import type { Query } from './query';

/** A place where the text stands. */
export interface Hit {
  /** The first of its words, and how many. */
  readonly from: number;
  readonly count: number;
  /** Where it begins in the first one's text, and where it ends in the last one's. */
  readonly start: number;
  readonly end: number;
}

/** The words as one text: a space where one stands between two of them. */
interface Joined {
  readonly text: string;
  readonly small: string;
  /** For each word, where it begins. */
  readonly starts: Int32Array;
}
const joined = new WeakMap<readonly Word[], Joined>();

function join(words: readonly Word[]): Joined {
  let known = joined.get(words);
  if (known === undefined) {
    const starts = new Int32Array(words.length);
    let text = '';
    words.forEach((word, at) => {
      if (at > 0 && word.spaceBefore) text += ' ';
      starts[at] = text.length;
      text += word.text;
    });
    known = { text, small: sameLengthSmall(text), starts };
    joined.set(words, known);
  }
  return known;
}

/** Small letters, but for the few signs that grow longer by it. */
function sameLengthSmall(text: string): string {
  const small = text.toLowerCase();
  return small.length === text.length ? small : Array.from(text, smallOfLength).join('');
}
function smallOfLength(sign: string): string {
  const small = sign.toLowerCase();
  return small.length === sign.length ? small : sign;
}

const isPartOfWord = (sign: string | undefined): boolean => sign !== undefined && /[\p{L}\p{M}\p{N}]/u.test(sign);

/** What a query looks for: its text with single spaces, none around it. */
export const wantedText = ({ text }: Pick<Query, 'text'>): string => text.replace(/\s+/g, ' ').trim();

/** All hits in order; none overlaps another. An empty query has none. */
export function findHits(words: readonly Word[], query: Query): readonly Hit[] {
  const wanted = wantedText(query);
  if (wanted === '') return [];
  if (query.soundsLike) return findSounding(words, wanted);
  const { text, small, starts } = join(words);
  const hay = query.matchCase ? text : small;
  const needle = query.matchCase ? wanted : sameLengthSmall(wanted);
  const hits: Hit[] = [];
  let word = 0;
  for (let at = hay.indexOf(needle); at >= 0; at = hay.indexOf(needle, at)) {
    const end = at + needle.length;
    const isWhole = !isPartOfWord(hay[at - 1]) && !isPartOfWord(hay[end]);
    if (query.wholeWord && !isWhole) {
      at++;
      continue;
    }
    while (word + 1 < words.length && starts[word + 1]! <= at) word++;
    let last = word;
    while (last + 1 < words.length && starts[last + 1]! < end) last++;
    hits.push({ from: word, count: last - word + 1, start: at - starts[word]!, end: end - starts[last]! });
    at = end;
  }
  return hits;
}

const MORE_WORDS = 2;
const keys = new Map<string, readonly string[]>();

/** How English says a word, roughly, in its likeliest ways (Philips, "The Double Metaphone Search Algorithm", 2000). */
function keysOf(text: string): readonly string[] {
  let known = keys.get(text);
  if (known === undefined) {
    known = [...new Set(doubleMetaphone(text))];
    keys.set(text, known);
  }
  return known;
}

/** A key behind another: where a vowel begins the word, it has an A that the whole has not. */
const appended = (key: string, next: string): string => key + (next.startsWith('A') ? next.slice(1) : next);
const joinKeys = (run: readonly string[]): string => run.slice(1).reduce(appended, run[0] ?? '');

const CORE = /[\p{L}\p{N}](?:.*[\p{L}\p{N}])?/su;

function findSounding(words: readonly Word[], wanted: string): Hit[] {
  const parts = wanted.split(' ');
  const first = parts.map((part) => keysOf(part)[0]!);
  const others = parts.map((part) => keysOf(part).at(-1)!);
  const targets = new Set([joinKeys(first), joinKeys(others)]);
  targets.delete('');
  const wantedKeys = [...targets];
  const hits: Hit[] = [];
  for (let from = 0; from < words.length; from++) {
    let found = 0;
    let key = '';
    for (let count = 1; count <= parts.length + MORE_WORDS && from + count <= words.length; count++) {
      const word = words[from + count - 1]!;
      if (word.kind === 'hole') break;
      const own = keysOf(word.text)[0]!;
      if (count === 1 && own === '') break;
      key = count === 1 ? own : appended(key, own);
      if (targets.has(key)) found = count;
      else if (!wantedKeys.some((target) => target.startsWith(key))) break;
    }
    if (found === 0) continue;
    const [head, tail] = [CORE.exec(words[from]!.text), CORE.exec(words[from + found - 1]!.text)];
    const end = tail === null ? words[from + found - 1]!.text.length : tail.index + tail[0].length;
    hits.push({ from, count: found, start: head?.index ?? 0, end });
    from += found - 1;
  }
  return hits;
}

/** What stands at a hit. */
export function hitText(words: readonly Word[], { from, count, start, end }: Hit): string {
  const { text, starts } = join(words);
  return text.slice(starts[from]! + start, starts[from + count - 1]! + end);
}

/** The sentence-sized surroundings of a hit, in whole words. */
export function aroundHit(words: readonly Word[], hit: Hit): { before: string; found: string; after: string } {
  const { text, starts } = join(words);
  const [at, end] = [starts[hit.from]! + hit.start, starts[hit.from + hit.count - 1]! + hit.end];
  const first = Math.max(0, hit.from - 5);
  const last = Math.min(words.length, hit.from + hit.count + 6) - 1;
  return {
    before: text.slice(starts[first], at),
    found: text.slice(at, end),
    after: text.slice(end, starts[last]! + words[last]!.text.length)
  };
}

/** The replacement in the case of what it replaces: all in capitals, with a first capital, or as it was typed. */
export function inCaseOf(replacement: string, found: string): string {
  const letters = found.replace(/[^\p{L}]/gu, '');
  if (letters.length > 1 && letters === letters.toUpperCase() && letters !== letters.toLowerCase())
    return replacement.toUpperCase();
  return /^\p{Lu}/u.test(letters) ? capitalise(replacement) : replacement;
}

/** The edits that write the replacement at every hit; hits that share a word are written by one. */
export function replaceHits(words: readonly Word[], hits: readonly Hit[], replacement: string): ClientCommand[] {
  const edits: ClientCommand[] = [];
  for (let at = 0; at < hits.length;) {
    const first = hits[at]!;
    let text = words[first.from]!.text.slice(0, first.start) + inCaseOf(replacement, hitText(words, first));
    let last = first;
    for (at++; at < hits.length && hits[at]!.from < last.from + last.count; at++) {
      const next = hits[at]!;
      text += words[next.from]!.text.slice(last.end, next.start) + inCaseOf(replacement, hitText(words, next));
      last = next;
    }
    text += words[last.from + last.count - 1]!.text.slice(last.end);
    const run = words.slice(first.from, last.from + last.count);
    const isBare = !/[\p{L}\p{N}]/u.test(text);
    const one = text.trim();
    // Nothing but a mark is left: the word is gone.
    if (replacement === '' && isBare)
      edits.push({ type: 'replaceWords', wordIds: run.map((word) => word.id), text: '' });
    else if (run.length === 1 && one !== '' && !/\s/u.test(one) && run[0]!.kind === 'speech')
      edits.push({ type: 'setWordText', wordId: run[0]!.id, text: one });
    else edits.push({ type: 'replaceWords', wordIds: run.map((word) => word.id), text: one });
  }
  return edits;
}
