/** Whose look each part of a cue has: the track's, overridden by the speaker's, overridden by the cue's. */
import { cueSpeaker } from './lines';
import { overrideLook, type Look, type LookOverrides, type Placement } from './look';
import type { Cue, Track } from './track';

type Dressed = Pick<Track, 'look' | 'speakers'>;

const speakerLook = ({ speakers }: Dressed, speakerId: string | null): LookOverrides | null =>
  speakerId === null ? null : (speakers.find(({ id }) => id === speakerId)?.look ?? null);

/** Where on the picture a cue stands: the one answer for what draws, writes and checks it. */
export const placementOf = (track: Track, cue: Cue): Placement =>
  cue.placement ?? speakerLook(track, speakerIfDressed(track, cue))?.placement ?? track.look.placement;

/** The row and the side of the nine places that a placement is one of, or lies nearest to. */
export function rowAndSide(placement: Placement): {
  readonly row: 'top' | 'middle' | 'bottom';
  readonly side: 'left' | 'centre' | 'right';
} {
  if (typeof placement !== 'string')
    return { row: placement.yPercent < 34 ? 'top' : placement.yPercent < 67 ? 'middle' : 'bottom', side: 'centre' };
  const [row, side] = placement.split(' ') as ['top' | 'middle' | 'bottom', 'left' | 'centre' | 'right'];
  return { row, side };
}

/** The look of a cue as a whole: of its speaker where its words agree. */
export function lookOfCue(track: Track, cue: Cue): Look {
  const look = overrideLook(track.look, speakerLook(track, speakerIfDressed(track, cue)), cue.look);
  return cue.placement === null ? look : { ...look, placement: cue.placement };
}

/** Who speaks a cue is looked up only where some speaker has a look. */
const speakerIfDressed = (track: Track, cue: Cue): string | null =>
  track.speakers.some(({ look }) => look !== null) ? cueSpeaker(track, cue) : null;

/** What the letters of a voice look like within a cue of several; where and how large they stand is the cue's. */
export function lookOfVoice(track: Dressed, cue: Cue, speakerId: string | null): Look {
  return overrideLook(track.look, speakerLook(track, speakerId), cue.look);
}

/** Whether anything of how it looks is its own. */
export const hasOwnLook = ({ look, placement }: Pick<Cue, 'look' | 'placement'>): boolean =>
  look !== null || placement !== null;
