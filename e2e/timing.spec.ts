/** Cues broken anew, eased, laid on the speech, moved together and read as a table, with the demo's interview. */
import { expect, test, type Page } from '@playwright/test';
import { ask, checkAccessible, saved, send, startDemo, watchConsole } from './support';

let demo: Awaited<ReturnType<typeof startDemo>>;
test.beforeAll(async () => {
  demo = await startDemo();
});
test.afterAll(() => demo.stop());

interface CueAnswer {
  readonly id: string;
  readonly startMs: number;
  readonly endMs: number;
  readonly lines: readonly string[];
}
const cuesOf = async (trackId: string): Promise<CueAnswer[]> =>
  (await ask(demo, `/api/tracks/${trackId}`)).body.track.cues;

async function open(page: Page, trackId = demo.interview.trackId): Promise<void> {
  watchConsole(page);
  await page.goto(`${demo.url}/recordings/${demo.interview.recordingId}/tracks/${trackId}/time`);
  await expect(page.getByTestId('trellis').locator('[data-cue]').first()).toBeVisible();
  await expect(page.getByText('Reading the sound')).toHaveCount(0);
}

test('cues are broken anew under other rules: tried, left, taken, taken back; locked ones stay', async ({ page }) => {
  const before = await cuesOf(demo.interview.trackId);
  await open(page);
  await page.keyboard.press('l');
  await page.getByRole('tab', { name: 'Rules' }).click();
  await page.getByLabel('Set').selectOption('Children');
  await page.getByTestId('break-anew').click();
  await expect(page.getByTestId('trial')).toBeVisible();
  await expect(page.getByText(`${before.length} cues become`)).toBeVisible();
  await checkAccessible(page);
  await page.getByTestId('trellis').focus();
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('trial')).toHaveCount(0);
  await saved(page);
  expect(await cuesOf(demo.interview.trackId)).toEqual(before);
  await page.getByTestId('break-anew').click();
  await expect(page.getByTestId('trial')).toBeVisible();
  await page.getByTestId('trellis').focus();
  await page.keyboard.press('Control+Enter');
  await saved(page);
  const after = await cuesOf(demo.interview.trackId);
  expect(after.length).toBeGreaterThan(before.length);
  expect(after[0]).toEqual(before[0]);
  expect(after.slice(1).every(({ lines }) => lines.every((line) => line.length <= 32))).toBe(true);
  await page.keyboard.press('Control+z');
  await saved(page);
  await page.keyboard.press('Control+z');
  await saved(page);
  expect(await cuesOf(demo.interview.trackId)).toEqual(before);
});

test('captions from elsewhere that run late are laid on the speech at a stroke', async ({ page }) => {
  const truth = await cuesOf(demo.interview.trackId);
  const clock = (ms: number): string => new Date(ms).toISOString().slice(11, 23).replace('.', ',');
  const content = truth
    .map(
      ({ startMs, endMs, lines }, at) =>
        `${at + 1}\n${clock(startMs + 4200)} --> ${clock(endMs + 4200)}\n${lines.join('\n')}\n`
    )
    .join('\n');
  const { body } = await send(demo, `/api/recordings/${demo.interview.recordingId}/tracks`, {
    ...{ format: 'srt', language: 'en', content }
  });
  const trackId = body.track.id as string;
  await open(page, trackId);
  await page.getByRole('tab', { name: 'Sync' }).click();
  await page.getByTestId('estimate').click();
  await expect(page.getByTestId('estimated')).toContainText(/−4\.[12]\d s/);
  await expect(page.getByTestId('trial')).toBeVisible();
  await page.getByRole('button', { name: /^Apply/ }).click();
  await saved(page);
  const laid = await cuesOf(trackId);
  const off = laid.map(({ startMs }, at) => Math.abs(startMs - truth[at]!.startMs));
  expect(off.reduce((sum, ms) => sum + ms, 0) / off.length).toBeLessThan(80);
  // On the words of the other track, as they were heard, to the millisecond.
  await page
    .getByRole('button', { name: /^On the words of/ })
    .first()
    .click();
  await expect(page.getByText('go to their words')).toBeVisible();
  await page.getByRole('button', { name: /^Apply/ }).click();
  await saved(page);
  const onWords = await cuesOf(trackId);
  const exact = onWords.filter(({ startMs }, at) => Math.abs(startMs - truth[at]!.startMs) <= 50).length;
  expect(exact / truth.length).toBeGreaterThan(0.8);
});

test('several cues are moved together, with what follows or without; one is drawn and typed; the table lists them', async ({
  page
}) => {
  const { trackId } = demo.interview;
  const before = await cuesOf(trackId);
  await open(page);
  await page.keyboard.press('Shift+X');
  await expect(page.getByRole('checkbox', { name: 'Move what follows' })).toBeChecked();
  for (const key of ['ArrowRight', 'ArrowRight', 'Shift+ArrowRight']) await page.keyboard.press(key);
  await page.keyboard.press('Shift+I');
  await saved(page);
  const shifted = await cuesOf(trackId);
  const by = shifted[2]!.startMs - before[2]!.startMs;
  expect(by).toBeGreaterThan(0);
  expect(shifted.slice(2).map(({ startMs }, at) => startMs - before[at + 2]!.startMs)).toEqual(
    before.slice(2).map(() => by)
  );
  expect(shifted.slice(0, 2)).toEqual(before.slice(0, 2));
  await page.keyboard.press('Control+z');
  await saved(page);
  await page.keyboard.press('Shift+X');

  // The sound before the first cue is empty.
  const box = (await page.getByTestId('trellis').boundingBox())!;
  await page.mouse.move(box.x + 115, box.y + 120);
  await page.mouse.down();
  await page.mouse.move(box.x + 150, box.y + 120, { steps: 4 });
  await page.mouse.move(box.x + 190, box.y + 120, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByTestId('cue-text')).toBeFocused();
  await page.keyboard.type('[clock ticks]');
  await page.keyboard.press('Escape');
  await saved(page);
  const drawn = (await cuesOf(trackId))[0]!;
  expect(drawn.lines).toEqual(['[clock ticks]']);
  expect(drawn.endMs).toBeLessThanOrEqual(before[0]!.startMs);

  await page.keyboard.press('Shift+E');
  const table = page.getByRole('region', { name: 'Cues as a table' });
  await expect(table).toContainText('[clock ticks]');
  await page.getByTestId('cue-filter').selectOption('Breaks a rule');
  await expect(table).toContainText(/least is|limit is/);
  await checkAccessible(page);
});

test('sounds that no caption tells of are gone through, and become cues by a number', async ({ page }) => {
  const before = await cuesOf(demo.interview.trackId);
  await open(page);
  await page.getByTestId('trellis').focus();
  await page.keyboard.press('Shift+B');
  const asked = page.getByRole('region', { name: 'What is the sound?' });
  await expect(asked).toBeVisible();
  await checkAccessible(page);
  await page.getByTestId('trellis').focus();
  await page.keyboard.press('2');
  await saved(page);
  const after = await cuesOf(demo.interview.trackId);
  const added = after.filter(({ id }) => !before.some((cue) => cue.id === id));
  expect(added.map(({ lines }) => lines)).toEqual([['[bell strikes]']]);
  await page.keyboard.press('Escape');
  await expect(asked).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await saved(page);
  expect(await cuesOf(demo.interview.trackId)).toEqual(before);
});
