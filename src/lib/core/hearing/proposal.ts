/** A new hearing of a track that is there: where it differs, passage by passage, and the edits that take it. */
import { asWordId, type WordId } from '../id';
import { bareWord } from '../wording';
import type { CommandOf } from '../commands';
import { matchWords } from '../fitting';
import { spanOf, type Span } from '../time';
import { joinWords, type Track, type Word } from '../track';

/** Where the track and the new hearing differ. */
export interface ProposedPassage extends Span {
  /** Words of the track that would give way; of those that stand at its edges some stay. */
  readonly wordIds: readonly WordId[];
  /** What would stand there, words that stay among them. */
  readonly words: readonly Word[];
  readonly now: string;
  readonly heard: string;
  /** Somebody corrected it, typed it or left it out: it is taken only where that is asked. */
  readonly isCorrected: boolean;
}

/**
 * The passages in which a hearing of the stretch differs from the track, in order. Words that differ in capitals or
 * marks alone are the same, and the track's stay; so do described sounds.
 */
export function proposedPassages(track: Track, heard: readonly Word[], stretch: Span): readonly ProposedPassage[] {
  const from = track.words.findIndex((word) => word.startMs >= stretch.startMs);
  const to = track.words.findLastIndex((word) => word.startMs < stretch.endMs) + 1;
  if (from < 0 || to <= from) return [];
  const now = track.words.slice(from, to);
  const bare = (words: readonly Word[]): string[] =>
    words.map((word) => (word.kind === 'speech' ? bareWord(word.text) : word.text));
  const same = matchWords(bare(now), bare(heard)).filter((match) => match.isExact);
  const passages: ProposedPassage[] = [];
  let [nowAt, heardAt] = [0, 0];
  for (const { script, heard: match } of [...same, { script: now.length, heard: heard.length }]) {
    if (script > nowAt || match > heardAt) {
      const passage = passageOf(now, heard, [nowAt, script], [heardAt, match]);
      if (passage !== null) passages.push(passage);
    }
    [nowAt, heardAt] = [script + 1, match + 1];
  }
  return passages;
}

type Range = readonly [from: number, to: number];

function passageOf(
  now: readonly Word[],
  heard: readonly Word[],
  [nowFrom, nowTo]: Range,
  [heardFrom, heardTo]: Range
): ProposedPassage | null {
  const old = now.slice(nowFrom, nowTo);
  if (old.some((word) => word.kind === 'sound')) return null;
  const put = heard.slice(heardFrom, heardTo);
  // Something put in where nothing stood is put beside a word that stays.
  const beside = old.length > 0 ? null : now[nowFrom - 1] === undefined ? 'before' : 'behind';
  const stays = beside === null ? [] : [beside === 'behind' ? now[nowFrom - 1]! : now[nowFrom]!];
  if (beside !== null && stays[0] === undefined) return null;
  const run = [...old, ...stays];
  const all = [...run, ...put];
  const told = (words: readonly Word[]): string => joinWords(words.filter((word) => word.shown));
  const speakerId = run[0]!.speakerId;
  const dressed = put.map((word, at) => ({
    ...word,
    speakerId,
    startsParagraph: at === 0 && old[0]?.startsParagraph === true
  }));
  return {
    ...spanOf(all),
    wordIds: run.map((word) => word.id),
    words: beside === 'before' ? [...dressed, ...stays] : [...stays, ...dressed],
    now: told(old),
    heard: told(put),
    isCorrected: old.some((word) => word.correctedAt !== null || !word.shown || word.confidence === null)
  };
}

/** The edits that take passages; words that come in get new ids. */
export const takePassages = (passages: readonly ProposedPassage[], mint: () => string): CommandOf<'takeHearing'>[] =>
  passages.map(({ wordIds, words }) => ({
    type: 'takeHearing',
    wordIds,
    words: words.map((word) => (wordIds.includes(word.id) ? word : { ...word, id: asWordId(mint()) }))
  }));
