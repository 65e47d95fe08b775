import { mkdtempSync, readdirSync, readlinkSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, test, vi } from 'vitest';
import { sendFile } from './send-file';

const folder = mkdtempSync(join(tmpdir(), '.send-file-'));
const bytes = Uint8Array.from({ length: 1000 }, (_, index) => index % 256);
const path = join(folder, 'a b%20.wav');
writeFileSync(path, bytes);
const long = join(folder, 'long.wav');
writeFileSync(long, new Uint8Array(20_000_000));
afterAll(() => rmSync(folder, { recursive: true }));

const get = (headers: Record<string, string> = {}, method = 'GET', of = path): Promise<Response> =>
  sendFile(new Request('http://127.0.0.1/', { headers, method }), of, { 'content-type': 'audio/wav' });
const openFiles = (): string[] =>
  readdirSync('/proc/self/fd').flatMap((fd) => {
    try {
      return [readlinkSync(`/proc/self/fd/${fd}`)];
    } catch {
      // The listing's own descriptor is closed by now.
      return [];
    }
  });

describe('a file', () => {
  test('is sent whole, from a folder with a dot and under a name with signs in it', async () => {
    const whole = await get();
    expect([whole.status, whole.headers.get('content-type'), whole.headers.get('accept-ranges')]).toEqual([
      200,
      'audio/wav',
      'bytes'
    ]);
    expect(new Uint8Array(await whole.arrayBuffer())).toEqual(bytes);
  });

  test.each([
    ['bytes=2-5', 206, 'bytes 2-5/1000', 2, 6],
    ['bytes=990-', 206, 'bytes 990-999/1000', 990, 1000],
    ['bytes=-3', 206, 'bytes 997-999/1000', 997, 1000],
    ['bytes=5-9999', 206, 'bytes 5-999/1000', 5, 1000],
    ['bytes=1000-', 416, 'bytes */1000', 0, 0],
    ['words=1-2', 200, null, 0, 1000],
    ['bytes=0-1,500-501', 200, null, 0, 1000]
  ])('%s gets %i', async (range, status, contentRange, from, to) => {
    const part = await get({ range });
    expect([part.status, part.headers.get('content-range')]).toEqual([status, contentRange]);
    expect(new Uint8Array(await part.arrayBuffer())).toEqual(bytes.slice(from, to));
  });

  test('that is known already is not sent again; a part of another state of it is the whole', async () => {
    const etag = (await get()).headers.get('etag')!;
    const known = await get({ 'if-none-match': etag });
    expect([known.status, await known.text()]).toEqual([304, '']);
    expect((await get({ 'if-match': '"another"' })).status).toBe(412);
    expect((await get({ range: 'bytes=2-5', 'if-range': '"another"' })).status).toBe(200);
  });

  test('is told of without its body', async () => {
    const head = await get({}, 'HEAD');
    expect([head.status, head.headers.get('content-length'), await head.text()]).toEqual([200, '1000', '']);
  });

  test('is closed when whoever reads it leaves', async () => {
    const reader = (await get({}, 'GET', long)).body!.getReader();
    await reader.read();
    expect(openFiles()).toContain(long);
    await reader.cancel();
    await vi.waitFor(() => expect(openFiles()).not.toContain(long));
  });

  test('that is not there is an error', async () => {
    await expect(get({}, 'GET', join(folder, 'gone.wav'))).rejects.toThrow('ENOENT');
  });
});
