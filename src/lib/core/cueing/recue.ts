/** Making the cues of a track anew from its words. */

import type { CueId } from '../id';
import { joinTranslations, lookUp, makeCue, compareCues, type Cue, type Rules, type Track, type Word } from '../track';
import { bestBreak } from './breaker';
import { timeCue } from './cue-times';
import { preparePassage, shownLength } from './score';

/**
 * The cues of the track under the rules. Locked cues stay as they are; a new cue that begins where an old one began
 * keeps its id and what was set on it by hand. Other cues take their ids from `mint`. With `cueIds` the others stay too.
 */
export function recue(track: Track, rules: Rules, mint: () => string, cueIds?: ReadonlySet<CueId>): Cue[] {
  if (cueIds !== undefined) return recueSome(track, rules, mint, cueIds);
  const { findCueOf } = lookUp(track);
  const cues: Cue[] = track.cues.filter((cue) => cue.locked || cue.wordIds.length === 0);
  const lockedAfter = (startMs: number): number | null => {
    const next = cues.find((cue) => cue.locked && cue.startMs > startMs);
    return next?.startMs ?? null;
  };
  let passage: Word[] = [];
  const finish = (): void => {
    const made = cuesOfPassage(passage, track, rules, mint, lockedAfter);
    passage = [];
    cues.push(...made);
  };
  for (const word of track.words) {
    if (findCueOf(word.id)?.locked === true) finish();
    else passage.push(word);
  }
  finish();
  return cues.sort(compareCues);
}

function recueSome(track: Track, rules: Rules, mint: () => string, cueIds: ReadonlySet<CueId>): Cue[] {
  const old = new Map(track.cues.map((cue) => [cue.id, cue]));
  const held = track.cues.map((cue) => (cueIds.has(cue.id) ? cue : { ...cue, locked: true }));
  return recue({ ...track, cues: held }, rules, mint).map((cue) =>
    cueIds.has(cue.id) ? cue : (old.get(cue.id) ?? cue)
  );
}

function cuesOfPassage(
  words: readonly Word[],
  track: Track,
  rules: Rules,
  mint: () => string,
  lockedAfter: (startMs: number) => number | null
): Cue[] {
  const shown = words.filter((word) => word.shown);
  if (shown.length === 0) return [];
  const at = new Map(words.map((word, index) => [word.id, index]));
  const { findCueOf } = lookUp(track);
  const passage = preparePassage(shown, { ...track, rules });
  const firstOf = (cue: Cue | undefined): string | undefined =>
    cue?.wordIds.find((id) => at.has(id) && words[at.get(id)!]!.shown);
  return bestBreak(passage).map(({ from, to, lineStarts }) => {
    const first = shown[from]!;
    const last = shown[to]!;
    const old = findCueOf(first.id);
    const kept = old !== undefined && firstOf(old) === first.id ? old : undefined;
    const next = shown[to + 1]?.startMs ?? lockedAfter(first.startMs);
    const run = words.slice(at.get(first.id), at.get(last.id)! + 1).map((word) => word.id);
    return makeCue({
      ...kept,
      ...joinTranslations([...new Set(run.map(findCueOf))].filter((cue) => cue !== undefined)),
      id: kept?.id ?? mint(),
      ...timeCue(
        {
          firstStartMs: first.startMs,
          lastEndMs: Math.max(last.endMs, first.startMs),
          characters: shownLength(passage, from, to)
        },
        next,
        rules
      ),
      wordIds: run,
      lineStarts: lineStarts.map((index) => shown[index]!.id)
    });
  });
}
