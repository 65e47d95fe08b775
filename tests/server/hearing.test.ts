import { afterAll, beforeAll, expect, test } from 'vitest';
import { countWordErrors } from '../../src/lib/core/compare';
import {
  ask,
  enginesOf,
  jobEnd,
  removeFolders,
  send,
  speech,
  startServer,
  until,
  upload,
  type Server
} from './harness';

const SENTENCES = [
  'Good morning and welcome to the tower.',
  'The pendulum swings once every two seconds.',
  'My grandfather kept this clock running for forty years.',
  'Thank you for coming to the museum tonight.',
  'The clock will lose about a minute a day.',
  'All night long the heavy weight wants to fall.'
];

let server: Server;
let recordingId: string;
beforeAll(async () => {
  server = await startServer();
  recordingId = (await upload(server, 'talk.wav', speech(SENTENCES))).body.recording.id;
  await ask(server, `/api/recordings/${recordingId}/speech`);
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

const hear = async (): Promise<string> =>
  (
    await send(server, `/api/recordings/${recordingId}/transcriptions`, {
      engine: 'pocketsphinx-en-us',
      language: 'en-GB'
    })
  ).body.job.id;
const isHearing = (id: string) =>
  until(
    () => ask(server, `/api/jobs/${id}`),
    ({ body }) => body.job.stage === 'hearing' && enginesOf(server.pid).length > 0
  );
interface WordAnswer {
  readonly text: string;
  readonly startMs: number;
  readonly endMs: number;
  readonly confidence: number;
  readonly hole?: boolean;
}
const trackOf = async (job: {
  result: { trackId: string };
}): Promise<{ words: WordAnswer[]; cues: { wordIds: string[] }[] }> =>
  (await ask(server, `/api/tracks/${job.result.trackId}`)).body.track;

test('speech becomes words with times and confidence, sentences and cues; each sentence starts where it is spoken', async () => {
  const health = (await ask(server, '/api/health')).body;
  expect(health.engines[0]).toMatchObject({ id: 'pocketsphinx-en-us', kind: 'local', available: true });
  const id = await hear();
  const events = await (await fetch(`${server.url}/api/jobs/${id}/events`)).text();
  expect(events.match(/^data: /gm)!.length).toBeGreaterThan(2);
  expect(events.trim().split('\n').at(-1)).toContain('"state":"done"');
  const track = await trackOf(await jobEnd(server, id));
  const text = track.words.map((word) => word.text).join(' ');
  expect(countWordErrors(SENTENCES.join(' '), text).wordErrorRate).toBeLessThan(0.3);
  expect(text).toMatch(/^[A-Z].*\.$/);
  for (const [at, word] of track.words.entries()) {
    expect(word.confidence).toBeGreaterThanOrEqual(0);
    expect(word.confidence).toBeLessThanOrEqual(1);
    expect(word.endMs).toBeGreaterThan(word.startMs);
    expect(word.startMs).toBeGreaterThanOrEqual(track.words[at - 1]?.startMs ?? 0);
  }
  const { regions } = (await ask(server, `/api/recordings/${recordingId}/speech`)).body as {
    regions: { startMs: number; endMs: number }[];
  };
  expect(regions.length).toBeGreaterThanOrEqual(SENTENCES.length);
  const starts = track.words
    .filter((_, at) => at === 0 || track.words[at - 1]!.text.endsWith('.'))
    .map((word) => word.startMs);
  for (const start of starts)
    expect(Math.min(...regions.map((region) => Math.abs(region.startMs - start)))).toBeLessThan(250);
  expect(track.cues.flatMap((cue) => cue.wordIds)).toHaveLength(track.words.length);
});

test('an engine that is killed costs a try; the words are there all the same', async () => {
  const id = await hear();
  await isHearing(id);
  process.kill(enginesOf(server.pid)[0]!, 'SIGKILL');
  const job = await jobEnd(server, id);
  expect(job.state).toBe('done');
  const track = await trackOf(job);
  expect(track.words.some((word) => word.hole)).toBe(false);
  expect(
    countWordErrors(SENTENCES.join(' '), track.words.map((word) => word.text).join(' ')).wordErrorRate
  ).toBeLessThan(0.3);
});

test('engines that always die leave marked holes, and the server lives', async () => {
  const id = await hear();
  const killer = setInterval(() => enginesOf(server.pid).forEach((pid) => process.kill(pid, 'SIGKILL')), 5);
  const job = await jobEnd(server, id).finally(() => clearInterval(killer));
  expect(job.state).toBe('done');
  const track = await trackOf(job);
  expect(track.words.every((word) => word.hole)).toBe(true);
  expect(track.words[0]!.text).toMatch(/^\[not heard, \d+:\d\d–\d+:\d\d\]$/);
  expect(track.cues).toEqual([]);
});

test('a cancel ends the engines and leaves no track', async () => {
  const before = (await ask(server, `/api/recordings/${recordingId}`)).body.recording.tracks.length;
  const id = await hear();
  await isHearing(id);
  const cancelled = await ask(server, `/api/jobs/${id}`, { method: 'DELETE' });
  expect(cancelled).toMatchObject({ status: 202, body: { job: { state: 'cancelled' } } });
  await until(
    () => enginesOf(server.pid),
    (engines) => engines.length === 0
  );
  expect((await ask(server, `/api/recordings/${recordingId}`)).body.recording.tracks).toHaveLength(before);
});

test('a job goes on after the server was killed, and makes one track', async () => {
  const before = (await ask(server, `/api/recordings/${recordingId}`)).body.recording.tracks.length;
  const id = await hear();
  await isHearing(id);
  const idsOfOpen = async (): Promise<string[]> =>
    (await ask(server, '/api/jobs')).body.jobs.map((one: { id: string }) => one.id);
  expect(await idsOfOpen()).toEqual([id]);
  await server.stop('SIGKILL');
  server = await startServer(server.folder);
  const job = await jobEnd(server, id);
  expect(job.state).toBe('done');
  expect(await idsOfOpen()).toEqual([]);
  expect((await ask(server, `/api/recordings/${recordingId}`)).body.recording.tracks).toHaveLength(before + 1);
});

test('only timing: empty cues on the speech, in any language; one word a cue where it is asked for', async () => {
  const { engines } = (await ask(server, '/api/health')).body;
  expect(engines).toContainEqual(expect.objectContaining({ id: 'timing-only', kind: 'local', available: true }));
  const asked = await send(server, `/api/recordings/${recordingId}/transcriptions`, {
    engine: 'timing-only',
    language: 'cy'
  });
  expect(asked.status).toBe(202);
  const job = await jobEnd(server, asked.body.job.id);
  const { track } = (await ask(server, `/api/tracks/${job.result.trackId}`)).body;
  const { regions } = (await ask(server, `/api/recordings/${recordingId}/speech`)).body;
  expect([track.language, track.words]).toEqual(['cy', []]);
  expect(track.cues.length).toBeGreaterThanOrEqual(3);
  for (const cue of track.cues) {
    expect(cue.lines).toEqual([]);
    expect(
      regions.some(
        (region: { startMs: number; endMs: number }) => region.startMs < cue.endMs && region.endMs > cue.startMs
      )
    ).toBe(true);
  }

  const single = await send(server, `/api/recordings/${recordingId}/transcriptions`, {
    engine: 'pocketsphinx-en-us',
    language: 'en',
    rules: { oneWordPerCue: true }
  });
  const words = await trackOf(await jobEnd(server, single.body.job.id));
  expect(words.cues.length).toBeGreaterThan(20);
  expect(words.cues.every((cue) => cue.wordIds.length === 1)).toBe(true);
});
