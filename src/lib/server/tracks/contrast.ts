import { fontKeyOf } from '$lib/core/faces';
import { contrastOfCues, measureAdvances } from '$lib/core/layout';
import { hasLargeLetters, type LightMap } from '$lib/core/light';
import type { Track } from '$lib/core/track';
import { fontShelf } from '../faces/shelf';
import type { Recording } from '../store/recordings';

/** The worst and the median contrast of every cue that shows words, as the API tells it. */
export function contrastOfTrack(
  track: Track,
  { media }: Recording,
  map: LightMap,
  ownFaces: Parameters<typeof fontShelf>[0]
) {
  const fonts = fontShelf(ownFaces);
  const font = fonts.find(fontKeyOf(fonts.faces, track.look))!;
  const picture = { width: media.width ?? 1280, height: media.height ?? 720 };
  const advances = measureAdvances(
    font,
    track.words.map(({ text }) => text)
  );
  const isLarge = hasLargeLetters(track.look);
  const round = (ratio: number): number => Math.round(ratio * 100) / 100;
  return contrastOfCues(track, { picture, advances, map }).map(
    ({ cueId, legibility: { worst, median, poorShare }, isOverLettering }) => ({
      ...{ cueId, worst: round(worst), median: round(median), poorShare: round(poorShare), isLarge, isOverLettering }
    })
  );
}
