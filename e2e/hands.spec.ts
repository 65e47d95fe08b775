/** What hands do all day: choosing, tapping, leaving out, taking back, their own keys; with the demo's interview. */
import { readFileSync } from 'node:fs';
import { expect, test, type Locator, type Page } from '@playwright/test';
import { ask, checkAccessible, middleOf, saved, startDemo, watchConsole } from './support';

let demo: Awaited<ReturnType<typeof startDemo>>;
test.beforeAll(async () => {
  demo = await startDemo();
});
test.afterAll(() => demo.stop());

async function open(page: Page, place: 'read' | 'time'): Promise<void> {
  watchConsole(page);
  const { recordingId, trackId } = demo.interview;
  await page.goto(`${demo.url}/recordings/${recordingId}/tracks/${trackId}/${place}`);
  await expect(page.locator('[data-surface]').first()).toBeVisible();
  await expect(page.getByText('Reading the sound')).toHaveCount(0);
}
const trackNow = async () => (await ask(demo, `/api/tracks/${demo.interview.trackId}`)).body.track;
const timesNow = async (): Promise<readonly number[]> =>
  (await trackNow()).cues.map((cue: { startMs: number }) => cue.startMs);

test('a quick tap takes the word under it; a word left out comes back by the same key; deleting is another', async ({
  page
}) => {
  await open(page, 'read');
  const paper = page.getByTestId('page');
  const first = await middleOf(page, 'Merrowby');
  await page.mouse.click(first.x, first.y);
  // Down and up within one task of the page: no time for the editor to read the selection between them.
  const second = await middleOf(page, 'grandfather');
  await page.mouse.move(second.x, second.y);
  await Promise.all([page.mouse.down(), page.mouse.up()]);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Shift+C');
  await expect(paper).toContainText('My GRANDFATHER kept');
  await expect(paper).toContainText('Merrowby clock');
  await page.keyboard.press('Shift+C');
  await expect(paper).toContainText('My grandfather kept');

  await page.keyboard.press('x');
  await saved(page);
  expect((await trackNow()).words.find((word: { text: string }) => word.text === 'grandfather').shown).toBe(false);
  await expect(paper).toContainText('My grandfather kept');
  await page.keyboard.press('x');
  await saved(page);
  expect((await trackNow()).words.find((word: { text: string }) => word.text === 'grandfather').shown).not.toBe(false);
  await page.keyboard.press('Delete');
  await expect(paper).toContainText('My kept');
  await page.getByRole('button', { name: /^Undo: / }).click();
  await expect(paper).toContainText('My grandfather kept');
});

