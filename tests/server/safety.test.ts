import { connect } from 'node:net';
import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { Agent, request } from 'node:http';
import { networkInterfaces } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, test } from 'vitest';
import {
  ask,
  filesIn,
  media,
  newFolder,
  removeFolders,
  runToEnd,
  send,
  startServer,
  tone,
  until,
  upload,
  writeInto,
  type Server
} from './harness';

afterAll(removeFolders);

/** A request with headers that fetch would not let through. */
function raw(
  server: Server,
  options: { path: string; method?: string; headers: Record<string, string>; agent?: Agent },
  body?: Buffer
): Promise<{ status: number; headers: Record<string, unknown> }> {
  const { hostname, port } = new URL(server.url);
  return new Promise((done, fail) => {
    const asked = request({ hostname, port, ...options }, (response) => {
      response.resume();
      done({ status: response.statusCode!, headers: response.headers });
    });
    asked.once('error', fail);
    asked.end(body);
  });
}

test('what is refused before all of it was read leaves its connection to the next request', async () => {
  const server = await startServer();
  const agent = new Agent({ keepAlive: true, maxSockets: 1 });
  try {
    const refused = async (path: string, headers: Record<string, string>, bytes: number): Promise<number> =>
      (await raw(server, { path, method: 'POST', headers, agent }, Buffer.alloc(bytes, ' '))).status;
    const json = { 'content-type': 'application/json' };
    const unread = { 'content-type': 'application/offset+octet-stream', 'content-length': '3000000' };
    expect(await refused('/api/nowhere', unread, 3_000_000)).toBe(404);
    expect(await refused('/api/projects', { ...json, 'content-length': '33000000' }, 33_000_000)).toBe(413);
    expect(await refused('/api/projects', { ...json, 'transfer-encoding': 'chunked' }, 33_000_000)).toBe(413);
    expect((await raw(server, { path: '/api/health', headers: {}, agent })).status).toBe(200);
  } finally {
    agent.destroy();
    await server.stop();
  }
});

test('with nothing set it listens on loopback alone, and keeps its data in ./data', async () => {
  const folder = newFolder();
  const server = await startServer(folder, { VINETAP_DATA: './data' }, folder);
  const port = Number(new URL(server.url).port);
  expect(new URL(server.url).hostname).toBe('127.0.0.1');
  expect(filesIn(folder, 'data')).toContain('vinetap.sqlite');
  expect((await ask(server, '/api/recordings')).body).toMatchObject({ recordings: [], total: 0 });
  const others = Object.values(networkInterfaces())
    .flatMap((all) => all ?? [])
    .filter((one) => !one.internal && one.family === 'IPv4');
  for (const { address } of others) {
    const outcome = await new Promise((done) => {
      const socket = connect(port, address, () => done('connected'));
      socket.once('error', (error: NodeJS.ErrnoException) => done(error.code));
    });
    expect(outcome).not.toBe('connected');
  }
  await server.stop();
});

