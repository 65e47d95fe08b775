/** Rows of the interface: a generated 2-hour track in Debian's Chromium, against the built server. */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { chromium, type CDPSession, type Page } from '@playwright/test';
import type { Track } from '../src/lib/core/track';
import { formatSrt } from '../src/lib/core/formats';
import { newFolder, send, startServer, upload, type Server } from '../tests/server/harness';
import { trackOf } from './core';
import { makeTalk } from './material';
import { measureWay, openVirtual, wayRows } from './page-editor/main';
import type { Row } from './table';

const at95 = (times: readonly number[]): number =>
  [...times].sort((a, b) => a - b)[Math.floor(times.length * 0.95)] ?? 0;

/** Milliseconds of script a frame while something goes on. */
async function scriptPerFrame(page: Page, cdp: CDPSession, work: () => Promise<unknown>): Promise<number> {
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

/** Keydown to the frame after it, and to what is on the server, of each letter typed. */
const typeAndTime = (page: Page, letters: string): Promise<number[]> =>
  page
    .evaluate(() => {
      const times: number[] = [];
      (window as unknown as { typed: number[] }).typed = times;
      addEventListener(
        'keydown',
        () => {
          const from = performance.now();
          requestAnimationFrame(() => {
            const channel = new MessageChannel();
            channel.port1.onmessage = () => times.push(performance.now() - from);
            channel.port2.postMessage(null);
          });
        },
        { capture: true }
      );
      return times;
    })
    .then(async () => {
      for (const letter of letters) await page.keyboard.press(letter === ' ' ? 'Space' : letter);
      return page.evaluate(() => (window as unknown as { typed: number[] }).typed);
    });

export async function browserRows(): Promise<Row[]> {
  const server: Server = await startServer();
  const talk = makeTalk(18_000);
  const seconds = Math.ceil(talk.at(-1)!.endMs / 1000) + 2;
  const path = join(newFolder(), 'hours.wav');
  execFileSync('ffmpeg', [
    '-nostdin',
    '-v',
    'error',
    '-y',
    '-f',
    'lavfi',
    '-i',
    `aevalsrc='0.3*sin(2*PI*180*t)*abs(sin(2*PI*1.7*t))':d=${seconds}:s=16000`,
    path
  ]);
  const { body } = await upload(server, 'hours.wav', readFileSync(path));
  const imported = await send(server, `/api/recordings/${body.recording.id}/tracks`, {
    format: 'srt',
    language: 'en',
    content: formatSrt(trackOf(talk, 7))
  });
  const base = `${server.url}/recordings/${body.recording.id}/tracks/${imported.body.track.id}`;
  await (await fetch(`${server.url}/api/recordings/${body.recording.id}/speech`)).arrayBuffer();
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--autoplay-policy=no-user-gesture-required',
      '--disable-background-networking',
      '--enable-precise-memory-info'
    ]
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Performance.enable');
  const rows: Row[] = [];
  const opened = Date.now();
  await page.goto(`${base}/time`);
  await page.locator('.trellis .word').first().waitFor();
  rows.push({ what: '2-hour track: first rows of the trellis', value: Date.now() - opened, unit: 'ms', budget: 1500 });
  await page.getByText('Reading the sound').waitFor({ state: 'hidden' });
  rows.push({
    what: '2-hour track: script a frame while scrolling',
    value: await scriptPerFrame(page, cdp, async () => {
      await page.mouse.move(400, 400);
      for (let step = 0; step < 60; step++) {
        await page.mouse.wheel(0, 120);
        await page.waitForTimeout(30);
      }
    }),
    unit: 'ms',
    budget: 8
  });
  await page.keyboard.press('Space');
  rows.push({
    what: '2-hour track: script a frame while playing',
    value: await scriptPerFrame(page, cdp, () => page.waitForTimeout(4000)),
    unit: 'ms',
    budget: 8
  });
  await page.keyboard.press('Space');
  const saves: number[] = [];
  for (let step = 0; step < 30; step++) {
    const from = Date.now();
    await page.keyboard.press(step % 2 === 0 ? 'i' : 'o');
    await page.waitForResponse(
      (response) => response.url().endsWith('/edits') && response.request().method() === 'POST'
    );
    saves.push(Date.now() - from);
  }
  rows.push({
    what: '2-hour track: a key to acknowledged, 95th percentile',
    value: at95(saves),
    unit: 'ms',
    budget: 50
  });
  rows.push({
    what: 'Time: keydown to paint of an edit, 95th percentile',
    value: at95(await typeAndTime(page, 'ioioioioioioioioioio')),
    unit: 'ms',
    budget: 16
  });
  const pageOpened = Date.now();
  await page.goto(`${base}/read`);
  await page.locator('.ProseMirror p').first().waitFor();
  const openedMs = Date.now() - pageOpened;
  rows.push({ what: '2-hour track: the page opened', value: openedMs, unit: 'ms', budget: 1500 });
  await page.keyboard.press('Enter');
  rows.push({
    what: 'Read: keydown to paint while typing, 95th percentile',
    value: at95(await typeAndTime(page, 'the clock lets one tooth of the wheel go past ')),
    unit: 'ms',
    budget: 16
  });
  const ours = await measureWay(page, cdp, openedMs, typeAndTime);
  rows.push({ what: '2-hour track: memory of the page (script heap)', value: ours.heapMb, unit: 'MB', budget: 300 });
  rows.push(...wayRows('one document', ours, at95));
  const { track } = (await (await fetch(`${server.url}/api/tracks/${imported.body.track.id}/document`)).json()) as {
    track: Track;
  };
  const other = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const otherCdp = await other.context().newCDPSession(other);
  rows.push(
    ...wayRows(
      'virtual paragraphs',
      await measureWay(other, otherCdp, await openVirtual(other, track), typeAndTime),
      at95
    )
  );
  await browser.close();
  await server.stop();
  return rows;
}
