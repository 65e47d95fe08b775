/** What lays a track on its recording's speech, found in a thread of its own. */
import type { TrackId } from '$lib/core/id';
import { z } from 'zod';
import type { SpeechMap } from '$lib/core/audio';
import type { SyncEstimate } from '$lib/core/sync';
import type { ReckonedSpan } from '$lib/core/time';
import { loadSpeech } from '../media/prepare';
import { runThread } from '../children';
import type { MediaFiles } from '../media/files';
import type { Preparing } from '../recordings/preparing';
import type { RecordingStore } from '../store/recordings';
import type { OpenTracks } from './open-tracks';

const piece = z.object({ shiftMs: z.number(), speed: z.number() });
const estimateSchema = piece.extend({
  segments: z.array(piece.extend({ fromMs: z.number(), toMs: z.number() })).optional(),
  confidence: z.number()
});

interface Parts {
  readonly tracks: OpenTracks;
  readonly preparing: Preparing;
  readonly files: MediaFiles;
  readonly recordings: RecordingStore;
}

/** Waits for the speech map. Rejects when aborted. */
export async function estimateTrackSync(
  { tracks, preparing, files, recordings }: Parts,
  trackId: TrackId,
  signal: AbortSignal
): Promise<SyncEstimate> {
  const { track } = tracks.get(trackId);
  const { durationMs } = recordings.find(track.recordingId)!;
  await preparing.speechMapped(track.recordingId, signal);
  const speech = await loadSpeech(files.speechPath(track.recordingId));
  return estimateSyncOf(track.cues, { speech, durationMs }, signal);
}

/** What lays cues on speech. Rejects when aborted. */
export async function estimateSyncOf(
  cues: readonly ReckonedSpan[],
  { speech, durationMs }: { readonly speech: SpeechMap; readonly durationMs: number },
  signal: AbortSignal
): Promise<SyncEstimate> {
  const asked = { cues: cues.map(({ startMs, endMs }) => ({ startMs, endMs })), speech, durationMs };
  const found = await runThread('sync', asked, { signal, take: (message) => estimateSchema.parse(message) });
  const { segments, ...whole } = found;
  return segments === undefined ? whole : { ...whole, segments };
}
