/** Puts words and cues back into the order and times that a track guarantees, after a command has changed them. */
import type { WordId } from '../id';
import { compareCues, lookUp, type Cue, type Track, type Word } from '../track';
import { settleTimes } from './rewrite';

/** The track with one stretch of its words replaced: `put` stands where `count` words stood. */
export const spliceWords = (track: Track, at: number, count: number, put: readonly Word[]): readonly Word[] =>
  splice(track.words, at, count, put);

/** The most arguments to spread into one call: more could overflow the stack. */
const MOST_ARGUMENTS = 1000;

/** As `toSpliced`, for any number of items. */
export const splice = <T>(items: readonly T[], at: number, count: number, put: readonly T[]): readonly T[] =>
  put.length < MOST_ARGUMENTS
    ? items.toSpliced(at, count, ...put)
    : items.slice(0, at).concat(put, items.slice(at + count));

/**
 * The words of a cue in place, timed by `settle`: by default spread anew in the cue where they are estimated. `near`: a
 * place of one of its words, where it is known.
 */
export function settleCue(words: readonly Word[], cue: Cue, settle = settleTimes, near = 0): readonly Word[] {
  if (cue.wordIds.length === 0) return words;
  let from = Math.max(0, near - cue.wordIds.length);
  while (words[from]!.id !== cue.wordIds[0]) from++;
  const run = words.slice(from, from + cue.wordIds.length);
  const settled = settle(run, cue.startMs, cue.endMs);
  return settled.every((word, at) => word === run[at]) ? words : splice(words, from, run.length, settled);
}

/** The line starts that are still in the cue, without the first shown word, which always begins a line. */
export function keptLineStarts(cue: Cue, words: readonly Word[]): readonly WordId[] {
  const shown = words.filter((word) => word.shown).map((word) => word.id);
  const kept = cue.lineStarts.filter((id) => shown.indexOf(id) > 0);
  return kept.length === cue.lineStarts.length ? cue.lineStarts : kept;
}

/** Where words of an empty cue would be inserted: before the words of the next cue. */
export function insertionPoint(words: readonly Word[], cues: readonly Cue[], cueAt: number): number {
  const next = cues.slice(cueAt + 1).find((cue) => cue.wordIds.length > 0);
  return next === undefined ? words.length : words.findIndex((word) => word.id === next.wordIds[0]);
}

/** Cues in their order, and the words in the order of the cues; words without a cue stay behind those they follow. */
export function arrange(track: Track, cues: readonly Cue[]): Track {
  const sorted = cues.every((cue, at) => at === 0 || compareCues(cues[at - 1]!, cue) < 0)
    ? cues
    : [...cues].sort(compareCues);
  const { wordAt, findCueOf } = lookUp(track);
  let last = -1;
  const inOrder = sorted.every((cue) => {
    const first = cue.wordIds.length === 0 ? last : wordAt.get(cue.wordIds[0]!)!;
    const follows = first >= last;
    last = first;
    return follows;
  });
  if (inOrder) return { ...track, cues: sorted };
  const runs = new Map<string, Word[]>();
  const head: Word[] = [];
  let run = head;
  for (const word of track.words) {
    const cue = findCueOf(word.id);
    if (cue !== undefined) {
      const own = runs.get(cue.id) ?? [];
      runs.set(cue.id, own);
      run = own;
    }
    run.push(word);
  }
  return { ...track, cues: sorted, words: [...head, ...sorted.flatMap((cue) => runs.get(cue.id) ?? [])] };
}
