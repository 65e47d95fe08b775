import { toSpan } from '../../src/lib/core/time';
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { formatSrt } from '../../src/lib/core/formats';
import { openTrack } from '../../src/lib/core/stored';
import type { Cue, Track } from '../../src/lib/core/track';
import { ask, removeFolders, send, startServer, tone, upload, uploadMapped, type Server } from './harness';

let server: Server;
let recordingId: string;
let interview: Track;
beforeAll(async () => {
  server = await startServer();
  const { form, draft } = JSON.parse(readFileSync(resolve('demo/tracks/interview.json'), 'utf8'));
  interview = openTrack(form, draft);
  const bytes = readFileSync(resolve('demo/media/winding-the-merrowby-clock.mp4'));
  recordingId = await uploadMapped(server, 'interview.mp4', bytes);
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

/** Captions of the interview as another house would have sent them. */
async function importMoved(id: string, move: (cue: Cue) => Cue): Promise<string> {
  const content = formatSrt({ ...interview, cues: interview.cues.map(move) });
  const { body } = await send(server, `/api/recordings/${id}/tracks`, { format: 'srt', language: 'en', content });
  return body.track.id as string;
}

const moved =
  (shiftMs: number, speed = 1) =>
  (cue: Cue): Cue => ({
    ...cue,
    ...toSpan({ startMs: (cue.startMs - shiftMs) / speed, endMs: (cue.endMs - shiftMs) / speed })
  });

test.each([
  ['late', moved(-7300)],
  ['for another frame rate', moved(-4000, 25 / 24)],
  ['as they should', moved(0)]
])('captions that run %s are laid on the voices of a recording with bells and ticking', async (_, move) => {
  const trackId = await importMoved(recordingId, move);
  const { status, body } = await send(server, `/api/tracks/${trackId}/sync-estimate`, {});
  expect(status).toBe(200);
  expect(body.confidence).toBeGreaterThan(0.4);
  const { shiftMs, speed } = body as { shiftMs: number; speed: number };
  const { body: after } = await send(server, `/api/tracks/${trackId}/retime`, { shiftMs, speed });
  const off = (after.track.cues as Cue[]).map((cue, at) => Math.abs(cue.startMs - interview.cues[at]!.startMs));
  expect(off.reduce((sum, ms) => sum + ms, 0) / off.length).toBeLessThan(80);
});

test('where nobody speaks the estimate says that it is worth nothing', async () => {
  const id = (await upload(server, 'tone.wav', tone(20))).body.recording.id as string;
  const trackId = await importMoved(id, moved(0));
  expect((await send(server, `/api/tracks/${trackId}/sync-estimate`, {})).body.confidence).toBe(0);
  expect((await ask(server, '/api/tracks/none/sync-estimate', { method: 'POST' })).status).toBe(404);
});
