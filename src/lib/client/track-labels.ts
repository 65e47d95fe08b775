/** Tracks of a recording by names that tell them apart. */
import type { TrackId } from '$lib/core/id';
import { ownTrackName, type TitledRecording } from '$lib/core/formats';
import { languageName } from '$lib/core/track';
import type { TrackSummary } from './api';

/** `English captions`, with the track's own name, and with a number where that is not enough. */
export function trackLabels(
  recording: TitledRecording & { readonly tracks: readonly Pick<TrackSummary, 'id' | 'language' | 'kind' | 'title'>[] }
): ReadonlyMap<TrackId, string> {
  const seen = new Map<string, number>();
  return new Map(
    recording.tracks.map((track) => {
      const parts = [`${languageName(track.language)} ${track.kind}`, ownTrackName(track, recording)];
      const label = parts.filter((part) => part !== '').join(', ');
      const count = (seen.get(label) ?? 0) + 1;
      seen.set(label, count);
      return [track.id, count === 1 ? label : `${label} (${count})`] as const;
    })
  );
}
