/** Looking for doubts tells how far it is, can be given up, and begins anew after that. */
import { afterAll, beforeAll, expect, test } from 'vitest';
import { readdirSync, readFileSync } from 'node:fs';
import { ask, removeFolders, send, startServer, tone, until, upload, type Server } from './harness';

let server: Server;
let trackId: string;
beforeAll(async () => {
  server = await startServer();
  const { id } = (await upload(server, 'tone.wav', tone(6))).body.recording;
  const sentence = 'The pendulum swings and the escapement wakens the clok again';
  const cues = Array.from(
    { length: 400 },
    (_, at) =>
      `${at + 1}\n00:00:0${Math.floor(at / 100)},${String((at % 100) * 10).padStart(3, '0')} --> 00:00:05,000\n${sentence}\n`
  );
  const content = cues.join('\n');
  trackId = (await send(server, `/api/recordings/${id}/tracks`, { format: 'srt', language: 'en', content })).body.track
    .id;
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

const asLines = (signal: AbortSignal): Promise<Response> =>
  fetch(`${server.url}/api/tracks/${trackId}/doubts`, { headers: { accept: 'application/x-ndjson' }, signal });
/** Children of the server that look for doubts. */
const finders = (): number =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .filter((pid) => {
      try {
        const [, parent] = /^PPid:\t(\d+)$/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8')) ?? [];
        return Number(parent) === server.pid && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('doubts.js');
      } catch {
        return false; // It has ended meanwhile.
      }
    }).length;

test('the lines tell how far it is, and the last one is what is found', async () => {
  const text = await (await asLines(AbortSignal.timeout(600_000))).text();
  const lines = text
    .trimEnd()
    .split('\n')
    .map((line) => JSON.parse(line) as { progress?: number; doubts?: unknown[] });
  const shares = lines.slice(0, -1).map(({ progress }) => progress!);
  expect(shares.length).toBeGreaterThan(3);
  expect(shares).toEqual(shares.toSorted((one, other) => one - other));
  expect(shares.every((share) => share > 0 && share <= 1)).toBe(true);
  expect(lines.at(-1)!.doubts!.length).toBeGreaterThan(300);
  const plain = (await ask(server, `/api/tracks/${trackId}/doubts`)).body;
  // A dictionary that is pressed for time has fewer suggestions.
  const bare = (answer: { doubts?: unknown[] }): unknown => ({
    ...answer,
    doubts: answer.doubts!.map((doubt) => ({ ...(doubt as object), candidates: null }))
  });
  expect(bare(plain)).toEqual(bare(lines.at(-1)!));
});

test('given up, its process ends; the next looking starts another', async () => {
  const stop = new AbortController();
  const { body } = await asLines(stop.signal);
  await body!.getReader().read();
  stop.abort();
  await until(finders, (count) => count === 0);
  expect((await ask(server, `/api/tracks/${trackId}/doubts`)).body.doubts.length).toBeGreaterThan(300);
});
