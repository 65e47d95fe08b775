import { resolve } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { ask, media, removeFolders, send, startServer, tone, upload, until, type Answer, type Server } from './harness';

let server: Server;
let earlierId: string;
let trackId: string;

const TALK = resolve('demo/media/how-a-tower-clock-keeps-time.mp3');
/** The talk from second to second, one stretch after the other, as a file of some kind. */
function cutOfTalk(name: string, stretches: readonly (readonly [number, number])[], how: readonly string[] = []) {
  const parts = stretches.map(([from, to], at) => `[0:a]atrim=${from}:${to},asetpts=PTS-STARTPTS[p${at}]`);
  const all = stretches.map((_, at) => `[p${at}]`).join('');
  const filter = `${parts.join(';')};${all}concat=n=${stretches.length}:v=0:a=1[out]`;
  return media(name, ['-i', TALK, '-filter_complex', filter, '-map', '[out]', ...how]);
}
const nextCut = (name: string, bytes: Uint8Array, cutOf: string): Promise<Answer> =>
  ask(server, `/api/recordings?name=${name}&cutOf=${cutOf}`, { method: 'POST', body: bytes as BodyInit });

const SRT = [
  '1\n00:00:02,000 --> 00:00:04,000\nIn the first part\n',
  '2\n00:00:21,000 --> 00:00:24,000\nThis is taken out\n',
  '3\n00:00:28,800 --> 00:00:31,000\nHalf of this\nis gone\n',
  '4\n00:00:40,500 --> 00:00:43,000\nIn the last part\n'
].join('\n');

beforeAll(async () => {
  server = await startServer();
  earlierId = (await upload(server, 'talk.wav', cutOfTalk('talk.wav', [[0, 50]]))).body.recording.id;
  const imported = await send(server, `/api/recordings/${earlierId}/tracks`, {
    format: 'srt',
    language: 'en-GB',
    title: 'House captions',
    content: SRT
  });
  trackId = imported.body.track.id;
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

test('a new cut, in another codec, is found in the one before; a track goes over with all it carries', async () => {
  const { track } = (await ask(server, `/api/tracks/${trackId}`)).body;
  const edits = [
    { type: 'annotateCue', cueId: track.cues[3].id, note: 'ask Ines', bookmark: true },
    { type: 'setWordText', wordId: track.cues[0].wordIds[3], text: 'PART' },
    { type: 'setLook', look: { sizePercent: 9, placement: 'top centre' } }
  ];
  for (const [revision, edit] of edits.entries())
    expect((await send(server, `/api/tracks/${trackId}/edits`, { revision, edits: [edit] })).status).toBe(200);
  await send(server, `/api/tracks/${trackId}/versions`, { title: 'Before the cut' });

  // Five seconds of another place come first; from 20 to 30 s it is gone.
  const bytes = cutOfTalk(
    'next.ogg',
    [
      [103.5, 108.5],
      [0, 20],
      [30, 50]
    ],
    ['-c:a', 'libopus', '-b:a', '32k']
  );
  const { body, status } = await nextCut('next.ogg', bytes, earlierId);
  expect(status).toBe(201);
  expect(body.recording.cutOf).toBe(earlierId);
  const found = (await ask(server, `/api/recordings/${body.recording.id}/cut`)).body;
  expect(found.cutOf).toBe(earlierId);
  expect(found.shared).toHaveLength(2);
  for (const [at, [newMs, oldMs]] of [
    [5000, 0],
    [25_000, 30_000]
  ].entries()) {
    expect(Math.abs(found.shared[at].newMs - newMs!)).toBeLessThan(60);
    expect(Math.abs(found.shared[at].oldMs - oldMs!)).toBeLessThan(60);
    expect(found.shared[at].state).toBe('kept');
  }

  const translation = (await send(server, `/api/tracks/${trackId}/translations`, { language: 'es', from: 'source' }))
    .body.track.id as string;
  const over = await send(server, `/api/recordings/${body.recording.id}/tracks`, { fromTrackId: trackId });
  expect(over.status).toBe(201);
  expect(over.body.track.recordingId).toBe(body.recording.id);
  const cues = over.body.track.cues as { lines: string[]; startMs: number }[];
  expect(cues.map((cue) => cue.lines.join(' / '))).toEqual(['In the first PART', 'is gone', 'In the last part']);
  expect(Math.abs(cues[0]!.startMs - 7000)).toBeLessThan(60);
  expect(Math.abs(cues[2]!.startMs - 35_500)).toBeLessThan(60);
  expect(over.body.remarks.map(({ kind, text }: { kind: string; text: string }) => [kind, text])).toEqual([
    ['new sound', ''],
    ['left out', 'This is taken out'],
    ['shortened', 'Half of this']
  ]);
  // A translation stays beside its source, row by row.
  const translated = await send(server, `/api/recordings/${body.recording.id}/tracks`, { fromTrackId: translation });
  expect(translated.body.track.sourceTrackId).toBe(over.body.track.id);
  const { rows } = (await ask(server, `/api/tracks/${translated.body.track.id}/rows`)).body;
  expect(rows.map(({ source, target }: { source: string; target: string }) => source === target)).toEqual([
    ...[true, true, true]
  ]);

  const newId = over.body.track.id as string;
  const kept = (await ask(server, `/api/tracks/${newId}/document`)).body;
  expect(kept.track).toMatchObject({ look: { sizePercent: 9 }, title: 'House captions', language: 'en-GB' });
  expect(kept.track.cues[2]).toMatchObject({ note: 'ask Ines', bookmark: true });
  expect(kept.track.words.find((word: { text: string }) => word.text === 'PART').correctedAt).not.toBeNull();
  expect(kept.history.undo).toBe('carry over to the new cut');
  const versions = (await ask(server, `/api/tracks/${newId}/versions`)).body.versions as {
    id: string;
    title: string;
  }[];
  expect(versions.map(({ title }) => title)).toEqual(['Draft', 'Before the cut']);
  expect((await ask(server, `/api/tracks/${newId}/versions/${versions[1]!.id}`)).body.track.words).toHaveLength(17);
  // Its history goes on behind the cut, and is its own.
  for (let step = 0; step < 2; step++)
    await send(server, `/api/tracks/${newId}/undo`, { revision: kept.revision + step });
  const back = (await ask(server, `/api/tracks/${newId}`)).body.track;
  expect(back.cues).toHaveLength(4);
  const before = (await ask(server, `/api/tracks/${trackId}/document`)).body.track;
  expect(before.look.sizePercent).toBe(9);

  const look = (position: number, isLookedAt: boolean) =>
    ask(server, `/api/tracks/${newId}/cut-remarks/${position}`, {
      method: 'PATCH',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ isLookedAt })
    });
  expect((await look(1, true)).status).toBe(204);
  expect((await look(9, true)).status).toBe(404);
  const remarks = (await ask(server, `/api/tracks/${newId}/cut-remarks`)).body.remarks as {
    lookedAtMs: number | null;
  }[];
  expect(remarks.map(({ lookedAtMs }) => lookedAtMs !== null)).toEqual([false, true, false]);
  expect((await ask(server, `/api/tracks/${trackId}/cut-remarks`)).body.remarks).toEqual([]);
});

