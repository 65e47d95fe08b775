import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { countWordErrors } from '../../src/lib/core/compare';
import {
  ask,
  jobEnd,
  media,
  newFolder,
  removeFolders,
  send,
  speech,
  startServer,
  until,
  upload,
  uploadMapped,
  type Answer,
  type Server
} from './harness';

const SENTENCES = [
  'Good morning and welcome to the tower.',
  'My grandfather kept this clock running for forty years.',
  'All night long the heavy weight wants to fall.'
];
const MONO = 'aformat=sample_fmts=s16:sample_rates=16000:channel_layouts=mono';
const TEXT = SENTENCES.join(' ');

let server: Server;
const folder = newFolder();
const path = (name: string): string => join(folder, name);
const ffmpeg = (...args: string[]): void =>
  void execFileSync('ffmpeg', ['-nostdin', '-v', 'error', '-y', ...args], { cwd: folder });
beforeAll(async () => {
  server = await startServer();
  writeFileSync(path('voice.wav'), speech(SENTENCES));
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

const take = (name: string): Promise<string> => uploadMapped(server, name, readFileSync(path(name)));
const hear = (id: string, more: object = {}): Promise<Answer> =>
  send(server, `/api/recordings/${id}/transcriptions`, { language: 'en', figures: false, ...more });
async function wordErrors(id: string, more: object = {}): Promise<number> {
  const job = await jobEnd(server, (await hear(id, more)).body.job.id);
  if (job.state === 'failed') return 1;
  const { words } = (await ask(server, `/api/tracks/${job.result.trackId}`)).body.track;
  return countWordErrors(TEXT, words.map((word: { text: string }) => word.text).join(' ')).wordErrorRate;
}

test('streams and channels are listed, seen and listened to, and the one with the speech is heard', async () => {
  // Music in the first stream; in the second, noise on the left and the voice on the right.
  ffmpeg(
    ...['-f', 'lavfi', '-i', 'sine=330:duration=12', '-f', 'lavfi', '-i', 'anoisesrc=amplitude=0.5:duration=12'],
    ...['-i', 'voice.wav', '-filter_complex', `[1:a]${MONO}[n];[2:a]${MONO}[v];[n][v]amerge=inputs=2[m]`],
    ...['-map', '0:a', '-map', '[m]', '-metadata:s:a:1', 'language=eng', '-c:a', 'pcm_s16le', 'two.mkv']
  );
  const id = await take('two.mkv');
  const { sources } = (await ask(server, `/api/recordings/${id}/sources`)).body;
  expect(sources).toEqual([
    { stream: 0, channel: null, name: 'Stream 1, its one channel' },
    { stream: 1, channel: null, name: 'Stream 2 (eng), all channels together' },
    { stream: 1, channel: 0, name: 'Stream 2 (eng), left' },
    { stream: 1, channel: 1, name: 'Stream 2 (eng), right' }
  ]);
  const levels = async (name: string) =>
    new Uint8Array(await (await fetch(`${server.url}/api/recordings/${id}/sources/${name}/levels`)).arrayBuffer());
  expect((await levels('1-0')).length).toBeGreaterThan(3 * 1500);
  expect(await levels('1-0')).not.toEqual(await levels('1-1'));
  const sample = await fetch(`${server.url}/api/recordings/${id}/sources/1-1/sound?fromMs=1000`);
  expect(sample.headers.get('content-type')).toBe('audio/wav');
  expect(
    Buffer.from(await sample.arrayBuffer())
      .subarray(0, 4)
      .toString()
  ).toBe('RIFF');
  expect((await ask(server, `/api/recordings/${id}/sources/5-0/levels`)).body.error.code).toBe('unknown_source');
  expect((await hear(id, { source: { stream: 4, channel: 0 } })).body.error.code).toBe('unknown_source');
  expect(await wordErrors(id, { source: { stream: 1, channel: 1 } })).toBeLessThan(0.5);
});

test('what is under the voices is taken away first: fewer errors over music', async () => {
  ffmpeg(
    ...[
      '-i',
      'voice.wav',
      '-f',
      'lavfi',
      '-i',
      'aevalsrc=0.12*sin(2*PI*262*t)+0.12*sin(2*PI*330*t)+0.12*sin(2*PI*392*t):d=14'
    ],
    ...['-filter_complex', '[0:a][1:a]amix=inputs=2:duration=first:normalize=0', '-ar', '16000', 'over-music.wav']
  );
  const id = await take('over-music.wav');
  const [plain, cleaned] = [await wordErrors(id), await wordErrors(id, { background: 'music' })];
  expect(cleaned).toBeLessThan(plain);
  // Made once, and kept with the recording.
  expect(await wordErrors(id, { background: 'music' })).toBeLessThanOrEqual(plain);
});

test.each([
  ['silence', ['-f', 'lavfi', '-i', 'anullsrc=r=16000:cl=mono', '-t', '6']],
  ['noise', ['-f', 'lavfi', '-i', 'anoisesrc=amplitude=0.3:duration=6', '-ar', '16000']],
  ['music', ['-f', 'lavfi', '-i', 'aevalsrc=0.15*sin(2*PI*262*t)+0.15*sin(2*PI*330*t)+0.15*sin(2*PI*392*t):d=6']]
])('of %s alone the job says that nobody speaks', async (name, args) => {
  const { body } = await upload(server, `${name}.wav`, media('wav', args));
  const job = await jobEnd(server, (await hear(body.recording.id as string)).body.job.id);
  expect(job).toMatchObject({ state: 'failed', error: expect.stringContaining('No speech') as string });
});

test.each([
  ['telephone sound at 8 kHz', ['-ar', '8000', '-ac', '1']],
  ['eight channels at 192 kHz', ['-ar', '192000', '-ac', '8']],
  ['clipped', ['-af', 'volume=14dB']]
])('%s is heard', async (name, args) => {
  ffmpeg('-i', 'voice.wav', ...args, `${name}.wav`);
  const id = await take(`${name}.wav`);
  const job = await jobEnd(server, (await hear(id)).body.job.id);
  expect(job.state).toBe('done');
  expect((await ask(server, `/api/tracks/${job.result.trackId}`)).body.track.words.length).toBeGreaterThan(5);
});

test('two hearings at once become two tracks; a recording that is deleted meanwhile takes its hearing along', async () => {
  const id = await take('voice.wav');
  const jobs = (await Promise.all([hear(id), hear(id)])).map(({ body }) => body.job.id as string);
  const ends = await Promise.all(jobs.map((job) => jobEnd(server, job)));
  expect(new Set(ends.map((job) => job.result.trackId)).size).toBe(2);
  const last = (await hear(id)).body.job.id as string;
  await until(
    () => ask(server, `/api/jobs/${last}`),
    ({ body }) => body.job.stage === 'hearing'
  );
  expect((await ask(server, `/api/recordings/${id}?forever=1`, { method: 'DELETE' })).status).toBe(204);
  expect((await ask(server, `/api/jobs/${last}`)).status).toBe(404);
  expect((await ask(server, '/api/health')).body.ok).toBe(true);
});
