import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { frameAt, readPicture, structuralSimilarity } from '../tests/server/pictures';
import { ask, checkAccessible, newFolder, startDemo, tabTo, watchConsole } from './support';

type Demo = Awaited<ReturnType<typeof startDemo>>;
let server: Demo;
test.beforeAll(async () => {
  server = await startDemo();
});
test.afterAll(() => server.stop());

const trackNow = async () => (await ask(server, `/api/tracks/${server.interview.trackId}`)).body.track;
const lookNow = async () => (await trackNow()).look;

async function open(page: Page): Promise<void> {
  watchConsole(page);
  // The picture is as large as the video, pixel for pixel.
  await page.setViewportSize({ width: 1012, height: 860 });
  const { recordingId, trackId } = server.interview;
  await page.goto(`${server.url}/recordings/${recordingId}/tracks/${trackId}/dress`);
  await expect(page.getByTestId('picture').locator('canvas')).toBeVisible();
}

test('a look is set by keys alone, and by mouse; for all, for a speaker, for one cue, and back', async ({ page }) => {
  await open(page);
  const before = await lookNow();

  // By keys: from the surface into the tabs, and on.
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowLeft');
  await tabTo(page, /^Size$/);
  for (let step = 0; step < 4; step++) await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await lookNow()).sizePercent).toBe(before.sizePercent + 2);
  await tabTo(page, 'Centred');
  await page.keyboard.press('ArrowLeft');
  await expect.poll(async () => (await lookNow()).align).toBe('start');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await lookNow()).align).toBe('centre');

  // By mouse: a face, a colour that is typed, a box, a place that is dragged to.
  await page.getByLabel('Typeface', { exact: true }).selectOption({ label: 'Literata, serif' });
  await page.getByRole('tab', { name: 'Colours' }).click();
  await page.getByLabel('Letters, hexadecimal').fill('FFEE00');
  await page.getByLabel('Letters, hexadecimal').press('Enter');
  await page.getByRole('tab', { name: 'Box' }).click();
  await page.getByRole('radio', { name: 'Behind all lines' }).click();
  await expect.poll(lookNow).toMatchObject({ face: 'literata', color: '#ffee00', box: { kind: 'block' } });
  const frame = (await page.getByTestId('mover').boundingBox())!;
  const picture = (await page.getByTestId('picture').boundingBox())!;
  await page.mouse.move(frame.x + frame.width / 2, frame.y + frame.height / 2);
  await page.mouse.down();
  // A little beside the third: it is drawn to it.
  await page.mouse.move(picture.x + picture.width / 2 + 3, picture.y + picture.height / 3 + 2, { steps: 5 });
  await page.mouse.up();
  await expect.poll(async () => (await lookNow()).placement).toEqual({ xPercent: 50, yPercent: 33.33 });
  await page.getByTestId('mover').press('ArrowDown');
  await expect.poll(async () => (await lookNow()).placement.yPercent).toBeCloseTo(33.83);

  // A speaker and a cue override single values.
  await page.getByRole('radio', { name: 'A speaker' }).click();
  await page.getByRole('tab', { name: 'Letters' }).click();
  await page.getByLabel('Italics').check();
  await expect(page.getByText('1 value of its own')).toBeVisible();
  await page.getByRole('button', { name: 'Next cue' }).click();
  await page.getByRole('radio', { name: 'This cue' }).click();
  await page.getByRole('spinbutton', { name: /^Size/ }).fill('5');
  await page.getByRole('spinbutton', { name: /^Size/ }).press('Enter');
  await expect.poll(async () => (await trackNow()).cues[1].look).toEqual({ sizePercent: 5 });
  await expect(page.getByText('1 cue with a look of their own')).toBeVisible();
  const dressed = await trackNow();
  expect(dressed.speakers[0].look).toEqual({ italic: true });
  await page.getByRole('button', { name: 'Size: as all the others again' }).click();
  await expect.poll(async () => (await trackNow()).cues[1].look).toBe(undefined);
  await page.getByRole('radio', { name: 'A speaker' }).click();
  await page.getByRole('button', { name: 'All as all the others' }).click();
  await expect.poll(async () => (await trackNow()).speakers[0].look).toBe(null);
  await checkAccessible(page);
});