describe('the door', () => {
  test('opens for loopback names only, and to changes only from its own pages', async () => {
    const server = await startServer();
    const { host } = new URL(server.url);
    const status = async (headers: Record<string, string>, method = 'GET') =>
      (await raw(server, { path: '/api/recordings', method, headers })).status;
    expect(await status({ host })).toBe(200);
    expect(await status({ host: 'localhost:1234' })).toBe(200);
    expect(await status({ host: '[::1]:80' })).toBe(200);
    for (const wrong of ['evil.example', '127.0.0.1.evil.example', 'localhost.evil.example:4173', '192.168.0.9']) {
      for (const method of ['GET', 'POST', 'HEAD', 'OPTIONS'])
        expect(await status({ host: wrong }, method), `${method} ${wrong}`).toBe(421);
    }
    expect(await status({ host, origin: 'http://evil.example' }, 'POST')).toBe(403);
    expect(await status({ host, origin: 'null' }, 'POST')).toBe(403);
    expect(await status({ host, 'sec-fetch-site': 'cross-site' }, 'DELETE')).toBe(403);
    expect(await status({ host, 'sec-fetch-site': 'same-site' }, 'POST')).toBe(403);
    expect(await status({ host, origin: `http://${host}`, 'content-length': '0' }, 'POST')).toBe(422);
    await server.stop();
  });

  test('says on every answer how it may be used', async () => {
    const server = await startServer();
    for (const path of ['/', '/api/health', '/api/recordings/none', '/mode.js', '/nowhere']) {
      const { headers } = await ask(server, path);
      expect(headers.get('x-content-type-options'), path).toBe('nosniff');
      expect(headers.get('content-security-policy'), path).toMatch(/default-src 'self'.*frame-ancestors 'none'/);
    }
    const refused = await raw(server, { path: '/', headers: { host: 'evil.example' } });
    expect(refused.headers['x-content-type-options']).toBe('nosniff');
    await server.stop();
  });

  test('needs a passphrase for any other address, and slows down who guesses', async () => {
    const without = await runToEnd({ HOST: '0.0.0.0', PORT: '0', VINETAP_DATA: newFolder() });
    expect(without.code).toBe(1);
    expect(without.output.trim().split('\n')).toHaveLength(1);
    expect(without.output).toContain('VINETAP_PASSPHRASE');
    const server = await startServer(newFolder(), { HOST: '0.0.0.0', VINETAP_PASSPHRASE: 'oil and dust' });
    expect((await ask(server, '/api/recordings')).status).toBe(401);
    expect((await ask(server, '/')).body).toContain('Passphrase');
    const enter = (passphrase: string) =>
      ask(server, '/enter', { method: 'POST', body: new URLSearchParams({ passphrase }), redirect: 'manual' });
    expect((await enter('wrong')).status).toBe(403);
    const right = await enter('oil and dust');
    expect(right.status).toBe(303);
    const cookie = right.headers.get('set-cookie')!;
    expect(cookie).toMatch(/HttpOnly; SameSite=Strict/);
    expect((await ask(server, '/api/recordings', { headers: { cookie: cookie.split(';')[0]! } })).status).toBe(200);
    expect((await ask(server, '/api/recordings', { headers: { cookie: 'vinetap_session=guess' } })).status).toBe(401);
    await server.stop();
  });
});

test('a data folder has one server; its lock ends with it, however it ends', async () => {
  const first = await startServer();
  const second = await runToEnd({ PORT: '0', VINETAP_DATA: first.folder });
  expect(second.code).toBe(1);
  expect(second.output.trim().split('\n')).toHaveLength(1);
  expect(second.output).toContain('Another Vine Tap server is using the data folder');
  await first.stop('SIGKILL');
  const third = await startServer(first.folder);
  await third.stop();
});

test('a folder that holds somebody else’s media is refused in a sentence, and nothing in it is touched', async () => {
  const folder = newFolder();
  for (const name of ['uploads', 'recordings']) {
    mkdirSync(join(folder, name));
    writeFileSync(join(folder, name, 'mine'), 'x');
  }
  const { code, output } = await runToEnd({ PORT: '0', VINETAP_DATA: folder });
  expect([code, output]).toEqual([1, expect.stringContaining('choose another folder by VINETAP_DATA')]);
  expect([filesIn(folder, 'uploads'), filesIn(folder, 'recordings')]).toEqual([['mine'], ['mine']]);
});

test('a second server cannot have the folder, also where files beside the database were deleted', async () => {
  const server = await startServer();
  for (const name of filesIn(server.folder))
    if (!name.startsWith('vinetap.sqlite')) rmSync(join(server.folder, name), { recursive: true });
  const { code, output } = await runToEnd({ PORT: '0', VINETAP_DATA: server.folder });
  expect([code, output]).toEqual([1, expect.stringContaining('Another Vine Tap server is using the data folder')]);
  await server.stop();
});

