import { execFileSync } from 'node:child_process';
import { expect, test, type Page } from '@playwright/test';
import { ask, checkAccessible, startDemo, watchConsole } from './support';

type Demo = Awaited<ReturnType<typeof startDemo>>;
let server: Demo;
let recordingId: string;
test.beforeAll(async () => {
  server = await startDemo();
  const { recordings } = (await ask(server, '/api/recordings')).body;
  recordingId = recordings.find(({ title }: { title: string }) => title.startsWith('Winding')).id;
});
test.afterAll(() => server.stop());

/** Faults of several kinds, on what is said in the demo. */
const PLANTED = `1
00:00:01,000 --> 00:00:04,500
We are standing behind the the face of the clock.

2
00:00:05,000 --> 00:00:05,500
It is ten.

3
00:00:05,530 --> 00:00:09,500
and in a moment you will hear why
nobody talks up here

4
00:00:10,500 --> 00:00:14,500
Good morning. welcome to the tower,
it was made in 17\u200b04.

5
00:00:15,000 --> 00:00:18,000
It's the "large" wheel that turns (slowly.
`;

const left = (page: Page) => page.getByTestId('findings-left');
const panel = (page: Page) => page.getByTestId('finding');
async function newTrack(): Promise<string> {
  const made = await ask(server, `/api/recordings/${recordingId}/tracks`, {
    ...{ method: 'POST', headers: { 'content-type': 'application/json' } },
    body: JSON.stringify({ format: 'srt', language: 'en', content: PLANTED })
  });
  return made.body.track.id as string;
}

test('planted faults are brought to nothing by keys alone: mended, or let stand for a reason, and reported', async ({
  page
}) => {
  watchConsole(page);
  const id = await newTrack();
  await page.goto(`${server.url}/recordings/${recordingId}/tracks/${id}/time`);
  await expect(page.getByTestId('cue-text')).toBeVisible();
  await page.keyboard.press('Shift+Digit7');
  await expect(left(page)).toHaveText(/^\d+ findings left$/);
  // Spelling and light come a moment later.
  await expect(page.getByTestId('awaited')).toBeHidden();
  await expect(left(page)).toHaveText(/^\d+ findings left$/);
  const all = Number(/\d+/.exec((await left(page).textContent())!)![0]);
  expect(all).toBeGreaterThan(8);
  await checkAccessible(page);

  await page.keyboard.press('n');
  await expect(panel(page)).toContainText(`1 of ${all}`);
  // All of a kind are one step, taken back by one undo.
  const told = new Set<string>();
  let mended = 0;
  for (let count = all; count > 0;) {
    await expect(panel(page)).toHaveAttribute('aria-busy', 'false');
    told.add((await panel(page).getByRole('heading').textContent())!.trim());
    const mend = panel(page).getByRole('button', { name: 'Mend it' });
    if (await mend.isEnabled()) {
      await page.keyboard.press('1');
      mended++;
    } else {
      await page.keyboard.press('0');
      await expect(page.getByLabel('Why it stands')).toBeFocused();
      await page.keyboard.insertText('The client asked for it.');
      await page.keyboard.press('Enter');
    }
    const before = count;
    await expect(async () => {
      const text = (await left(page).textContent())!;
      count = text === 'Nothing is left' ? 0 : Number(/\d+/.exec(text)![0]);
      expect(count).toBeLessThan(before);
    }).toPass({ timeout: 60_000 });
  }
  for (const title of [
    'A word stands twice',
    'Too short on screen',
    'Signs that cannot be seen',
    'A bracket that does not close'
  ])
    expect(told).toContain(title);
  expect(mended).toBeGreaterThan(3);
  await expect(page.getByText('Everything is as the sheet asks')).toBeVisible();
  const { track } = (await ask(server, `/api/tracks/${id}`)).body;
  expect(track.cues[0].lines.join(' ')).toBe('We are standing behind the face of the clock.');
  const { findings } = (await ask(server, `/api/tracks/${id}/checks`)).body;
  expect(findings.length).toBeGreaterThan(0);
  for (const { accepted, rule } of findings) expect(accepted, rule).toEqual({ reason: 'The client asked for it.' });

  // The report, by keys too, is of what is there now.
  await page.getByRole('tab', { name: 'Findings' }).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  const report = page.getByTestId('report');
  await expect(report).toContainText('Everything is as the sheet asks.');
  await expect(report.getByRole('table', { name: 'Let stand' })).toContainText('The client asked for it.');
  await checkAccessible(page);
  await page.keyboard.press('Tab');
  const saved = page.waitForEvent('download');
  await page.keyboard.press('Enter');
  const file = await saved;
  expect(file.suggestedFilename()).toMatch(/^winding-the-merrowby-clock\..*check\.pdf$/);
  const printed = execFileSync('pdftotext', [await file.path(), '-'], { encoding: 'utf8' });
  expect(printed).toContain('The client asked for it.');
  await page.getByRole('tab', { name: 'Findings' }).click();

  // It is so for whoever comes after, and comes back where the text changes.
  await page.reload();
  await expect(left(page)).toHaveText('Nothing is left');
  await page.getByRole('button', { name: /let stand$/ }).click();
  await expect(page.getByRole('region', { name: 'Findings in the order of time' })).toContainText(
    'The client asked for it.'
  );
  const bracket = findings.find(({ rule }: { rule: string }) => rule === 'open_bracket');
  await ask(server, `/api/tracks/${id}/edits`, {
    ...{ method: 'POST', headers: { 'content-type': 'application/json' } },
    body: JSON.stringify({
      revision: track.revision,
      edits: [{ type: 'setCueText', cueId: bracket.cueId, lines: ['Now the large wheel turns (slowly.'] }]
    })
  });
  await page.getByRole('button', { name: 'Show what is left' }).click();
  await expect(page.getByRole('region', { name: 'Findings in the order of time' })).toContainText(
    'A bracket that does not close'
  );
});

