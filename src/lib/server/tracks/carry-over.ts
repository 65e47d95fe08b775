/** Tracks of one cut of a recording, taken over to the next. */
import { randomUUID } from 'node:crypto';
import { carryOver } from '$lib/core/cuts';
import type { App } from '../app';
import { loadComparison } from '../media/cuts';
import { ApiProblem } from '../problem';

/** Gives the id of the new track. Waits for the comparison; throws `no_cut`, `unknown_track`, `not_of_the_cut_before`. */
export async function carryTrackOver(
  app: App,
  recordingId: string,
  fromTrackId: string,
  signal: AbortSignal
): Promise<string> {
  const earlierId = await app.preparing.compared(recordingId, signal);
  if (app.tracks.get(fromTrackId).track.recordingId !== earlierId)
    throw new ApiProblem(
      422,
      'not_of_the_cut_before',
      'This track belongs to another recording than the cut before this one; choose one of that cut.'
    );
  const comparison = await loadComparison(app.files, recordingId);
  const id = app.atOnce(() => {
    const over = app.tracks.carryOver(fromTrackId, recordingId, (track) => carryOver(track, comparison, randomUUID));
    app.cutRemarks.insert(over.id, over.remarks);
    return over.id;
  });
  app.changed(recordingId);
  return id;
}