test('Enter selects the word, so that typing replaces it; several are chosen by Shift; the speaker is set beside them', async ({
  page
}) => {
  await open(page, 'read');
  const paper = page.getByTestId('page');
  const word = await middleOf(page, 'welcome');
  await page.mouse.click(word.x, word.y);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Enter');
  await page.keyboard.type('good day');
  await expect(paper).toContainText('and good day to the tower');
  await page.keyboard.press('Control+z');
  await expect(paper).toContainText('and welcome to the tower');

  await page.keyboard.press('Escape');
  await page.mouse.click(word.x, word.y);
  await page.keyboard.press('Escape');
  for (let more = 0; more < 3; more++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.press('Shift+C');
  await expect(paper).toContainText('and WELCOME TO THE tower');
  await page.keyboard.press('Shift+C');
  await expect(paper).toContainText('and welcome to the tower');

  const who = page.getByLabel('Speaker of the paragraph');
  await expect(who).toHaveValue(/./);
  await who.selectOption('New speaker');
  await expect(page.locator('p[data-speaker="Speaker 3"]')).toContainText('Good morning');
  await page.keyboard.press('Control+z');
  await expect(page.locator('p[data-speaker="Tobin Ashe"]').first()).toContainText('Good morning');
});

test('one rule for choosing: a click one, Shift a range, Ctrl one more, Esc lets go; the count is always seen', async ({
  page
}) => {
  await open(page, 'time');
  const ids: string[] = (await trackNow()).cues.map((cue: { id: string }) => cue.id);
  const cue = (at: number): Locator =>
    page.getByTestId('trellis').locator(`[data-cue="${ids[at]}"][data-part="body"]`).first();
  const count = page.getByTestId('chosen-count');
  const isChosen = (at: number): Promise<string | null> => cue(at).getAttribute('aria-pressed');
  await page.keyboard.press('Control+a');
  await expect(count).toHaveText(/^24 cues chosen/);
  await cue(1).click();
  await expect(count).toHaveCount(0);
  await expect.poll(() => isChosen(2)).toBe('false');
  await expect(page.getByTestId('clock')).toHaveText(/^0:04/);
  await cue(3).click({ modifiers: ['Shift'] });
  await expect(count).toHaveText(/^3 cues chosen/);
  await cue(2).click({ modifiers: ['Control'] });
  await expect(count).toHaveText(/^2 cues chosen/);
  const before = await timesNow();
  await page.keyboard.press('Shift+U');
  await expect(page.getByRole('status').filter({ hasText: '2 cues moved' })).toBeVisible();
  await page.keyboard.press('Shift+I');
  await saved(page);
  expect(await timesNow()).toEqual(before);
  await checkAccessible(page);
  await page.keyboard.press('Escape');
  await expect(count).toHaveCount(0);

  // The table follows the same rule, and a double click opens the text.
  await page.keyboard.press('Shift+E');
  const rows = page.getByRole('region', { name: 'Cues as a table' }).getByRole('row');
  await rows.nth(0).click();
  await rows.nth(2).click({ modifiers: ['Shift'] });
  await expect(count).toHaveText(/^3 cues chosen/);
  await rows.nth(1).click();
  await expect(count).toHaveCount(0);
  await rows.nth(1).dblclick();
  await expect(page.getByTestId('cue-text')).toBeFocused();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Shift+E');
  await page.keyboard.press('Shift+E');
});

test('a word pushed and pulled brings lines and times back; a cue is played once and the player stops', async ({
  page
}) => {
  await open(page, 'time');
  const cues = page.getByTestId('trellis').locator('[data-part="body"]');
  const before = (await trackNow()).cues;
  await cues.nth(0).click();
  await page.keyboard.press('>');
  await saved(page);
  expect((await trackNow()).cues).not.toEqual(before);
  await page.keyboard.press('<');
  await saved(page);
  expect((await trackNow()).cues).toEqual(before);

  // One that lasts over five seconds, so that a slow machine sees it play.
  const long = before[4] as { id: string };
  await page.getByTestId('trellis').locator(`[data-cue="${long.id}"][data-part="body"]`).first().click();
  await page.keyboard.press('Shift+Space');
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await expect(page.getByTestId('clock')).toHaveText(/^0:13/);
  await expect(page.getByRole('heading', { name: /^Cue 5 of/ })).toBeVisible();
});

test('while a cue’s text is typed, repairs and splits act on the word with the caret, and the caret stays', async ({
  page
}) => {
  await open(page, 'time');
  const before = await trackNow();
  await page.getByTestId('trellis').locator('[data-part="body"]').nth(0).dblclick();
  const area = page.getByTestId('cue-text');
  await expect(area).toBeFocused();
  // “We are standing behind the face / of the Merrowby clock.”: into “standing”.
  await page.keyboard.press('Control+Home');
  for (let step = 0; step < 9; step++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Alt+c');
  await expect(area).toHaveValue(/^We are Standing behind/);
  await expect(area).toBeFocused();
  expect(await area.evaluate((element: HTMLTextAreaElement) => element.selectionStart)).toBe(9);
  await page.keyboard.press('Alt+c');
  await expect(area).toHaveValue(/^We are standing behind/);
  // What is typed and not yet put in goes first.
  await page.keyboard.type('x');
  await page.keyboard.press('Backspace');
  await page.keyboard.press('Alt+s');
  await saved(page);
  const { cues, words } = await trackNow();
  expect(cues).toHaveLength(before.cues.length + 1);
  const first = words.find((word: { id: string }) => word.id === cues[1].wordIds[0]);
  expect(first.text).toBe('standing');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await saved(page);
  expect((await trackNow()).cues).toEqual(before.cues);
});

test('keys are changed, conflicts told, sets kept, taken out and brought in', async ({ page }) => {
  await open(page, 'time');
  await page.keyboard.press('?');
  const dialog = page.getByRole('dialog', { name: 'Keys' });
  await checkAccessible(page);
  await dialog.getByRole('button', { name: /^Split at the word, on the surface/ }).click();
  await page.keyboard.press('m');
  await expect(dialog).toContainText('is “Merge with the next” now');
  await dialog.getByRole('button', { name: 'Give it to “Split at the word”' }).click();
  await expect(dialog.getByRole('combobox', { name: 'Set' })).toHaveValue('My keys');
  const download = page.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Export' }).click();
  const path = await (await download).path();
  expect(JSON.parse(readFileSync(path, 'utf8'))).toMatchObject({
    keys: { split: { surface: 'm' }, merge: { surface: null } }
  });
  await dialog.getByRole('button', { name: 'Close', exact: true }).click();

  const heading = page.getByRole('heading', { name: /^Cue \d+ of/ });
  await page.getByTestId('trellis').locator('[data-part="body"]').nth(2).click();
  await page.keyboard.press('m');
  await expect(heading).toHaveText(/of 25/);
  await page.keyboard.press('Control+z');
  await expect(heading).toHaveText(/of 24/);

  await page.keyboard.press('?');
  await dialog.getByRole('button', { name: 'Delete set' }).click();
  await expect(dialog).toContainText('“My keys” is deleted.');
  await dialog.getByLabel('Import').setInputFiles(path);
  await expect(dialog).toContainText('“My keys” is in use.');
  await dialog.getByRole('combobox', { name: 'Set' }).selectOption('As they come');
  await dialog.getByRole('button', { name: 'Close', exact: true }).click();
  await page.keyboard.press('s');
  await expect(heading).toHaveText(/of 25/);
  await page.keyboard.press('Control+z');
  await expect(heading).toHaveText(/of 24/);
});
