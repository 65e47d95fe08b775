/** A server that is killed again and again: what of two windows' work is lost or doubled, and what broken is served. */
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { chromium, type Browser, type Page, type Request } from '@playwright/test';
import {
  ask,
  media,
  newFolder,
  send,
  startServer,
  tone,
  upload,
  uploadMapped,
  type Server
} from '../tests/server/harness';
import { makeRandom } from './material';
import type { Row } from './table';

const pause = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));
const CAPTIONS = '1\n00:00:00,100 --> 00:00:00,900\nTick\n\n2\n00:00:01,000 --> 00:00:02,000\nTock\n';

async function newTrack(server: Server, recordingId: string): Promise<string> {
  const made = await send(server, `/api/recordings/${recordingId}/tracks`, {
    format: 'srt',
    language: 'en',
    content: CAPTIONS
  });
  return made.body.track.id as string;
}

interface Entry {
  readonly batchId: string | null;
}
const entriesOf = async (server: Server, trackId: string): Promise<readonly Entry[]> =>
  (await ask(server, `/api/tracks/${trackId}/edits?after=0`)).body.entries as Entry[];

/** How often each batch stands in the log. */
function timesOf(entries: readonly Entry[]): ReadonlyMap<string, number> {
  const times = new Map<string, number>();
  for (const { batchId } of entries) if (batchId !== null) times.set(batchId, (times.get(batchId) ?? 0) + 1);
  return times;
}

/** A window of the product in which edges are moved by keys; `acknowledged` are the batches that it was told are kept. */
interface Window {
  readonly page: Page;
  readonly acknowledged: Set<string>;
  readonly asked: Set<string>;
}

async function openWindow(browser: Browser, url: string): Promise<Window> {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  const [acknowledged, asked] = [new Set<string>(), new Set<string>()];
  const batchOf = (request: Request): string => (request.postDataJSON() as { batchId: string }).batchId;
  const isEdit = (request: Request): boolean => request.method() === 'POST' && request.url().endsWith('/edits');
  page.on('request', (request) => isEdit(request) && asked.add(batchOf(request)));
  page.on('response', (response) => {
    if (isEdit(response.request()) && response.status() === 200) acknowledged.add(batchOf(response.request()));
  });
  await page.goto(url);
  await page.locator('.trellis [data-cue]').first().click();
  return { page, acknowledged, asked };
}

/** Two windows, each a browser's profile of its own, in which keys are pressed while the server is killed. */
async function editing(kills: number, random: () => number): Promise<Row[]> {
  let server = await startServer();
  const port = new URL(server.url).port;
  const id = await uploadMapped(server, 'tone.wav', tone(3));
  const trackId = await newTrack(server, id);
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium' });
  const url = `${server.url}/recordings/${id}/tracks/${trackId}/time`;
  const windows = [await openWindow(browser, url), await openWindow(browser, url)];
  let isOver = false;
  const hands = windows.map(async ({ page }) => {
    for (let at = 0; !isOver; at++) {
      await page.keyboard.press(at % 2 === 0 ? 'o' : 'i');
      await pause(40);
    }
  });
  for (let kill = 0; kill < kills; kill++) {
    await pause(100 + random() * 900);
    await server.stop('SIGKILL');
    server = await startServer(server.folder, { PORT: port });
  }
  isOver = true;
  await Promise.all(hands);
  for (const { page } of windows) {
    await page.evaluate(() => dispatchEvent(new Event('online')));
    await page.getByTestId('save-state').getByText('Saved').waitFor({ timeout: 120_000 });
  }
  const acknowledged = windows.flatMap((window) => [...window.acknowledged]);
  const asked = windows.flatMap((window) => [...window.asked]);
  const times = timesOf(await entriesOf(server, trackId));
  await browser.close();
  await server.stop();
  return [
    { what: `killed ${kills} times in a stream of edits from two windows: acknowledged`, value: acknowledged.length },
    { what: '… and lost', value: acknowledged.filter((batch) => !times.has(batch)).length, unit: '', budget: 0 },
    { what: '… or done twice', value: [...times.values()].filter((count) => count > 1).length, unit: '', budget: 0 },
    {
      what: '… sent once or more and not there when both windows said “Saved”',
      value: new Set(asked.filter((batch) => !times.has(batch))).size,
      unit: '',
      budget: 0
    }
  ];
}

