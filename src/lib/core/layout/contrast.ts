/** The contrast of every cue of a track, from the light map alone. */
import { isOverLettering, legibilityOf, type Legibility, type LightMap } from '../light';
import type { CueId } from '../id';
import type { Track } from '../track';
import { roughAreas, type Advances } from './areas';
import { blockOf } from './block';
import type { PictureSize } from './place-block';

export interface CueContrast {
  readonly cueId: CueId;
  readonly legibility: Legibility;
  /** It lies on lettering of the picture, as far as that can be told. */
  readonly isOverLettering: boolean;
}

/** Of cues that show words, in their order. `advances`: of the track's own face. */
export function contrastOfCues(
  track: Track,
  { picture, advances, map }: { readonly picture: PictureSize; readonly advances: Advances; readonly map: LightMap }
): readonly CueContrast[] {
  return track.cues.flatMap((cue) => {
    const areas = roughAreas(blockOf(track, cue), picture, advances);
    const legibility = legibilityOf(areas, cue, map);
    return legibility === null
      ? []
      : [{ cueId: cue.id, legibility, isOverLettering: isOverLettering(areas, cue, map) }];
  });
}
