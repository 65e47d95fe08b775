/** The interview is edited again: its new cut comes in, its captions go over, and what changed is looked through. */
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { ask, checkAccessible, HEARING_MS, newFolder, saved, startDemo, watchConsole } from './support';

let demo: Awaited<ReturnType<typeof startDemo>>;
test.beforeAll(async () => {
  demo = await startDemo();
});
test.afterAll(() => demo.stop());

/** The interview without what lies from 20 to 35 s, and with eight seconds of the talk in its place. */
function makeNewCut(): string {
  const path = join(newFolder(), 'winding_second_cut.wav');
  const parts = [
    '[0:a]atrim=0:20,asetpts=PTS-STARTPTS,aformat=sample_rates=16000:channel_layouts=mono[a]',
    '[1:a]atrim=1:9,asetpts=PTS-STARTPTS,aformat=sample_rates=16000:channel_layouts=mono[b]',
    '[0:a]atrim=35,asetpts=PTS-STARTPTS,aformat=sample_rates=16000:channel_layouts=mono[c]',
    '[a][b][c]concat=n=3:v=0:a=1[out]'
  ];
  const inputs = ['winding-the-merrowby-clock.mp4', 'how-a-tower-clock-keeps-time.mp3'].flatMap((name) => [
    '-i',
    join('demo/media', name)
  ]);
  const how = ['-filter_complex', parts.join(';'), '-map', '[out]', path];
  execFileSync('ffmpeg', ['-nostdin', '-v', 'error', '-y', ...inputs, ...how]);
  return path;
}

test('a new cut comes in, captions go over to it, and what changed is gone through by keys', async ({ page }) => {
  watchConsole(page);
  await page.goto(demo.url);
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Bring in a new cut of Winding the Merrowby clock' }).click();
  await (await chooser).setFiles(makeNewCut());
  await expect(page.getByText('New cut of Winding the Merrowby clock')).toBeVisible();
  await page.getByRole('link', { name: 'Take tracks over' }).click();

  const takeOver = page.getByRole('button', { name: /Take over English captions/ });
  await expect(page.getByRole('list', { name: 'This recording, from its start' }).getByRole('listitem')).toHaveCount(
    3,
    { timeout: HEARING_MS }
  );
  await checkAccessible(page);
  await takeOver.click();
  await page.getByRole('link', { name: /Look over \d+ places/ }).click();

  await expect(page.getByTestId('trellis').locator('[data-cue]').first()).toBeVisible();
  await expect(page.getByText('Reading the sound')).toHaveCount(0);
  await page.keyboard.press('Shift+F');
  const beside = page.getByRole('region', { name: 'Changed by the new cut' });
  await expect(beside).toBeVisible();
  await checkAccessible(page);
  const trackId = /tracks\/([^/]+)/.exec(page.url())![1]!;
  const remarks = async () =>
    (await ask(demo, `/api/tracks/${trackId}/cut-remarks`)).body.remarks as {
      kind: string;
      lookedAtMs: number | null;
    }[];
  const count = (await remarks()).length;
  await expect(beside.getByText(`${count} of ${count} left`)).toBeVisible();
  // Each is ticked off; at the new sound what is said there is heard, and becomes a cue.
  for (let left = count; left > 0; left--) {
    const hear = beside.getByRole('button', { name: 'Hear it' });
    if (await hear.isVisible()) {
      await hear.click();
      await expect(page.getByRole('list', { name: 'Readings, best first' })).toBeVisible({ timeout: HEARING_MS });
      await page.keyboard.press('1');
      await saved(page);
    }
    await beside.getByRole('button', { name: 'Looked at', exact: true }).click();
    await expect(beside.getByText(`${left - 1} of ${count} left`)).toBeVisible();
  }
  expect((await remarks()).every(({ lookedAtMs }) => lookedAtMs !== null)).toBe(true);
  const { cues } = (await ask(demo, `/api/tracks/${trackId}`)).body.track as {
    cues: { startMs: number; endMs: number; lines: string[] }[];
  };
  expect(cues.some(({ startMs, endMs }) => startMs >= 19_900 && endMs <= 28_200)).toBe(true);
  // What came behind the cut is seven seconds earlier, to a frame.
  const before = (await ask(demo, `/api/tracks/${demo.interview.trackId}`)).body.track.cues as typeof cues;
  const [last, lastBefore] = [cues.at(-1)!, before.at(-1)!];
  expect(last.lines).toEqual(lastBefore.lines);
  expect(Math.abs(lastBefore.startMs - last.startMs - 7000)).toBeLessThan(40);
});
