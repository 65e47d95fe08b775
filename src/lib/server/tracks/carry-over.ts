/** Tracks of one cut of a recording, taken over to the next. */
import type { TrackId } from '$lib/core/id';
import { randomUUID } from 'node:crypto';
import { carryOver } from '$lib/core/cuts';
import { loadComparison } from '../media/cuts';
import type { MediaFiles } from '../media/files';
import { ApiProblem } from '../problem';
import type { Preparing } from '../recordings/preparing';
import type { CutRemarkStore } from '../store/cut-remarks';
import type { LogStore } from '../store/log';
import type { TrackStore } from '../store/tracks';
import type { OpenTracks } from './open-tracks';

interface Parts {
  readonly preparing: Preparing;
  readonly tracks: OpenTracks;
  readonly trackStore: TrackStore;
  readonly files: MediaFiles;
  readonly cutRemarks: CutRemarkStore;
  readonly logs: LogStore;
}

/** Gives the id of the new track. Waits for the comparison; throws `no_cut`, `unknown_track`, `not_of_the_cut_before`. */
export async function carryTrackOver(
  { preparing, tracks, trackStore, files, cutRemarks, logs }: Parts,
  recordingId: string,
  fromTrackId: TrackId,
  signal: AbortSignal
): Promise<TrackId> {
  const earlierId = await preparing.compared(recordingId, signal);
  if (tracks.get(fromTrackId).track.recordingId !== earlierId)
    throw new ApiProblem(
      422,
      'not_of_the_cut_before',
      'This track belongs to another recording than the cut before this one; choose one of that cut.'
    );
  const comparison = await loadComparison(files, recordingId);
  const carry = (id: TrackId): TrackId => {
    const { sourceTrackId } = tracks.get(id).track;
    const sourceId = sourceTrackId === null ? undefined : carriedSource(sourceTrackId);
    const over = tracks.carryOver(id, recordingId, (track) => carryOver(track, comparison, randomUUID), sourceId);
    cutRemarks.insert(over.id, over.remarks());
    return over.id;
  };
  /** A translation brings its source along, unless that is there already. */
  const carriedSource = (id: TrackId): TrackId | undefined => {
    const known = trackStore.findCarried(recordingId, id);
    const isOfThatCut = trackStore.findSummary(id)?.recordingId === earlierId;
    return known ?? (isOfThatCut ? carry(id) : undefined);
  };
  return logs.atOnce(() => carry(fromTrackId));
}