test('what does not belong together is refused, and nothing is left of it', async () => {
  const count = async () => (await ask(server, '/api/recordings')).body.recordings.length as number;
  const before = await count();
  expect((await nextCut('next.wav', tone(2), 'nobody')).body.error.code).toBe('unknown_recording');
  expect(await count()).toBe(before);

  const other = (await upload(server, 'tone.wav', tone(3))).body.recording.id as string;
  const carry = (id: string, fromTrackId: string) => send(server, `/api/recordings/${id}/tracks`, { fromTrackId });
  expect((await carry(other, trackId)).body.error.code).toBe('no_cut');
  expect((await ask(server, `/api/recordings/${other}/cut`)).body.error.code).toBe('no_cut');
  const third = (await nextCut('third.wav', tone(3), other)).body.recording.id as string;
  expect((await carry(third, trackId)).body.error.code).toBe('not_of_the_cut_before');
  expect((await carry(third, 'nobody')).body.error.code).toBe('unknown_track');
});

test('a cut outlives the one before it', async () => {
  const first = (await upload(server, 'tone.wav', tone(3))).body.recording.id as string;
  const next = (await nextCut('next.wav', tone(4), first)).body.recording.id as string;
  await ask(server, `/api/recordings/${next}/cut`);
  expect((await ask(server, `/api/recordings/${first}`, { method: 'DELETE' })).status).toBe(204);
  expect((await ask(server, `/api/recordings/${first}?forever=1`, { method: 'DELETE' })).status).toBe(204);
  const { recording } = (await ask(server, `/api/recordings/${next}`)).body;
  expect(recording.cutOf).toBeUndefined();
  expect(
    (
      await until(
        () => ask(server, `/api/recordings/${next}/speech`),
        ({ status }) => status === 200
      )
    ).status
  ).toBe(200);
});