test('looks are kept, tried, taken, renamed, deleted and brought back', async ({ page }) => {
  await open(page);
  await page.getByRole('button', { name: /Kept looks|From/ }).click();
  await page.getByPlaceholder('Name').fill('Lanternfold');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Rename “Lanternfold”' })).toBeVisible();
  await checkAccessible(page);
  await page.getByRole('button', { name: /Lighthouse/ }).click();
  await expect.poll(async () => (await trackNow()).lookFrom).toEqual({ name: 'Lighthouse', version: 0 });
  await expect(page.getByRole('button', { name: 'From “Lighthouse”' })).toBeVisible();
  await page.getByRole('button', { name: 'From “Lighthouse”' }).click();
  await page.getByRole('button', { name: 'Rename “Lanternfold”' }).click();
  await page.getByPlaceholder('Name').fill('Tower films');
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await page.getByRole('button', { name: 'Delete “Tower films”' }).click();
  await expect(page.getByRole('button', { name: /Tower films/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await page.getByRole('button', { name: /^Tower films/ }).click();
  await expect.poll(async () => (await trackNow()).lookFrom.name).toBe('Tower films');
});

test('what cannot be read is found, told why, mended; and is the same burnt in', async ({ page }) => {
  await open(page);
  await page.getByRole('tab', { name: 'Box' }).click();
  await page.getByRole('radio', { name: 'None' }).click();
  await page.getByRole('tab', { name: 'Colours' }).click();
  await page.getByLabel('Letters, hexadecimal').fill('#ffffff');
  await page.getByLabel('Letters, hexadecimal').press('Enter');
  await page.getByRole('tab', { name: 'Place' }).click();
  await page.getByRole('radio', { name: 'bottom centre' }).click();
  const contrast = page.getByTestId('contrast');
  await expect(page.getByTestId('contrast-chart')).toBeVisible();
  await expect(page.getByText(/\d+ cues? below 4\.5 : 1/)).toBeVisible();
  await page.keyboard.press('Escape');
  const { cues } = (await ask(server, `/api/tracks/${server.interview.trackId}/contrast`)).body;
  const least = Math.min(...cues.map(({ worst }: { worst: number }) => worst));
  // By how it is reckoned here and there the worst may be another one of those that are as bad.
  const hardest = new Set(
    cues.flatMap(({ worst }: { worst: number }, at: number) => (worst < least + 0.15 ? [`Cue ${at + 1} of 24`] : []))
  );
  await page.keyboard.press('n');
  await expect
    .poll(
      async () =>
        /Cue \d+ of 24/.exec((await page.getByRole('group', { name: 'Cue on the picture' }).textContent())!)![0]
    )
    .toMatch(new RegExp([...hardest].join('|')));
  await expect(contrast).toContainText(/behind line \d/);
  const mending = contrast.getByRole('button', { name: /^A box of \d+ %, for all cues/ });
  await mending.hover();
  await expect(contrast).toContainText('Stands out everywhere.');
  expect((await lookNow()).box.kind).toBe('none');
  await mending.click();
  await expect.poll(async () => (await lookNow()).box.kind).toBe('line');
  await expect(page.getByText('No cue below 4.5 : 1')).toBeVisible();

  // What stands on the screen is what is burnt in.
  const cue = (await trackNow()).cues[3];
  const middleMs = (cue.startMs + cue.endMs) / 2;
  await page.evaluate(async (seconds) => {
    const video = document.querySelector('video')!;
    video.currentTime = seconds;
    await new Promise((done) => video.addEventListener('seeked', done, { once: true }));
  }, middleMs / 1000);
  await expect(page.getByTestId('picture-cue')).toHaveText(cue.lines.join(' ').replace(/<[^>]+>/g, ''));
  await page.mouse.move(5, 5);
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  const shot = join(newFolder(), 'screen.png');
  writeFileSync(shot, await page.getByTestId('picture').screenshot());
  await page.keyboard.press('Shift+Digit8');
  await page.getByRole('tab', { name: 'Video' }).click();
  await page.getByRole('spinbutton', { name: 'Quality' }).fill('90');
  await expect(page.getByTestId('estimate')).toContainText('640 × 360');
  await page.getByRole('button', { name: 'Render' }).click();
  await page.getByRole('button', { name: 'Look at it' }).click();
  await expect(page.getByTestId('rendered')).toBeVisible();
  await checkAccessible(page);
  const { renders } = (await ask(server, `/api/recordings/${server.interview.recordingId}/renders`)).body;
  const file = join(newFolder(), 'rendered.mp4');
  writeFileSync(
    file,
    Buffer.from(await (await fetch(`${server.url}/api/renders/${renders[0].id}/file`)).arrayBuffer())
  );
  const screen = readPicture(shot);
  const burnt = frameAt(file, (middleMs - 45) / 1000);
  expect([screen.width, screen.height]).toEqual([burnt.width, burnt.height]);
  expect(structuralSimilarity(screen.rgb, burnt.rgb, screen)).toBeGreaterThan(0.98);

  // Deleted, and kept after all.
  await page.getByRole('button', { name: /^Delete/ }).click();
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('link', { name: 'Save' })).toBeVisible();
});
