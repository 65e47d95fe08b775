/** What lays a track on its recording's speech, found in a thread of its own. */
import { z } from 'zod';
import type { SyncEstimate } from '$lib/core/sync';
import type { App } from '../app';
import { loadSpeech } from '../media/prepare';
import { runThread } from '../children';

const piece = z.object({ shiftMs: z.number(), speed: z.number() });
const estimateSchema = piece.extend({
  segments: z.array(piece.extend({ fromMs: z.number(), toMs: z.number() })).optional(),
  confidence: z.number()
});

/** Waits for the speech map. Rejects when aborted. */
export async function estimateTrackSync(app: App, trackId: string, signal: AbortSignal): Promise<SyncEstimate> {
  const { track } = app.tracks.get(trackId);
  const { durationMs } = app.getRecording(track.recordingId);
  await app.preparing.speechMapped(track.recordingId, signal);
  const speech = await loadSpeech(app.files.speechPath(track.recordingId));
  const cues = track.cues.map(({ startMs, endMs }) => ({ startMs, endMs }));
  const found = await runThread(
    'sync',
    { cues, speech, durationMs },
    { signal, take: (message) => estimateSchema.parse(message) }
  );
  const { segments, ...whole } = found;
  return segments === undefined ? whole : { ...whole, segments };
}