test('all of a kind are mended at once and undone at once; a finding is left and come back to; a sheet decides', async ({
  page
}) => {
  watchConsole(page);
  const id = await newTrack();
  await page.goto(`${server.url}/recordings/${recordingId}/tracks/${id}/check`);
  await expect(left(page)).toHaveText(/^\d+ findings left$/);
  await expect(page.getByTestId('awaited')).toBeHidden();
  const rows = page.getByRole('region', { name: 'Findings in the order of time' }).getByRole('button');
  await rows.filter({ hasText: 'A word stands twice' }).click();
  await expect(panel(page)).toContainText('“the” is left out');
  const inHand = await panel(page).getByRole('heading').textContent();
  // To the words, and back to the same finding.
  await page.keyboard.press('Shift+Digit2');
  await expect(page.getByRole('tab', { name: 'Doubts' })).toBeVisible();
  await page.keyboard.press('Shift+Digit7');
  await expect(panel(page).getByRole('heading')).toHaveText(inHand!);
  await page.keyboard.press('1');
  await expect(page.getByText('Mended. Undo takes it back.')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(rows.filter({ hasText: 'A word stands twice' })).toBeVisible();

  await page.getByRole('tab', { name: 'Sheet' }).click();
  await page.getByLabel('A word stands twice: counts as').selectOption('off');
  await page.getByLabel('Too short on screen: At least ms').fill('400');
  await page.keyboard.press('Tab');
  await checkAccessible(page);
  await page.getByPlaceholder('Name').fill('Museum');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('sheet-from')).toHaveValue('Museum');
  await page.getByRole('tab', { name: 'Findings' }).click();
  await expect(left(page)).toHaveText(/left$/);
  await expect(rows.filter({ hasText: 'A word stands twice' })).toBeHidden();
  await expect(rows.filter({ hasText: 'Too short on screen' })).toBeHidden();
  const { track } = (await ask(server, `/api/tracks/${id}`)).body;
  expect(track.sheetFrom).toMatchObject({ name: 'Museum' });

  await page.getByRole('tab', { name: 'Figures' }).click();
  await page.getByText('As a table').first().click();
  await expect(page.getByTestId('figures').getByRole('table').first()).toContainText('Characters a second');
  await expect(page.getByTestId('since-draft')).toContainText('with the draft’s times');
  await expect(page.getByTestId('figures').locator('canvas')).toHaveCount(5);
  await checkAccessible(page);
});

test('two windows check one track: what is mended in one is gone in the other, and what stands is kept', async ({
  page,
  context
}) => {
  watchConsole(page);
  const id = await newTrack();
  const url = `${server.url}/recordings/${recordingId}/tracks/${id}/check`;
  const other = await context.newPage();
  watchConsole(other);
  await page.goto(url);
  await other.goto(url);
  const rowsOf = (window: Page) =>
    window.getByRole('region', { name: 'Findings in the order of time' }).getByRole('button');
  for (const window of [page, other])
    await expect(rowsOf(window).filter({ hasText: 'A word stands twice' })).toBeVisible();
  await rowsOf(other).filter({ hasText: 'A word stands twice' }).click();
  await rowsOf(page).filter({ hasText: 'A word stands twice' }).click();
  await expect(panel(page)).toContainText('“the” is left out');
  await page.keyboard.press('1');
  await expect(rowsOf(other).filter({ hasText: 'A word stands twice' })).toBeHidden();
  // The other window has gone on to what comes next, and mends there.
  await expect(panel(other).getByRole('heading')).not.toContainText('A word stands twice');
  await rowsOf(other).filter({ hasText: 'Signs that cannot be seen' }).click();
  await expect(panel(other)).toHaveAttribute('aria-busy', 'false');
  await other.keyboard.press('1');
  await expect(rowsOf(page).filter({ hasText: 'Signs that cannot be seen' })).toBeHidden();
});
