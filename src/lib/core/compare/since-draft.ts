/** What the work on a track came to: how its words and its cues differ from the draft. */
import type { Cue, Track } from '../track';
import { draftErrors } from './changes';
import type { WordErrors } from './word-errors';

export interface SinceDraft {
  /** Of the draft against the track, without capitals and marks. */
  readonly words: WordErrors;
  /** How many cues are there that were not, are gone, have other times, are as they were. */
  readonly cues: { readonly made: number; readonly gone: number; readonly timed: number; readonly same: number };
}

export function changesSinceDraft(
  draft: Pick<Track, 'words' | 'cues'>,
  track: Pick<Track, 'words' | 'cues'>
): SinceDraft {
  const had = new Map(draft.cues.map((cue) => [cue.id, cue]));
  const kept = track.cues.flatMap((cue): readonly (readonly [Cue, Cue])[] => {
    const old = had.get(cue.id);
    return old === undefined ? [] : [[old, cue]];
  });
  const same = kept.filter(([old, now]) => old.startMs === now.startMs && old.endMs === now.endMs).length;
  return {
    words: draftErrors(draft, track, { stretchMs: Number.POSITIVE_INFINITY }).all,
    cues: {
      made: track.cues.length - kept.length,
      gone: draft.cues.length - kept.length,
      timed: kept.length - same,
      same
    }
  };
}
