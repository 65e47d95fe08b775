import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { ask, jobEnd, removeFolders, send, speech, startServer, upload, type Server } from './harness';

let server: Server;
let recordingId: string;
beforeAll(async () => {
  server = await startServer();
  const sound = speech([
    'Tobin Ashe has looked after the clock in Merrowby since he was a boy.',
    'The wheel came from a workshop in Dunmarrow.'
  ]);
  recordingId = (await upload(server, 'talk.wav', sound)).body.recording.id;
  await ask(server, `/api/recordings/${recordingId}/speech`);
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

const put = (path: string, terms: unknown) =>
  ask(server, path, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ terms })
  });

async function textHeard(more: Record<string, unknown> = {}): Promise<string> {
  const { body } = await send(server, `/api/recordings/${recordingId}/transcriptions`, {
    engine: 'pocketsphinx-en-us',
    language: 'en',
    ...more
  });
  const job = await jobEnd(server, body.job.id);
  expect(job).toMatchObject({ state: 'done' });
  const { track } = (await ask(server, `/api/tracks/${job.result.trackId}`)).body;
  return track.words.map((word: { text: string }) => word.text).join(' ');
}

describe('the vocabulary', () => {
  test('is kept for the workspace and for a recording, doubles and what cannot be spoken left out', async () => {
    expect((await ask(server, '/api/vocabulary')).body).toEqual({ terms: [] });
    const kept = await put('/api/vocabulary', [{ text: 'Tobin Ashe' }, { text: 'tobin ashe' }, { text: '***' }]);
    expect([kept.status, kept.body]).toEqual([200, { terms: [{ text: 'Tobin Ashe' }] }]);
    const own = `/api/recordings/${recordingId}/vocabulary`;
    await put(own, [{ text: 'Merrowby', soundsLike: 'merry oh bee' }]);
    expect((await ask(server, own)).body).toEqual({ terms: [{ text: 'Merrowby', soundsLike: 'merry oh bee' }] });
    expect((await ask(server, '/api/vocabulary')).body.terms).toHaveLength(1);
  });

  test('is refused where it has another shape or belongs to no recording', async () => {
    expect((await put('/api/vocabulary', ['Tobin'])).status).toBe(400);
    expect(
      (
        await put(
          '/api/vocabulary',
          Array.from({ length: 5001 }, () => ({ text: 'a' }))
        )
      ).status
    ).toBe(400);
    expect((await put('/api/recordings/nobody/vocabulary', [])).status).toBe(404);
  });

  test('is heard: names come as they are written, those of the workspace and of the recording together', async () => {
    const plain = await textHeard({ vocabulary: [] });
    expect(plain).not.toMatch(/Tobin Ashe|Merrowby/);
    expect(await textHeard()).toMatch(/Tobin Ashe .* Merrowby/);
    // Those of the request stand in for those that were kept.
    const asked = await textHeard({ vocabulary: ['Dunmarrow'] });
    expect(asked).toContain('Dunmarrow');
    expect(asked).not.toContain('Merrowby');
    expect(readdirSync(join(server.folder, 'uploads'))).toEqual([]);
  });

  test('of odd signs and of thousands of lines does no harm', async () => {
    const letters = (number: number): string => String(number).replace(/\d/g, (digit) => 'aeioulmnrs'[Number(digit)]!);
    const many = Array.from({ length: 4000 }, (_, at) => `Vel${letters(at)}ton`);
    const text = await textHeard({
      vocabulary: ['Merrowby', '🕰️', "'; DROP TABLE terms; --", '\u0000', '-'.repeat(500), '(2)', '<s>', ...many]
    });
    expect(text.split(' ').length).toBeGreaterThan(10);
    expect((await ask(server, '/api/health')).status).toBe(200);
  });
});
