/** Rows of the interface: a generated 2-hour track in Debian's Chromium, against the built server. */
import { mkdirSync } from 'node:fs';
import { resolve } from 'node:path';
import { chromium, type Browser, type CDPSession, type Page } from '@playwright/test';
import type { Track } from '../src/lib/core/track';
import { formatSrt } from '../src/lib/core/formats';
import { ask, send, soundOf, startServer, upload, type Server } from '../tests/server/harness';
import { trackOf } from './core';
import { makeTalk } from './material';
import { paragraphsOf } from '../src/lib/ui/read/page-model';
import { at95, median } from './figures';
import { typeAndTime } from './keys';
import { measureWay, openVirtual, wayRows } from './page-editor/main';
import type { Row } from './table';

/** Milliseconds of script a frame while something goes on. */
export async function scriptPerFrame(page: Page, cdp: CDPSession, work: () => Promise<unknown>): Promise<number> {
  const script = async (): Promise<number> =>
    (await cdp.send('Performance.getMetrics')).metrics.find(({ name }) => name === 'ScriptDuration')!.value * 1000;
  await page.evaluate(() => {
    const counter = window as unknown as { frames: number };
    counter.frames = 0;
    const count = (): void => {
      counter.frames++;
      requestAnimationFrame(count);
    };
    requestAnimationFrame(count);
  });
  const before = await script();
  await work();
  const frames = await page.evaluate(() => (window as unknown as { frames: number }).frames);
  return ((await script()) - before) / frames;
}

/** Keydown to the end of the answer that acknowledges it. */
async function saveAndTime(page: Page, key: string): Promise<number> {
  await page.evaluate(() => {
    performance.clearResourceTimings();
    addEventListener('keydown', () => ((window as unknown as { pressed: number }).pressed = performance.now()), {
      capture: true,
      once: true
    });
  });
  await page.keyboard.press(key);
  const answered = await page.waitForFunction(() =>
    performance
      .getEntriesByType('resource')
      .filter((entry): entry is PerformanceResourceTiming => entry.name.endsWith('/edits'))
      .map((entry) => entry.responseEnd - (window as unknown as { pressed: number }).pressed)
      .at(0)
  );
  return (await answered.jsonValue())!;
}

/** Milliseconds from the start of navigation to the first of these elements, by the page's own clock. */
async function openAndTime(page: Page, url: string, selector: string): Promise<number> {
  await page.goto(url, { waitUntil: 'commit' });
  const shown = await page.waitForFunction(
    (wanted) => (document.querySelector(wanted) === null ? undefined : performance.now()),
    selector
  );
  return (await shown.jsonValue())!;
}

const PHRASE = 'the clock lets one tooth of the wheel go past ';

/** The same letters in a bare page, without any script: what this browser on this machine needs for a key by itself. */
async function typeBare(page: Page, cdp: CDPSession, paragraphs: readonly string[]): Promise<number[]> {
  await page.setContent('<div contenteditable style="width:740px;font:18px/33px sans-serif"></div>');
  await page.evaluate((texts) => {
    const editable = document.querySelector('div')!;
    editable.append(...texts.map((text) => Object.assign(document.createElement('p'), { textContent: text })));
  }, paragraphs);
  await page.locator('p').first().click();
  await typeAndTime(page, cdp, PHRASE);
  return typeAndTime(page, cdp, PHRASE.repeat(3));
}

export const launch = (args: readonly string[]): Promise<Browser> =>
  chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--autoplay-policy=no-user-gesture-required', '--disable-background-networking', ...args]
  });

export const scroll = async (page: Page): Promise<void> => {
  await page.mouse.move(400, 400);
  for (let step = 0; step < 60; step++) {
    await page.mouse.wheel(0, 120);
    await page.waitForTimeout(30);
  }
};

/** An edge in the middle of the view in hand, there and back. */
async function dragEdge(page: Page): Promise<void> {
  const edges = await page.locator('.trellis [data-part="end"]').all();
  const boxes = await Promise.all(edges.map((edge) => edge.boundingBox()));
  const at = boxes.findIndex((box) => box !== null && box.y > 250 && box.y < 600 && box.x > 200 && box.x < 700);
  const { x, y, height } = boxes[at]!;
  await page.mouse.move(x + 2, y + height / 2);
  await page.mouse.down();
  for (let step = 0; step < 60; step++) {
    await page.mouse.move(x + 2 - 40 * Math.sin(step / 6), y + height / 2);
    await page.waitForTimeout(16);
  }
  const moved = await edges[at]!.boundingBox();
  await page.mouse.up();
  if (moved === null || Math.abs(moved.x - x) < 4) throw new Error('the edge did not follow the hand');
}

