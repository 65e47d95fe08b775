/** What differs between two versions of a track, word by word, and how wrong the earlier one was. */
import { diffArrays } from 'diff';
import { spanOf, type Span } from '../time';
import type { Track, Word } from '../track';
import { comparedWords, countWordErrors, type WordErrors } from './word-errors';

/** Words of one version and the words that replace them in the other; one side may be empty. */
export interface Change extends Span {
  readonly before: readonly Word[];
  readonly after: readonly Word[];
}

/** The words that are shown. */
const shownIn = (track: Pick<Track, 'words'>): readonly Word[] =>
  track.words.filter((word) => word.shown && word.kind !== 'hole');

/** The places where the two texts differ, in order; capitals and punctuation count. */
export function findChanges(before: Pick<Track, 'words'>, after: Pick<Track, 'words'>): readonly Change[] {
  const [old, now] = [shownIn(before), shownIn(after)];
  const changes: Change[] = [];
  let oldAt = 0;
  let nowAt = 0;
  let open: { before: Word[]; after: Word[] } | null = null;
  const close = (): void => {
    if (open === null) return;
    changes.push({ ...open, ...spanOf([...open.before, ...open.after]) });
    open = null;
  };
  for (const part of diffArrays(
    old.map((word) => word.text),
    now.map((word) => word.text)
  )) {
    if (part.added || part.removed) {
      open ??= { before: [], after: [] };
      if (part.removed) open.before.push(...old.slice(oldAt, (oldAt += part.count)));
      else open.after.push(...now.slice(nowAt, (nowAt += part.count)));
      continue;
    }
    close();
    oldAt += part.count;
    nowAt += part.count;
  }
  close();
  return changes;
}

const NO_ERRORS = { words: 0, substitutions: 0, insertions: 0, deletions: 0 };
type Counts = typeof NO_ERRORS;

const rated = (counts: Counts): WordErrors => {
  const errors = counts.substitutions + counts.insertions + counts.deletions;
  return { ...counts, wordErrorRate: counts.words === 0 ? (errors === 0 ? 0 : 1) : errors / counts.words };
};
const addTo = (sum: Counts, more: Counts): Counts => ({
  words: sum.words + more.words,
  substitutions: sum.substitutions + more.substitutions,
  insertions: sum.insertions + more.insertions,
  deletions: sum.deletions + more.deletions
});

export interface DraftErrors {
  readonly all: WordErrors;
  /** By the speaker that the corrected words have; `null` for none. */
  readonly bySpeaker: readonly { readonly speakerId: string | null; readonly errors: WordErrors }[];
  /** By stretches of the recording, in order, from 0 on. */
  readonly byTime: readonly (WordErrors & { readonly startMs: number })[];
}

/**
 * The word errors of a draft against the corrected track, without capitals and marks. Words that are alike in both are
 * its anchors: between two of them the least number of errors is counted, which differs from the least over all by a
 * word now and then, and takes a moment for two hours.
 */
export function draftErrors(
  draft: Pick<Track, 'words'>,
  corrected: Pick<Track, 'words'>,
  { stretchMs }: { readonly stretchMs: number }
): DraftErrors {
  const [had, wanted] = [comparable(draft), comparable(corrected)];
  let all: Counts = NO_ERRORS;
  const speakers = new Map<string | null, Counts>();
  const stretches: Counts[] = [];
  let [hadAt, wantedAt] = [0, 0];
  const note = (word: Comparable | undefined, counts: Counts): void => {
    const at = Math.floor((word?.startMs ?? 0) / stretchMs);
    while (stretches.length <= at) stretches.push(NO_ERRORS);
    stretches[at] = addTo(stretches[at]!, counts);
    const speakerId = word?.speakerId ?? null;
    speakers.set(speakerId, addTo(speakers.get(speakerId) ?? NO_ERRORS, counts));
    all = addTo(all, counts);
  };
  let removed: Comparable[] = [];
  let added: Comparable[] = [];
  const close = (): void => {
    if (removed.length === 0 && added.length === 0) return;
    const counts = countWordErrors(
      added.map((word) => word.text).join(' '),
      removed.map((word) => word.text).join(' ')
    );
    note(added[0] ?? wanted[Math.max(0, wantedAt - 1)], counts);
    [removed, added] = [[], []];
  };
  for (const part of diffArrays(
    had.map((word) => word.text),
    wanted.map((word) => word.text)
  )) {
    if (part.removed) removed.push(...had.slice(hadAt, (hadAt += part.count)));
    else if (part.added) added.push(...wanted.slice(wantedAt, (wantedAt += part.count)));
    else {
      close();
      for (const word of wanted.slice(wantedAt, wantedAt + part.count)) note(word, { ...NO_ERRORS, words: 1 });
      hadAt += part.count;
      wantedAt += part.count;
    }
  }
  close();
  return {
    all: rated(all),
    bySpeaker: [...speakers].map(([speakerId, counts]) => ({ speakerId, errors: rated(counts) })),
    byTime: stretches.map((counts, at) => ({ startMs: at * stretchMs, ...rated(counts) }))
  };
}

interface Comparable {
  readonly text: string;
  readonly startMs: number;
  readonly speakerId: string | null;
}

/** Spoken words as they are compared; one word may be written as several. */
const comparable = (track: Pick<Track, 'words'>): readonly Comparable[] =>
  track.words
    .filter((word) => word.shown && word.kind === 'speech')
    .flatMap(({ text, startMs, speakerId }) => comparedWords(text).map((bare) => ({ text: bare, startMs, speakerId })));
