import type { Cue, Placement, Track } from './track';

/** Where on the picture a cue stands: the one answer for what draws, writes and checks it. */
export const placementOf = (track: Pick<Track, 'look'>, cue: Pick<Cue, 'placement'>): Placement =>
  cue.placement ?? track.look.placement;