/** What the trellis and the table ask of a frame, at 60 of them a second. */
async function atDisplayRate(url: string): Promise<Row[]> {
  const browser = await launch([]);
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const rows: Row[] = [];
  const open = async (preferences: object): Promise<{ page: Page; cdp: CDPSession }> => {
    const page = await context.newPage();
    await page.addInitScript((kept) => localStorage.setItem('vinetap:preferences', kept), JSON.stringify(preferences));
    const cdp = await context.newCDPSession(page);
    await cdp.send('Performance.enable');
    await page.goto(url);
    await page.locator('.trellis .word, [aria-label="Cues as a table"] tr').first().waitFor();
    await page.getByText('Reading the sound').waitFor({ state: 'hidden' });
    return { page, cdp };
  };
  const measure = async (what: string, { page, cdp }: { page: Page; cdp: CDPSession }, work: () => Promise<unknown>) =>
    rows.push({
      what: `2-hour track: script a frame while ${what}`,
      value: await scriptPerFrame(page, cdp, work),
      unit: 'ms',
      budget: 8
    });

  const plain = await open({});
  await measure('scrolling', plain, () => scroll(plain.page));
  await plain.page.keyboard.press('Space');
  await measure('playing', plain, () => plain.page.waitForTimeout(4000));
  await plain.page.keyboard.press('Space');
  await measure('dragging an edge', plain, () => dragEdge(plain.page));
  await plain.page.close();

  const sounding = await open({ soundView: 'both' });
  await measure('scrolling, with spectra', sounding, () => scroll(sounding.page));
  await sounding.page.close();

  const tried = await open({ timePanel: 'rules' });
  await tried.page.getByLabel('Set').selectOption('Children');
  await tried.page.getByTestId('break-anew').click();
  await tried.page.getByTestId('trial').waitFor();
  await measure('scrolling, all cues broken anew on trial', tried, () => scroll(tried.page));
  await tried.page.close();

  const listed = await open({ timeView: 'table' });
  await measure('scrolling the table', listed, () => scroll(listed.page));
  await browser.close();
  return rows;
}

const keyRows = (what: string, times: readonly number[], budget?: number): Row[] => [
  { what: `${what}: key to frame, median`, value: median(times), unit: 'ms' },
  { what: `${what}: key to frame, 95th percentile`, value: at95(times), unit: 'ms', ...(budget && { budget }) }
];

const KEPT = '.cache/bench-hours';

/** A recording of this length with its speech map: the one of an earlier run, else a new one. */
export async function preparedRecording(server: Server, seconds: number): Promise<string> {
  const { recordings } = (await ask(server, '/api/recordings')).body as {
    recordings: { id: string; durationMs: number; hasSpeechMap: boolean }[];
  };
  const kept = recordings.find((one) => one.durationMs >= seconds * 1000);
  const sound = (): Buffer => soundOf('0.3*sin(2*PI*180*t)*abs(sin(2*PI*1.7*t))', seconds, 16_000);
  const id = kept?.id ?? ((await upload(server, 'hours.wav', sound())).body.recording.id as string);
  for (;;) {
    const { recording } = (await ask(server, `/api/recordings/${id}`)).body as {
      recording: { hasSpeechMap: boolean; jobId?: string };
    };
    if (recording.hasSpeechMap) return id;
    if (recording.jobId === undefined) throw new Error('the speech map of the two hours was not made');
    await new Promise((done) => setTimeout(done, 1000));
  }
}

