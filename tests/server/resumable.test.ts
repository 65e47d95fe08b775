/** Uploads that go on where they broke off, by the requests of their protocol (tus 1.0.0). */
import { readdirSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { ask, filesIn, removeFolders, startServer, tone, until, upload, type Answer, type Server } from './harness';

let server: Server;
beforeAll(async () => void (server = await startServer()));
afterAll(async () => {
  await server.stop();
  removeFolders();
});

const TUS = { 'tus-resumable': '1.0.0' };
const metadata = (fields: Record<string, string>): string =>
  Object.entries(fields)
    .map(([name, value]) => `${name} ${Buffer.from(value).toString('base64')}`)
    .join(',');

const begin = (bytes: number, fields: Record<string, string> = { filename: 'tower_talk.wav' }): Promise<Answer> =>
  ask(server, '/api/uploads', {
    method: 'POST',
    headers: { ...TUS, 'upload-length': String(bytes), 'upload-metadata': metadata(fields) }
  });
const piece = (path: string, bytes: Uint8Array, offset: number): Promise<Answer> =>
  ask(server, path, {
    method: 'PATCH',
    body: bytes as BodyInit,
    headers: { ...TUS, 'upload-offset': String(offset), 'content-type': 'application/offset+octet-stream' }
  });
const offset = async (path: string): Promise<number> => {
  const { status, headers } = await ask(server, path, { method: 'HEAD', headers: TUS });
  return status === 200 ? Number(headers.get('upload-offset')) : -status;
};

test('an upload goes on after a broken connection and after a restart, and is the recording of its id', async () => {
  const sound = tone(4);
  const created = await begin(sound.length);
  expect(created.status).toBe(201);
  const path = created.headers.get('location')!;
  expect(path).toMatch(/^\/api\/uploads\/[\da-f-]{36}$/);
  expect(await offset(path)).toBe(0);
  expect((await piece(path, sound.subarray(0, 20_000), 0)).status).toBe(204);

  // The connection is lost in the middle of a piece.
  const { hostname, port } = new URL(server.url);
  const socket = connect(Number(port), hostname);
  socket.write(
    [
      `PATCH ${path} HTTP/1.1`,
      `Host: ${hostname}:${port}`,
      'Tus-Resumable: 1.0.0',
      'Upload-Offset: 20000',
      'Content-Type: application/offset+octet-stream',
      `Content-Length: ${sound.length - 20_000}`,
      '\r\n'
    ].join('\r\n')
  );
  socket.write(sound.subarray(20_000, 50_000));
  await until(
    () => offset(path),
    (at) => at > 20_000
  );
  socket.destroy();
  const at = await until(
    () => offset(path),
    (found) => found === 50_000
  );

  await server.stop('SIGKILL');
  server = await startServer(server.folder);
  expect(await offset(path)).toBe(at);
  // Somebody who thinks it is elsewhere changes nothing.
  expect((await piece(path, sound.subarray(30_000), 30_000)).status).toBe(409);
  const whole = await piece(path, sound.subarray(at), at);
  expect(whole.status).toBe(200);
  const { recording, job } = whole.body;
  expect(recording).toMatchObject({ title: 'Tower talk', media: { bytes: sound.length } });
  expect(job.kind).toBe('prepare');
  expect(path.endsWith(recording.id as string)).toBe(true);
  const media = await fetch(`${server.url}/api/recordings/${recording.id}/media`);
  expect(Buffer.from(await media.arrayBuffer()).equals(sound)).toBe(true);

  // Whoever missed the answer learns that it is whole; nobody writes to it any more.
  expect(await offset(path)).toBe(sound.length);
  expect((await piece(path, sound, 0)).status).toBe(404);
  expect((await ask(server, path, { method: 'DELETE', headers: TUS })).status).toBe(404);
  expect(filesIn(server.folder, 'resumable')).toEqual([]);
  const { recordings } = (await ask(server, '/api/recordings')).body;
  expect(recordings).toHaveLength(1);
});

test('what cannot be used is refused in the words of the API, and nothing of it stays', async () => {
  const text = Buffer.from('no sound at all');
  const path = (await begin(text.length, { filename: 'list.txt' })).headers.get('location')!;
  const refused = await piece(path, text, 0);
  expect(refused).toMatchObject({ status: 422, body: { error: { code: 'unsupported_media' } } });
  expect(await offset(path)).toBe(-404);
  expect(readdirSync(join(server.folder, 'resumable'))).toEqual([]);
  expect(await begin(9, { filename: 'a.wav', cutOf: 'none' })).toMatchObject({
    ...{ status: 404, body: { error: { code: 'unknown_recording' } } }
  });
  expect(await begin(Number.MAX_SAFE_INTEGER)).toMatchObject({ status: 507, body: { error: { code: 'disk_full' } } });
});

test('one that is given up is cleared away; ids are never paths; other sites begin none', async () => {
  const sound = tone(1);
  const path = (await begin(sound.length)).headers.get('location')!;
  await piece(path, sound.subarray(0, 100), 0);
  expect((await ask(server, path, { method: 'DELETE', headers: TUS })).status).toBe(204);
  expect(filesIn(server.folder, 'resumable')).toEqual([]);
  for (const id of ['..%2Fvinetap.sqlite', `${path.split('/').at(-1)}.json`, 'x'])
    expect(await offset(`/api/uploads/${id}`)).toBe(-404);
  const foreign = await ask(server, '/api/uploads', {
    method: 'POST',
    headers: { ...TUS, origin: 'http://elsewhere.test', 'upload-length': '5' }
  });
  expect(foreign.status).toBe(403);
  expect(
    (await ask(server, '/api/uploads', { method: 'OPTIONS' })).headers.get('access-control-allow-origin')
  ).toBeNull();
});

test('a new cut says of which recording it is one', async () => {
  const { body } = await upload(server, 'first.wav', tone(2));
  const cut = tone(1);
  const path = (await begin(cut.length, { filename: 'second.wav', cutOf: body.recording.id })).headers.get('location')!;
  const whole = await piece(path, cut, 0);
  expect(whole.body.recording.cutOf).toBe(body.recording.id);
});
