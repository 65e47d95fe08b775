/** The trellis with the demo's interview: rows, drags, zooms. */
import { expect, test, type Locator, type Page } from '@playwright/test';
import { ask, saved, startDemo, startServer, send, speech, upload, watchConsole, type Server } from './support';

type Demo = Awaited<ReturnType<typeof startDemo>>;
let demo: Demo;
test.beforeAll(async () => {
  demo = await startDemo();
});
test.afterAll(() => demo.stop());

const open = async (page: Page): Promise<Locator> => {
  watchConsole(page);
  await page.goto(`${demo.url}/recordings/${demo.interview.recordingId}/tracks/${demo.interview.trackId}/time`);
  const trellis = page.getByTestId('trellis');
  await expect(trellis.locator('[data-cue]').first()).toBeVisible();
  await expect(trellis.getByText('Reading the sound')).toHaveCount(0);
  return trellis;
};
const trackNow = async () => (await ask(demo, `/api/tracks/${demo.interview.trackId}`)).body.track;

async function drag(
  page: Page,
  from: { x: number; y: number },
  to: { x: number; y: number },
  key?: string
): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  if (key !== undefined) await page.keyboard.down(key);
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 4 });
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
  if (key !== undefined) await page.keyboard.up(key);
}

test('an edge is dragged, also into the next row; it stops at its neighbour unless it is let; Escape and undo take it back', async ({
  page
}) => {
  const trellis = await open(page);
  const before = await trackNow();
  const [, , first, second] = before.cues;
  const edge = async (id: string, part: 'start' | 'end') => {
    const box = (await trellis.locator(`[data-cue="${id}"][data-part="${part}"]`).last().boundingBox())!;
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  };
  // Towards its neighbour it stops the least gap before.
  const end = await edge(first.id, 'end');
  await drag(page, end, { x: end.x + 100, y: end.y });
  await saved(page);
  expect((await trackNow()).cues[2].endMs).toBe(second.startMs - before.rules.minGapMs);
  // Held free, it passes: the two lie in lanes of their own.
  const again = await edge(first.id, 'end');
  await drag(page, again, { x: again.x + 60, y: again.y }, 'Control');
  await saved(page);
  expect((await trackNow()).cues[2].endMs).toBeGreaterThan(second.startMs + 300);
  const boxes = await Promise.all(
    [first.id, second.id].map((id) => trellis.locator(`[data-cue="${id}"][data-part="body"]`).last().boundingBox())
  );
  expect(boxes[0]!.y + boxes[0]!.height).toBeLessThanOrEqual(boxes[1]!.y + 1);
  await page.keyboard.press('Control+z');
  await saved(page);
  await page.keyboard.press('Control+z');
  await saved(page);
  expect((await trackNow()).cues).toEqual(before.cues);
  // A drag goes on in whichever row the pointer enters.
  const crossing = before.cues[2];
  const tail = trellis.locator(`[data-cue="${crossing.id}"][data-part="end"]`).last();
  const from = (await tail.boundingBox())!;
  const row = (await trellis.locator('[data-row="0"]').boundingBox())!;
  await drag(page, { x: from.x + 4, y: from.y + 10 }, { x: row.x + row.width * 0.85, y: row.y + 100 }, 'Control');
  await saved(page);
  const moved = (await trackNow()).cues[2];
  expect(moved.id).toBe(crossing.id);
  expect(moved.endMs).toBeLessThan(crossing.endMs - 1000);
  expect((await trackNow()).words).toEqual(before.words);
  await page.keyboard.press('Control+z');
  await saved(page);
  const opening = before.cues[0];
  // A whole cue is moved; let go of by Escape nothing has happened.
  const body = (await trellis.locator(`[data-cue="${opening.id}"][data-part="body"]`).first().boundingBox())!;
  await page.mouse.move(body.x + 60, body.y + 12);
  await page.mouse.down();
  await page.mouse.move(body.x + 20, body.y + 12, { steps: 5 });
  await page.keyboard.press('Escape');
  await page.mouse.up();
  expect((await trackNow()).cues).toEqual(before.cues);
  await drag(page, { x: body.x + 60, y: body.y + 12 }, { x: body.x + 10, y: body.y + 12 }, 'Control');
  await saved(page);
  const shifted = (await trackNow()).cues[0];
  expect(shifted.startMs).toBeLessThan(opening.startMs - 300);
  expect(shifted.endMs - shifted.startMs).toBe(opening.endMs - opening.startMs);
  await page.keyboard.press('Control+z');
  await saved(page);
});