/** So many entries in the track's log, each an edge moved and moved back. */
async function editOften(server: Server, trackId: string, entries: number): Promise<void> {
  const { track } = (await ask(server, `/api/tracks/${trackId}/document`)).body as {
    track: Track;
  };
  let { revision } = (await ask(server, `/api/tracks/${trackId}`)).body.track as { revision: number };
  for (let at = 0; at < entries; at++) {
    const { id: cueId, startMs, endMs } = track.cues[(at * 37) % track.cues.length]!;
    const edits = [{ type: 'setCueTimes', cueId, startMs, endMs: endMs - 1 - (at % 2) }];
    const answer = await send(server, `/api/tracks/${trackId}/edits`, { revision, edits });
    if (answer.status !== 200) throw new Error(`edit ${at} was refused: ${JSON.stringify(answer.body)}`);
    revision = answer.body.revision as number;
  }
}

/** Kept from run to run: the speech map of two hours takes minutes, and none of them are measured here. */
export function keptServer(): Promise<Server> {
  mkdirSync(KEPT, { recursive: true });
  return startServer(resolve(KEPT));
}

export async function browserRows(): Promise<Row[]> {
  const server = await keptServer();
  const talk = makeTalk(18_000);
  const recordingId = await preparedRecording(server, Math.ceil(talk.at(-1)!.endMs / 1000) + 2);
  const imported = await send(server, `/api/recordings/${recordingId}/tracks`, {
    format: 'srt',
    language: 'en',
    content: formatSrt(trackOf(talk, 7))
  });
  const trackId = imported.body.track.id as string;
  const base = `${server.url}/recordings/${recordingId}/tracks/${trackId}`;
  const rows = await atDisplayRate(`${base}/time`);
  // Frames come when they are ready, not when a display of 60 Hz would take them: what is measured is the work.
  const browser = await launch(['--disable-frame-rate-limit', '--disable-gpu-vsync', '--enable-precise-memory-info']);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const cdp = await page.context().newCDPSession(page);
  const { track } = (await ask(server, `/api/tracks/${trackId}/document`)).body as { track: Track };
  const bare = await typeBare(page, cdp, ['The clock.']);
  const sameSize = await typeBare(
    page,
    cdp,
    paragraphsOf(track).map(({ text }) => text)
  );
  rows.push(...keyRows('a bare paragraph', bare), ...keyRows('a bare page of the same size', sameSize));
  await page.goto(server.url);
  await page.getByRole('link', { name: 'Hours' }).first().waitFor();
  rows.push({
    what: '2-hour track: first rows of the trellis',
    value: await openAndTime(page, `${base}/time`, '.trellis .word'),
    unit: 'ms',
    budget: 1500
  });
  await editOften(server, trackId, 2000);
  rows.push({
    what: '2-hour track with 2,000 entries: first rows of the trellis',
    value: await openAndTime(page, `${base}/time`, '.trellis .word'),
    unit: 'ms',
    budget: 1500
  });
  const saves: number[] = [];
  for (let step = 0; step < 40; step++) saves.push(await saveAndTime(page, step % 2 === 0 ? 'i' : 'o'));
  rows.push({
    what: '2-hour track: a key to acknowledged, 95th percentile',
    value: at95(saves),
    unit: 'ms',
    budget: 50
  });
  await typeAndTime(page, cdp, 'io');
  rows.push(...keyRows('Time: an edit', await typeAndTime(page, cdp, 'io'.repeat(40)), 16));
  const openedMs = await openAndTime(page, `${base}/read`, '.ProseMirror p');
  rows.push({ what: '2-hour track: the page opened', value: openedMs, unit: 'ms', budget: 1500 });
  await page.getByTestId('save-state').waitFor();
  await page.keyboard.press('Enter');
  await typeAndTime(page, cdp, PHRASE);
  const typed = await typeAndTime(page, cdp, PHRASE.repeat(3));
  rows.push(...keyRows('Read: a letter', typed, 16));
  rows.push({
    what: 'Read: a letter against the bare page of the same size, 95th percentiles',
    value: at95(typed) / at95(sameSize),
    unit: '×',
    budget: 1.5
  });
  const ours = await measureWay(page, cdp, openedMs);
  rows.push({ what: '2-hour track: memory of the page (script heap)', value: ours.heapMb, unit: 'MB', budget: 300 });
  rows.push(...wayRows('one document', ours));
  const other = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const otherCdp = await other.context().newCDPSession(other);
  rows.push(...wayRows('virtual paragraphs', await measureWay(other, otherCdp, await openVirtual(other, track))));
  await browser.close();
  await server.stop();
  return rows;
}