test('what a killed server left at work is ended by the next one; what it had half made is never served', async () => {
  // A copy of a long picture takes a while: the server is killed while it is made.
  const long = media('avi', [
    ...['-f', 'lavfi', '-i', 'testsrc2=size=1280x720:rate=25:duration=60', '-f', 'lavfi', '-i', 'sine=440:duration=60'],
    ...['-c:v', 'mpeg4', '-q:v', '20', '-c:a', 'mp3']
  ]);
  let server = await startServer();
  const { body } = await upload(server, 'long.avi', long, { prefer: 'respond-async' });
  const id = body.recording.id as string;
  const ffmpegs = (): number[] =>
    filesIn(server.folder, 'children')
      .map(Number)
      .filter((pid) => {
        try {
          return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('.part');
        } catch {
          return false; // It has ended meanwhile.
        }
      });
  const [orphan] = await until(ffmpegs, (found) => found.length > 0);
  await server.stop('SIGKILL');
  expect(() => process.kill(orphan!, 0)).not.toThrow();
  server = await startServer(server.folder);
  await until(
    () => {
      try {
        return !/^\d+ \(ffmpeg\) [^Z]/.test(readFileSync(`/proc/${orphan}/stat`, 'utf8'));
      } catch {
        return true; // It is gone.
      }
    },
    (isGone) => isGone
  );
  const ready = await until(
    async () => (await ask(server, `/api/recordings/${id}`)).body.recording,
    ({ state }) => state !== 'preparing'
  );
  expect(ready.state).toBe('ready');
  const copy = await fetch(`${server.url}/api/recordings/${id}/media`);
  const path = writeInto(server.folder, 'copy.mp4', '');
  writeFileSync(path, Buffer.from(await copy.arrayBuffer()));
  const { format } = JSON.parse(
    execFileSync('ffprobe', ['-v', 'error', '-show_format', '-of', 'json', path]).toString()
  ) as { format: { duration: string } };
  expect(Number(format.duration)).toBeGreaterThan(59);
  expect(filesIn(server.folder, 'recordings', id).filter((name) => name.endsWith('.part'))).toEqual([]);
  await server.stop();
});

test('a preparation that is cancelled says so, keeps nobody waiting, and is gone on with', async () => {
  const server = await startServer();
  const long = media('wav', ['-f', 'lavfi', '-i', 'sine=440:duration=1200', '-ar', '48000', '-ac', '2']);
  const { body } = await upload(server, 'long.wav', long, { prefer: 'respond-async' });
  const id = body.recording.id as string;
  const waiting = ask(server, `/api/recordings/${id}/levels`);
  expect((await ask(server, `/api/jobs/${body.job.id}`, { method: 'DELETE' })).status).toBe(202);
  const state = (await ask(server, `/api/recordings/${id}`)).body.recording;
  // On a fast machine the waveform may be there already: then there is nothing to go on with.
  if (state.state !== 'ready') {
    expect(state).toMatchObject({ state: 'failed', canGoOn: true, failure: expect.stringContaining('cancelled') });
    expect((await waiting).body.error.code).toBe('not_prepared');
    expect((await ask(server, `/api/recordings/${id}/prepare`, { method: 'POST' })).status).toBe(202);
  } else expect((await waiting).status).toBe(200);
  expect((await ask(server, `/api/recordings/${id}/levels`)).status).toBe(200);
  expect((await ask(server, `/api/recordings/${id}/prepare`, { method: 'POST' })).body.error.code).toBe('not_stopped');
  await server.stop();
});

test('languages are taken as the standard writes them, and refused where they are none', async () => {
  const server = await startServer();
  const { body } = await upload(server, 'tone.wav', tone(2));
  const content = '1\n00:00:00,100 --> 00:00:01,000\nTick\n';
  const take = (language: string) =>
    send(server, `/api/recordings/${body.recording.id}/tracks`, { format: 'srt', language, content });
  expect((await take('EN-gb')).body.track.language).toBe('en-GB');
  for (const language of ['en-12', 'x'.repeat(36), `en-${'abcdefgh-'.repeat(5)}a`, ''])
    expect(await take(language)).toMatchObject({ status: 400, body: { error: { code: 'bad_request' } } });
  await server.stop();
});

test('a cue of thousands of words, whose times run backwards, makes a track that opens again', async () => {
  let server = await startServer();
  const { body } = await upload(server, 'tone.wav', tone(2));
  const content = `1\n00:00:05,000 --> 00:00:01,000\n${'tick '.repeat(2000)}\n\n2\n00:00:04,000 --> 00:00:03,999\n${'tock '.repeat(2000)}\n`;
  const made = await send(server, `/api/recordings/${body.recording.id}/tracks`, {
    format: 'srt',
    language: 'en',
    content
  });
  expect(made.status).toBe(201);
  const { id } = made.body.track as { id: string };
  await server.stop('SIGKILL');
  server = await startServer(server.folder);
  expect((await ask(server, `/api/tracks/${id}`)).body.track.words).toHaveLength(4000);
  expect((await ask(server, '/api/search?text=tock')).body.tracks).toHaveLength(1);
  await server.stop();
});