/** Pairs of texts of the trellis whose boxes share more than a pixel, but for what floats above on purpose. */
const overprints = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const found: string[] = [];
    for (const row of document.querySelectorAll('[data-row]')) {
      const texts = [
        ...row.querySelectorAll('.word, .cue .lines, .cue .speed, .ruler .named, .margin span, .margin b')
      ].filter((element) => {
        const style = getComputedStyle(element);
        return element.textContent !== '' && style.display !== 'none' && element.closest('.float') === null;
      });
      const boxes = texts.map((element) => {
        const range = document.createRange();
        range.selectNodeContents(element);
        const text = range.getBoundingClientRect();
        const clip = (element.closest('.cue') ?? element).getBoundingClientRect();
        const own = element.classList.contains('lines') || element.classList.contains('speed');
        return {
          text: element.textContent,
          cue: element.closest('.cue'),
          left: own ? Math.max(text.left, clip.left) : text.left,
          right: own ? Math.min(text.right, clip.right) : text.right,
          top: own ? Math.max(text.top, clip.top) : text.top,
          bottom: own ? Math.min(text.bottom, clip.bottom) : text.bottom
        };
      });
      boxes.forEach((a, at) => {
        for (const b of boxes.slice(at + 1)) {
          if (a.cue !== null && a.cue === b.cue) continue;
          const across = Math.min(a.right, b.right) - Math.max(a.left, b.left);
          const down = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
          if (across > 1 && down > 4) found.push(`${a.text} × ${b.text} (${Math.round(across)}×${Math.round(down)})`);
        }
      });
    }
    return found;
  });

test('at no zoom do two texts overprint, and the chosen cue keeps its height on the screen', async ({ page }) => {
  const trellis = await open(page);
  for (let step = 0; step < 7; step++) await page.keyboard.press('ArrowRight');
  const heightOf = async (): Promise<number> =>
    page.evaluate(() => document.querySelector('.cue.chosen')!.getBoundingClientRect().top);
  for (const rowMs of [4000, 6000, 8000, 10_000, 12_000, 20_000, 25_000, 40_000]) {
    const before = await heightOf();
    await page.getByLabel('Seconds a row').fill(String(rowMs));
    await expect(page.getByText(`${rowMs / 1000} s a row`)).toBeVisible();
    await expect.poll(() => page.locator('.cue.chosen').count()).toBeGreaterThan(0);
    expect(await overprints(page), `${rowMs} ms a row`).toEqual([]);
    if (rowMs > 4000 && rowMs <= 10_000) expect(Math.abs((await heightOf()) - before)).toBeLessThan(150);
  }
  expect(await trellis.locator('[data-row]').count()).toBeGreaterThan(2);
});

test('long silences fold to one labelled row, and open where a cue is put into one; no other row moves', async ({
  page
}) => {
  const server: Server = await startServer();
  watchConsole(page);
  const spoken = speech(['The clock will lose about a minute a day.', 'Thank you for coming.']);
  // Half a minute of nothing between two sentences.
  const half = 44 + Math.floor((spoken.length - 44) / 4) * 2;
  const silence = Buffer.alloc(32_000 * 30);
  const bytes = Buffer.concat([spoken.subarray(0, half), silence, spoken.subarray(half)]);
  bytes.writeUInt32LE(bytes.length - 44, 40);
  bytes.writeUInt32LE(bytes.length - 8, 4);
  const { body } = await upload(server, 'gap.wav', bytes);
  const track = await send(server, `/api/recordings/${body.recording.id}/tracks`, {
    format: 'srt',
    language: 'en',
    content: '1\n00:00:00,500 --> 00:00:02,000\nThe clock\n'
  });
  // Rows fold by the speech map.
  await ask(server, `/api/recordings/${body.recording.id}/speech`);
  await page.goto(`${server.url}/recordings/${body.recording.id}/tracks/${track.body.track.id}/time`);
  const fold = page.locator('.fold');
  await expect(fold).toHaveCount(1);
  await expect(fold).toContainText(/silence, \d\d s/);
  const rows = await page.locator('.row .margin span').allTextContents();
  await page.evaluate(() => (document.querySelector('audio')!.currentTime = 15));
  await page.keyboard.press('Shift+A');
  await expect(page.getByTestId('cue-text')).toBeFocused();
  await page.keyboard.type('Still here');
  await page.keyboard.press('Escape');
  await saved(page);
  await expect(fold).toHaveCount(0);
  const opened = await page.locator('.row .margin span').allTextContents();
  for (const start of rows) expect(opened).toContain(start);
  await server.stop();
});
