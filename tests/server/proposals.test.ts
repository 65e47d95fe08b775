import { afterAll, beforeAll, expect, test } from 'vitest';
import {
  ask,
  jobEnd,
  removeFolders,
  send,
  speech,
  startServer,
  until,
  upload,
  uploadMapped,
  type Server
} from './harness';

const SENTENCES = [
  'Good morning and welcome to the tower.',
  'My grandfather kept this clock running for forty years.',
  'All night long the heavy weight wants to fall.',
  'Thank you for coming to the museum tonight.'
];

let server: Server;
let recordingId: string;
beforeAll(async () => {
  server = await startServer();
  recordingId = await uploadMapped(server, 'talk.wav', speech(SENTENCES));
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

interface WordAnswer {
  readonly id: string;
  readonly text: string;
  readonly startMs: number;
}
const hear = async (more: object = {}) =>
  (await send(server, `/api/recordings/${recordingId}/transcriptions`, { language: 'en', figures: false, ...more }))
    .body;
const trackOf = async (id: string): Promise<{ revision: number; words: WordAnswer[]; cues: { lines: string[] }[] }> =>
  (await ask(server, `/api/tracks/${id}`)).body.track;
const textOf = async (id: string): Promise<string> => (await trackOf(id)).words.map(({ text }) => text).join(' ');

test('a new hearing is a proposal: taken whole or by passage as one change, what was corrected only where it is asked', async () => {
  const { trackId } = (await jobEnd(server, (await hear()).job.id)).result;
  const heard = await textOf(trackId);
  const { words, revision } = await trackOf(trackId);
  const wordOf = (text: string): WordAnswer => words.find((word) => word.text.startsWith(text))!;
  // As if the first hearing had gone wrong in one place, and a person had written over another.
  const edited = await send(server, `/api/tracks/${trackId}/edits`, {
    revision,
    edits: [{ type: 'replaceWords', wordIds: [wordOf('museum').id], text: 'mew see um' }]
  });
  expect(edited.status).toBe(200);
  const job = await jobEnd(server, (await hear({ trackId })).job.id);
  expect(job).toMatchObject({ state: 'done', result: { trackId } });
  expect(await textOf(trackId)).toContain('mew see um');

  const [proposal] = (await ask(server, `/api/tracks/${trackId}/proposals`)).body.proposals;
  const corrected = proposal.passages.find((passage: { now: string }) => passage.now.includes('mew'));
  expect(corrected).toMatchObject({ now: 'mew see um', heard: 'museum', isCorrected: true });
  const path = `/api/tracks/${trackId}/proposals/${proposal.id}`;
  const now = await trackOf(trackId);
  expect((await send(server, path, { revision: 0, take: 'all' })).body.error.code).toBe('stale_revision');
  await send(server, path, { revision: now.revision, take: 'all' });
  expect(await textOf(trackId)).toContain('mew see um');

  const { revision: later } = await trackOf(trackId);
  const taken = await send(server, path, { revision: later, take: [corrected.wordIds[0]] });
  expect(taken.status).toBe(200);
  expect(await textOf(trackId)).toBe(heard);
  expect((await ask(server, `/api/tracks/${trackId}/proposals`)).body.proposals[0].passages).toEqual([]);
  expect((await send(server, path, { revision: later + 1, take: 'all' })).body.error.code).toBe('nothing_to_take');
  await send(server, `/api/tracks/${trackId}/undo`, { revision: later + 1 });
  expect(await textOf(trackId)).toContain('mew see um');
  expect((await ask(server, path, { method: 'DELETE' })).status).toBe(204);
  expect((await ask(server, `/api/tracks/${trackId}/proposals`)).body.proposals).toEqual([]);
});

test('a proposal is for a track of this recording with words, and never with a script', async () => {
  const other = (await upload(server, 'other.wav', speech(['Thank you.']))).body.recording.id;
  const content = '1\n00:00:00,400 --> 00:00:01,000\nThank you.\n';
  const path = `/api/recordings/${other}/tracks`;
  const { track } = (await send(server, path, { format: 'srt', language: 'en', content })).body;
  expect((await hear({ trackId: track.id })).error.code).toBe('unknown_track');
  expect((await hear({ trackId: 'nothing' })).error.code).toBe('unknown_track');
});

test('a track is corrected while the rest is heard, also over a kill of the server; undo takes back the correction alone', async () => {
  // Long enough for several chunks.
  const long = [0, 1, 2].flatMap((part) => [`Part ${['one', 'two', 'three'][part]} begins now.`, ...SENTENCES]);
  recordingId = await uploadMapped(server, 'long.wav', speech(long));
  const { job } = await hear();
  const words = await until(
    async () => (await ask(server, `/api/jobs/${job.id}/words`)).body,
    ({ canBegin }) => canBegin === true
  );
  expect(words.words.length).toBeGreaterThan(0);
  const begun = await send(server, `/api/jobs/${job.id}/track`, {});
  expect(begun.status).toBe(201);
  const { trackId } = begun.body as { trackId: string };
  expect((await send(server, `/api/jobs/${job.id}/track`, {})).body.trackId).toBe(trackId);
  const early = await until(
    () => trackOf(trackId),
    (track) => track.words.length > 0
  );
  const edits = [{ type: 'setWordText', wordId: early.words[0]!.id, text: 'Splendid' }];
  await until(
    async () => send(server, `/api/tracks/${trackId}/edits`, { revision: (await trackOf(trackId)).revision, edits }),
    ({ status }) => status === 200
  );
  const { folder, url } = server;
  await server.stop('SIGKILL');
  server = await startServer(folder, { PORT: new URL(url).port });
  expect(await jobEnd(server, job.id)).toMatchObject({ state: 'done', result: { trackId } });
  const text = await textOf(trackId);
  expect(text).toMatch(/^Splendid .* tonight\.$/);
  expect(text.match(/grandfather/g)).toHaveLength(3);
  const { words: all, revision, cues } = await trackOf(trackId);
  all.forEach((word, at) => expect(word.startMs).toBeGreaterThanOrEqual(all[at - 1]?.startMs ?? 0));
  expect(cues.map(({ lines }) => lines.join(' ')).join(' ')).toBe(text);
  const undone = await send(server, `/api/tracks/${trackId}/undo`, { revision });
  expect(undone.status).toBe(200);
  expect(await textOf(trackId)).toMatch(/^(?!Splendid).* tonight\.$/);
  expect((await send(server, `/api/tracks/${trackId}/undo`, { revision: revision + 1 })).status).toBe(409);
  expect((await send(server, `/api/jobs/${job.id}/track`, {})).body.error.code).toBe('not_growing');
});
