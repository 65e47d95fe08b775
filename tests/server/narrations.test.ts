import { execFileSync } from 'node:child_process';
import { utimesSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import {
  ask,
  enginesOf,
  filesIn,
  jobEnd,
  removeFolders,
  send,
  speech,
  startServer,
  until,
  type Answer,
  type Server
} from './harness';

let server: Server;
beforeAll(async () => {
  server = await startServer();
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

const LIVE = '/api/recordings/live';
const PIECE_BYTES = 9600;
const SECOND_BYTES = 96_000;

/** The samples of a sound as a microphone brings them. */
const samplesOf = (wav: Buffer): Buffer =>
  execFileSync('ffmpeg', ['-v', 'error', '-i', '-', '-ac', '1', '-ar', '48000', '-f', 's16le', '-'], {
    input: wav,
    maxBuffer: 100_000_000
  });
/** Of no file that is compressed: each sample says where it stands. */
const counted = (bytes: number): Buffer =>
  Buffer.from(Int16Array.from({ length: bytes / 2 }, (_, at) => at % 30_011).buffer);

async function begin(about: object = {}): Promise<string> {
  const { status, body } = await send(server, LIVE, { title: 'The clock, spoken', language: 'en', ...about });
  expect(status, JSON.stringify(body)).toBe(201);
  return body.narration.id as string;
}
const write = (id: string, offset: number, bytes: Uint8Array, known = 0): Promise<Answer> =>
  ask(server, `${LIVE}/${id}/${offset}?known=${known}`, { method: 'PUT', body: bytes as BodyInit });
/** All of it, piece by piece, from a byte on. */
async function speak(id: string, sound: Buffer, from = 0): Promise<Answer> {
  let last: Answer | undefined;
  for (let at = from; at < sound.length; at += PIECE_BYTES) {
    last = await write(id, at, sound.subarray(at, at + PIECE_BYTES));
    expect(last.status, JSON.stringify(last.body)).toBe(200);
  }
  return last!;
}
const end = (id: string): Promise<Answer> => ask(server, `${LIVE}/${id}/end`, { method: 'POST' });
async function mediaOf(id: string): Promise<Buffer> {
  return Buffer.from(await (await fetch(`${server.url}/api/recordings/${id}/media`)).arrayBuffer());
}
const text = (words: readonly { readonly text: string }[]): string => words.map((word) => word.text).join(' ');

describe('what is spoken', () => {
  test('is heard while it is written, and is a recording then, without what was said anew', async () => {
    const sound = samplesOf(
      speech(['the clock in the tower is late this morning', 'we have to wind it twice a week', 'and oil the wheels'])
    );
    const id = await begin({ title: 'AC/DC: the clock' });
    const last = await speak(id, sound);
    expect(last.body).toMatchObject({ storedBytes: sound.length, isHeard: true });
    expect(last.body.roomMs).toBeGreaterThan(0);
    const heard = await until(
      async () => (await ask(server, `${LIVE}/${id}`)).body,
      ({ words, pending }) => /clock/.test(text([...words, ...pending])) && words.length + pending.length > 12
    );
    const all = [...heard.words, ...heard.pending];
    for (const [at, word] of all.entries())
      expect(word.startMs).toBeGreaterThanOrEqual(at === 0 ? 0 : all[at - 1].startMs);
    // Who knows the first words gets the others.
    const known = heard.words.length as number;
    expect((await ask(server, `${LIVE}/${id}?known=${known}`)).body.words).toEqual([]);

    const leftOut = [{ startMs: 400, endMs: 2600 }];
    await ask(server, `${LIVE}/${id}`, {
      method: 'PATCH',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ leftOut })
    });
    const ended = await end(id);
    expect(ended.status, JSON.stringify(ended.body)).toBe(202);
    expect(ended.body.recording).toMatchObject({ id, title: 'AC/DC: the clock', media: { sampleRate: 48_000 } });
    expect(ended.body.recording.durationMs).toBe(Math.round((sound.length / SECOND_BYTES) * 1000));
    expect((await mediaOf(id)).subarray(44)).toEqual(sound);
    const { trims } = (await ask(server, `/api/recordings/${id}/trims`)).body;
    expect(trims).toHaveLength(1);
    expect(ended.body.recording.durationMs - trims[0].durationMs).toBe(2200);
    expect((await jobEnd(server, ended.body.job.id as string)).state).toBe('done');
    // It is gone from what is spoken, and so is its ear.
    expect((await ask(server, LIVE)).body.narrations).toEqual([]);
    expect(filesIn(server.folder, 'narrations')).toEqual([]);
    expect((await write(id, sound.length, sound.subarray(0, 2))).body.error.code).toBe('unknown_narration');
    await until(
      () => enginesOf(server.pid),
      (engines) => engines.length === 0
    );
  });

  test('is gone on with after a kill, at the byte that is stored, without a hole', async () => {
    const sound = counted(SECOND_BYTES * 3);
    const id = await begin();
    await speak(id, sound.subarray(0, SECOND_BYTES));
    // The next piece is on its way when the server is killed.
    const lost = write(id, SECOND_BYTES, sound.subarray(SECOND_BYTES, SECOND_BYTES + PIECE_BYTES)).catch(() => null);
    await server.stop('SIGKILL');
    await lost;
    server = await startServer(server.folder);
    const [left] = (await ask(server, LIVE)).body.narrations;
    expect(left).toMatchObject({ id, title: 'The clock, spoken' });
    expect(left.storedBytes).toBeGreaterThanOrEqual(SECOND_BYTES);
    const refused = await write(id, left.storedBytes + 2, sound.subarray(0, 2));
    expect(refused).toMatchObject({ status: 409, body: { error: { code: 'other_offset' } } });
    expect(refused.body.error.details).toEqual({ storedBytes: left.storedBytes });
    await speak(id, sound, left.storedBytes as number);
    expect((await end(id)).status).toBe(202);
    expect((await mediaOf(id)).subarray(44)).toEqual(sound);
  });

  test('that nobody goes on with becomes a recording as far as it goes', async () => {
    const sound = counted(SECOND_BYTES);
    const [old, young] = [await begin({ title: 'Forgotten' }), await begin({ title: 'Just now' })];
    await speak(old, sound);
    await speak(young, sound);
    await server.stop('SIGKILL');
    const dayBefore = Date.now() / 1000 - 25 * 3600;
    utimesSync(join(server.folder, 'narrations', old), dayBefore, dayBefore);
    server = await startServer(server.folder);
    const found = await until(
      async () => (await ask(server, '/api/recordings')).body.recordings,
      (list) => list.some(({ title }: { title: string }) => title === 'Forgotten')
    );
    expect(found.some(({ title }: { title: string }) => title === 'Just now')).toBe(false);
    expect((await mediaOf(old)).subarray(44)).toEqual(sound);
    expect((await ask(server, LIVE)).body.narrations).toMatchObject([{ id: young }]);
    await end(young);
  });

  test('waits where the disk is full: nothing of it is half there', async () => {
    const sound = counted(SECOND_BYTES);
    const id = await begin();
    await speak(id, sound.subarray(0, SECOND_BYTES / 2));
    await server.stop();
    server = await startServer(server.folder, { VINETAP_SPARE_BYTES: '1e18' });
    expect(await write(id, SECOND_BYTES / 2, sound.subarray(SECOND_BYTES / 2))).toMatchObject({
      status: 507,
      body: { error: { code: 'disk_full' } }
    });
    expect((await send(server, LIVE, { title: 'Another', language: 'en' })).status).toBe(507);
    await server.stop();
    server = await startServer(server.folder);
    await speak(id, sound, SECOND_BYTES / 2);
    expect((await end(id)).status).toBe(202);
    expect((await mediaOf(id)).subarray(44)).toEqual(sound);
  });

  test('in another language is kept, and not heard meanwhile', async () => {
    const id = await begin({ language: 'fi' });
    expect((await write(id, 0, counted(PIECE_BYTES))).body).toMatchObject({ isHeard: false, settled: [], pending: [] });
    await end(id);
  });

  test('is refused where it cannot be: each time the sound stays as it is', async () => {
    const id = await begin();
    const codes = async (answers: readonly Promise<Answer>[]): Promise<unknown[]> =>
      (await Promise.all(answers)).map(({ status, body }) => [status, body.error.code]);
    expect(
      await codes([
        write(id, 0, new Uint8Array(3)),
        write(id, 0, new Uint8Array(0)),
        write(id, 1, new Uint8Array(2)),
        write(id, 96, new Uint8Array(2)),
        write(id, 0, new Uint8Array(2_000_002)),
        write('0f8fad5b-d9cb-469f-a165-70867728950e', 0, new Uint8Array(2)),
        write('..%2f..%2fetc', 0, new Uint8Array(2)),
        send(server, LIVE, { title: '', language: 'en' }),
        send(server, LIVE, { title: 'x', language: 'no language' }),
        ask(server, `${LIVE}/${id}`, { method: 'PATCH', body: '{"leftOut":[{"startMs":5,"endMs":5}]}' })
      ])
    ).toEqual([
      ...[
        [400, 'bad_request'],
        [400, 'bad_request'],
        [400, 'bad_request'],
        [409, 'other_offset'],
        [413, 'too_large']
      ],
      ...[
        [404, 'unknown_narration'],
        [404, 'unknown_narration'],
        [400, 'bad_request'],
        [400, 'bad_request'],
        [400, 'bad_request']
      ]
    ]);
    expect((await ask(server, `${LIVE}/${id}`)).body.narration.storedBytes).toBe(0);
    expect(await codes([end(id)])).toEqual([[422, 'nothing_spoken']]);
    expect(await codes([end(id)])).toEqual([[404, 'unknown_narration']]);
  });
});
