/** Trim in Debian's Chromium: a trim of 1,000 pieces on two hours. */
import type { Page } from '@playwright/test';
import { formatSrt } from '../src/lib/core/formats';
import { send, type Server } from '../tests/server/harness';
import { keptServer, launch, preparedRecording, scriptPerFrame, scroll } from './browser';
import { trackOf } from './core';
import { at95, median } from './figures';
import { typeAndTime } from './keys';
import { makeTalk } from './material';
import type { Row } from './table';

const PLACES = 1000;

/** Its address in the place *Trim*. */
async function longTrim(server: Server): Promise<string> {
  const talk = makeTalk(18_000);
  const lengthMs = talk.at(-1)!.endMs;
  const recordingId = await preparedRecording(server, Math.ceil(lengthMs / 1000) + 2);
  const { track } = (
    await send(server, `/api/recordings/${recordingId}/tracks`, {
      ...{ format: 'srt', language: 'en', content: formatSrt(trackOf(talk, 7)) }
    })
  ).body;
  const { trim } = (await send(server, `/api/recordings/${recordingId}/trims`, { title: 'Long' })).body;
  const spans = Array.from({ length: PLACES }, (_, at) => {
    const fromMs = Math.round((at * lengthMs) / PLACES) + 200;
    return { fromMs, toMs: fromMs + 700 };
  });
  const edited = await send(server, `/api/trims/${trim.id}/edits`, {
    revision: 0,
    edits: [{ type: 'takeOut', spans }]
  });
  if (edited.status !== 200) throw new Error(JSON.stringify(edited.body));
  return `${server.url}/recordings/${recordingId}/tracks/${track.id}/trim`;
}

async function open(page: Page, url: string): Promise<void> {
  await page.goto(url);
  await page.getByTestId('trim-text').locator('.word').nth(200).waitFor();
  await page.getByTestId('trim-text').focus();
}

export async function trimBrowserRows(): Promise<Row[]> {
  const server = await keptServer();
  const what = `a trim of ${PLACES} places on two hours`;
  try {
    const url = await longTrim(server);
    const shown = await launch([]);
    const page = await shown.newPage({ viewport: { width: 1280, height: 800 } });
    const cdp = await page.context().newCDPSession(page);
    await cdp.send('Performance.enable');
    await open(page, url);
    const frameRow = async (doing: string, work: () => Promise<unknown>): Promise<Row> => ({
      what: `${what}: script a frame while ${doing}`,
      value: await scriptPerFrame(page, cdp, work),
      unit: 'ms',
      budget: 8
    });
    const rows = [await frameRow('scrolling', () => scroll(page))];
    await page.keyboard.press('Space');
    rows.push(await frameRow('playing', () => page.waitForTimeout(6000)));
    await shown.close();

    // Frames come when they are ready: what is measured is the work.
    const eager = await launch(['--disable-frame-rate-limit', '--disable-gpu-vsync']);
    const other = await eager.newPage({ viewport: { width: 1280, height: 800 } });
    const otherCdp = await other.context().newCDPSession(other);
    await open(other, url);
    await other.getByTestId('trim-text').locator('.word').nth(120).click();
    await typeAndTime(other, otherCdp, 'x'.repeat(10));
    const times = await typeAndTime(other, otherCdp, 'x'.repeat(60));
    rows.push(
      { what: `${what}: an edit on screen, median`, value: median(times), unit: 'ms', budget: 16 },
      { what: `${what}: an edit on screen, 95th percentile`, value: at95(times), unit: 'ms' }
    );
    await eager.close();
    return rows;
  } finally {
    await server.stop();
  }
}
