/** What the work on a track came to since it was otherwise: how its words and its cues differ. */
import { markedLines, type Cue, type Track } from '../track';
import { draftErrors } from './changes';
import type { WordErrors } from './word-errors';

export interface ChangesSince {
  /** Of what was before against the track, without capitals and marks. */
  readonly words: WordErrors;
  /** How many cues are there that were not, are gone, have other times, are as they were. */
  readonly cues: { readonly made: number; readonly gone: number; readonly timed: number; readonly same: number };
}

type Compared = Pick<Track, 'words' | 'cues'>;

export function changesSince(before: Compared, track: Compared): ChangesSince {
  const had = new Map(before.cues.map((cue) => [cue.id, cue]));
  const kept = track.cues.flatMap((cue): readonly (readonly [Cue, Cue])[] => {
    const old = had.get(cue.id);
    return old === undefined ? [] : [[old, cue]];
  });
  const same = kept.filter(([old, now]) => isSameTime(old, now)).length;
  return {
    words: draftErrors(before, track, { stretchMs: Number.POSITIVE_INFINITY }).all,
    cues: {
      made: track.cues.length - kept.length,
      gone: before.cues.length - kept.length,
      timed: kept.length - same,
      same
    }
  };
}

const isSameTime = (one: Cue, other: Cue): boolean => one.startMs === other.startMs && one.endMs === other.endMs;

/** A cue that is another now; `null`: there was none, or is none any more. */
export interface ChangedCue {
  readonly before: { readonly cue: Cue; readonly lines: readonly string[] } | null;
  readonly now: { readonly cue: Cue; readonly lines: readonly string[] } | null;
}

/** The cues that are shown with another text, at another time or place, in order of time. */
export function changedCues(before: Track, track: Track): readonly ChangedCue[] {
  const shown = (one: Track) =>
    new Map(one.cues.map((cue) => [cue.id, { cue, lines: markedLines(one, cue) }] as const));
  const [had, has] = [shown(before), shown(track)];
  const changed = [...new Set([...had.keys(), ...has.keys()])].flatMap((id): readonly ChangedCue[] => {
    const [old, now] = [had.get(id) ?? null, has.get(id) ?? null];
    if (old !== null && now !== null && isShownAlike(old, now)) return [];
    return [{ before: old, now }];
  });
  const startOf = ({ before: old, now }: ChangedCue): number => (now ?? old!).cue.startMs;
  return changed.sort((a, b) => startOf(a) - startOf(b));
}

type Shown = NonNullable<ChangedCue['now']>;
const isShownAlike = (one: Shown, other: Shown): boolean =>
  isSameTime(one.cue, other.cue) &&
  one.lines.join('\n') === other.lines.join('\n') &&
  JSON.stringify([one.cue.placement, one.cue.look]) === JSON.stringify([other.cue.placement, other.cue.look]);