/** Edits of a track one behind the other, until the server is gone; those it has acknowledged. */
async function editUntilKilled(server: Server, trackId: string): Promise<readonly string[]> {
  const acknowledged: string[] = [];
  for (let at = 0; ; at++) {
    const batchId = randomUUID();
    try {
      const { revision } = (await ask(server, `/api/tracks/${trackId}`)).body.track as { revision: number };
      const edits = [{ type: 'addCue', startMs: 1000 + at, endMs: 1900 + at, lines: [`Cue ${at}`] }];
      const { status } = await send(server, `/api/tracks/${trackId}/edits`, { revision, edits, batchId });
      if (status !== 200) return acknowledged;
    } catch {
      // The server has been killed, as was meant.
      return acknowledged;
    }
    acknowledged.push(batchId);
  }
}

/** Whether a media file that is served is whole, by its length. */
async function isWhole(server: Server, id: string, durationMs: number): Promise<boolean> {
  const response = await fetch(`${server.url}/api/recordings/${id}/media`);
  if (!response.ok) return false;
  const path = join(newFolder(), 'served');
  writeFileSync(path, Buffer.from(await response.arrayBuffer()));
  const told = execFileSync('ffprobe', ['-v', 'error', '-show_format', '-of', 'json', path]).toString();
  const { format } = JSON.parse(told) as { format: { duration: string } };
  return Math.abs(Number(format.duration) * 1000 - durationMs) < 1500;
}

async function working(kills: number, random: () => number): Promise<Row[]> {
  const film = media('avi', [
    ...['-f', 'lavfi', '-i', 'testsrc2=size=640x360:rate=25:duration=20', '-f', 'lavfi', '-i', 'sine=440:duration=20'],
    ...['-c:v', 'mpeg4', '-q:v', '15', '-c:a', 'mp3']
  ]);
  const talk = readFileSync(resolve('demo/media/how-a-tower-clock-keeps-time.mp3'));
  let server = await startServer();
  const { folder } = server;
  mkdirSync(join(folder, 'mine'));
  writeFileSync(join(folder, 'mine', 'letter.txt'), 'mine');
  let broken = 0;
  let served = 0;
  let unopened = 0;
  let acknowledged = 0;
  let lost = 0;
  const trackId = await newTrack(server, await uploadMapped(server, 'tone.wav', tone(3)));
  for (let kill = 0; kill < kills; kill++) {
    let edited: readonly string[] = [];
    const work = [
      () => upload(server, 'film.avi', film, { prefer: 'respond-async' }),
      () => upload(server, 'talk.mp3', talk, { prefer: 'respond-async' }),
      async () => {
        const [recording] = (await ask(server, '/api/recordings')).body.recordings;
        if (recording !== undefined)
          await send(server, `/api/recordings/${recording.id}/transcriptions`, {
            engine: 'pocketsphinx-en-us',
            language: 'en'
          });
      },
      async () => (edited = await editUntilKilled(server, trackId))
    ];
    // What is asked may be broken off in the middle: that is what is tried.
    const asked = work[kill % work.length]!().catch(() => undefined);
    await pause(200 + random() * 2500);
    await server.stop('SIGKILL');
    await asked;
    server = await startServer(folder);
    const times = timesOf(await entriesOf(server, trackId));
    acknowledged += edited.length;
    lost += edited.filter((batch) => times.get(batch) !== 1).length;
    const { recordings } = (await ask(server, '/api/recordings')).body;
    for (const { id, state, durationMs, tracks } of recordings) {
      if (state === 'ready' && random() < 0.3) {
        served++;
        if (!(await isWhole(server, id, durationMs))) broken++;
      }
      for (const track of tracks) if ((await ask(server, `/api/tracks/${track.id}`)).status !== 200) unopened++;
    }
    // The list stays short, so that a run ends.
    for (const { id } of recordings
      .filter(({ tracks }: { tracks: { id: string }[] }) => !tracks.some((track) => track.id === trackId))
      .slice(6))
      await ask(server, `/api/recordings/${id}?forever=1`, { method: 'DELETE' });
  }
  await server.stop();
  const isMine = readFileSync(join(folder, 'mine', 'letter.txt'), 'utf8') === 'mine';
  return [
    {
      what: `killed ${kills} times while preparing, copying, hearing, editing: media served afterwards`,
      value: served
    },
    { what: '… that was broken', value: broken, unit: '', budget: 0 },
    { what: '… tracks that did not open', value: unopened, unit: '', budget: 0 },
    { what: `… of ${acknowledged} edits acknowledged lost or done twice`, value: lost, unit: '', budget: 0 },
    { what: '… files of somebody else’s that were touched', value: isMine ? 0 : 1, unit: '', budget: 0 }
  ];
}

/** Kills fall anywhere; the seed makes a run repeatable as far as the machine is. */
export const killRows = async (): Promise<Row[]> => {
  const random = makeRandom(20_261_127);
  return [...(await editing(20, random)), ...(await working(50, random))];
};