test('requests of the wrong shape are told what is wrong, and nothing comes of them', async () => {
  const server = await startServer();
  const { body } = await upload(server, 'tone.wav', tone(2));
  const id = body.recording.id as string;
  const problem = async (path: string, init: RequestInit): Promise<[number, string]> => {
    const answer = await ask(server, path, init);
    expect(answer.body.error.message.length).toBeGreaterThan(10);
    return [answer.status, answer.body.error.code];
  };
  const post = (text: string): RequestInit => ({
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: text
  });
  expect(await problem(`/api/recordings/${id}/tracks`, post('{'))).toEqual([400, 'not_json']);
  expect(await problem(`/api/recordings/${id}/tracks`, post('{"format":"srt"}'))).toEqual([400, 'bad_request']);
  expect(
    await problem(
      `/api/recordings/${id}/tracks`,
      post(JSON.stringify({ format: 'srt', language: 'en', content: 'no cue' }))
    )
  ).toEqual([422, 'unreadable_captions']);
  expect(
    await problem(
      `/api/recordings/${id}/tracks`,
      post(JSON.stringify({ format: 'cave', language: 'en', content: '00:00:01:00' }))
    )
  ).toEqual([422, 'not_supported']);
  expect(await problem(`/api/recordings/${id}/tracks`, post('x'.repeat(33_000_000)))).toEqual([413, 'too_large']);
  expect(
    await problem(`/api/recordings/${id}/transcriptions`, post('{"engine":"pocketsphinx-en-us","language":"de"}'))
  ).toEqual([422, 'language_not_heard']);
  expect(await problem(`/api/recordings/${id}/transcriptions`, post('{"engine":"another","language":"en"}'))).toEqual([
    422,
    'unknown_engine'
  ]);
  const refusal = (more: object): Promise<[number, string]> =>
    problem(
      `/api/recordings/${id}/transcriptions`,
      post(JSON.stringify({ engine: 'pocketsphinx-en-us', language: 'en', ...more }))
    );
  expect(await refusal({ trackId: 'x' })).toEqual([404, 'unknown_track']);
  expect(await refusal({ background: 'traffic' })).toEqual([400, 'bad_request']);
  expect(await refusal({ engine: 'script-by-reading' })).toEqual([422, 'script_missing']);
  expect(await refusal({ source: { stream: 3, channel: null } })).toEqual([404, 'unknown_source']);
  expect(await refusal({ script: ' ' })).toEqual([422, 'empty_script']);
  expect(await refusal({ script: 'we listen '.repeat(200) })).toEqual([422, 'script_too_long']);
  expect(await refusal({ fromMs: 500, toMs: 400 })).toEqual([422, 'bad_times']);
  expect(await refusal({ engine: 'timing-only', script: 'we listen' })).toEqual([422, 'script_not_fitted']);
  expect(await refusal({ speakers: 0 })).toEqual([400, 'bad_request']);
  for (const [path, method] of [
    ['/api/recordings/none', 'GET'],
    ['/api/recordings/none', 'DELETE'],
    ['/api/recordings/none/media', 'GET'],
    ['/api/jobs/none', 'GET'],
    ['/api/tracks/none', 'GET'],
    ['/api/tracks/none/export?format=srt', 'GET']
  ] as const) {
    expect((await problem(path, { method }))[0], path).toBe(404);
  }
  const imported = await send(server, `/api/recordings/${id}/tracks`, {
    format: 'srt',
    language: 'en',
    content: '1\n00:00:00,100 --> 00:00:01,000\nTick\n'
  });
  const track = `/api/tracks/${imported.body.track.id}`;
  for (const [path, method] of [[`${track}/export?format=cave`, 'GET']] as const) {
    expect(await problem(path, { method }), path).toEqual([422, 'not_supported']);
  }
  expect((await ask(server, `/api/recordings/${id}`)).body.recording.tracks).toHaveLength(1);
  await server.stop();
});
