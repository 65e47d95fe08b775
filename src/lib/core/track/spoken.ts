import type { Word } from './track';

/** The last list that was in order and without holes: of the next one, only what differs from it is checked. */
let last: readonly Word[] = [];

/**
 * Words in the order in which they start, without holes: for a playhead. The list itself where it is so, as it mostly
 * is.
 */
export function spokenOrder(words: readonly Word[]): readonly Word[] {
  if (isInOrder(words, last)) {
    last = words;
    return words;
  }
  return words.filter(({ kind }) => kind !== 'hole').toSorted((a, b) => a.startMs - b.startMs);
}

/**
 * `known` is a list in order from which this one may have been made; their common head and tail are not checked again.
 */
function isInOrder(words: readonly Word[], known: readonly Word[]): boolean {
  let from = 0;
  while (from < words.length && words[from] === known[from]) from++;
  let to = words.length;
  for (let past = known.length; to > from && past > from && words[to - 1] === known[past - 1]; past--) to--;
  let latestMs = words[from - 1]?.startMs ?? 0;
  for (const word of words.slice(from, to + 1)) {
    if (word.kind === 'hole' || word.startMs < latestMs) return false;
    latestMs = word.startMs;
  }
  return true;
}
