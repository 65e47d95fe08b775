/** From the draft to the right words: doubts, repairs, finding, versions, by the keyboard. */
import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { correctByKeys } from './correcting';
import { ask, checkAccessible, saved, send, startDemo, until, watchConsole } from './support';

let server: Awaited<ReturnType<typeof startDemo>>;
test.beforeAll(async () => {
  server = await startDemo();
});
test.afterAll(() => server.stop());

const readUrl = (): string =>
  `${server.url}/recordings/${server.interview.recordingId}/tracks/${server.interview.trackId}/read`;
const textNow = async (): Promise<string> => {
  const { words } = (await ask(server, `/api/tracks/${server.interview.trackId}`)).body.track;
  return words.map((word: { text: string }) => word.text).join(' ');
};

test('the doubts are gone through with number keys, remembered, and the same is done for those alike', async ({
  page
}) => {
  watchConsole(page);
  await page.goto(readUrl());
  const left = page.getByTestId('doubts-left');
  await expect(left).toHaveText(/^\d+ left$/);
  const count = Number(/\d+/.exec((await left.textContent())!)![0]);
  await checkAccessible(page);

  await page.keyboard.press('n');
  await expect(page.getByText('The recogniser was unsure', { exact: true })).toBeVisible();
  await expect(page.getByText(`1 of ${count}:`)).toBeVisible();
  await expect(page.getByText('Loop on')).toBeVisible();
  await checkAccessible(page);
  await page.keyboard.press('0');
  await expect(left).toHaveText(`${count - 1} left`);
  // What was kept by mistake is a doubt again, here and on the server, and kept once more.
  await expect(page.getByRole('button', { name: '1 kept · ask again' })).toBeVisible();
  await page.keyboard.press('Shift+K');
  await expect(left).toHaveText(`${count} left`);
  await expect(page.getByText(`1 of ${count}:`)).toBeVisible();
  await expect
    .poll(async () => (await ask(server, `/api/tracks/${server.interview.trackId}/doubts`)).body.doubts.length)
    .toBe(count);
  await page.keyboard.press('0');
  await expect(left).toHaveText(`${count - 1} left`);

  const before = await textNow();
  await page.keyboard.press('n');
  const offered = (await page.locator('ol[aria-label="What may be meant"] li').first().textContent())!
    .replace(/^\s*1\s*/, '')
    .trim();
  await page.keyboard.press('1');
  await expect(left).toHaveText(`${count - 2} left`);
  await saved(page);
  expect(await textNow()).not.toBe(before);
  expect(await textNow()).toContain(offered);
  await page.keyboard.press('Control+z');
  await expect.poll(textNow).toBe(before);

  // Looked at once, it is not offered again, also after the page is opened anew.
  await page.reload();
  await expect(page.getByText('1 looked at and kept')).toBeVisible();
});

test('repairs act on the word that is chosen, and by Alt while typing; each is one step to undo', async ({ page }) => {
  watchConsole(page);
  await page.goto(readUrl());
  const paper = page.getByTestId('page');
  await expect(paper).toContainText('twice she can talk are the same length');
  const before = await textNow();
  await page.keyboard.press('/');
  await page.keyboard.type('twice');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await page.keyboard.press('.');
  await expect(paper).toContainText('thing twice. She can talk');
  await page.keyboard.press(',');
  await expect(paper).toContainText('thing twice, she can talk');
  await page.keyboard.press('Enter');
  await expect(paper).toBeFocused();
  await page.keyboard.press('Alt+c');
  await expect(paper).toContainText('thing Twice, she can talk');
  // The word is selected: what is typed would replace it.
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.type('very ');
  await expect(paper).toContainText('thing very Twice, she can talk');
  await page.keyboard.press('Escape');
  await saved(page);
  for (let step = 0; step < 4; step++) await page.keyboard.press('Control+z');
  await expect.poll(textNow).toBe(before);

  await page.keyboard.press('t');
  await page.getByPlaceholder('what is it?').first().fill('ticking');
  await page.keyboard.press('Enter');
  await expect(paper).toContainText('[ticking]');
  await page.keyboard.press('Control+z');
  await expect(paper).not.toContainText('[ticking]');
});

test('a text is found in all its places and written over at once, and one undo brings all back', async ({ page }) => {
  watchConsole(page);
  await page.goto(readUrl());
  await expect(page.getByTestId('page')).toContainText('Merrowby');
  const before = await textNow();
  await page.keyboard.press('/');
  await page.keyboard.type('clock');
  await expect(page.getByTestId('hits')).toHaveText('5 places in this track');
  await expect.poll(() => page.evaluate(() => [...(CSS.highlights.get('page-hit') ?? [])].length)).toBeGreaterThan(2);
  await checkAccessible(page);
  await page.getByLabel('Replace with').fill('timepiece');
  await page.getByRole('button', { name: 'Replace all (5)' }).press('Enter');
  await expect(page.getByTestId('hits')).toHaveText('Not found in this track.');
  await saved(page);
  expect(await textNow()).toBe(before.replaceAll('clock', 'timepiece'));
  await page.keyboard.press('Escape');
  await page.getByTestId('page').press('Control+z');
  await expect.poll(textNow).toBe(before);
  // By its sound, over two words.
  await page.getByRole('textbox', { name: 'Find' }).fill('esscape mint');
  await page.getByLabel('Sounds like it').check();
  await expect(page.getByTestId('hits')).toHaveText('1 place in this track');
});

/** Pastes as a browser does, with both kinds of text. */
const paste = (page: Page, text: string, html: string | null = null): Promise<void> =>
  page.getByTestId('page').evaluate(
    (element, { text, html }) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData('text/plain', text);
      if (html !== null) clipboardData.setData('text/html', html);
      element.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
    },
    { text, html }
  );

/** Undoes step by step, each one written down before the next. */
async function undoUntil(page: Page, text: string): Promise<void> {
  for (let step = 0; step < 10 && (await textNow()) !== text; step++) {
    await page.keyboard.press('Control+z');
    await saved(page);
  }
  expect(await textNow()).toBe(text);
}

test('whatever is typed or pasted becomes words, and undo takes it back to the letter', async ({ page }) => {
  watchConsole(page);
  await page.goto(readUrl());
  const paper = page.getByTestId('page');
  await expect(paper).toContainText('Merrowby');
  const before = await textNow();
  const strange = {
    rightToLeft: 'שלום עולם',
    combining: 'e\u0301cole',
    emoji: '👩🏽‍🚀',
    long: 'w'.repeat(300)
  };
  await page.keyboard.press('Enter');
  await expect(paper).toBeFocused();
  for (const text of Object.values(strange)) await page.keyboard.insertText(`${text} `);
  await paste(page, 'bold words ', '<p onclick="alert(1)"><b>bold</b> <img src=x onerror="alert(1)">words </p>');
  await page.keyboard.press('Escape');
  await saved(page);
  const after = await textNow();
  for (const text of [...Object.values(strange), 'bold words']) expect(after).toContain(text);
  expect(after).not.toContain('<');
  await expect(paper.locator('img, b')).toHaveCount(0);
  await undoUntil(page, before);

  await page.keyboard.press('Enter');
  const pasted = Array.from({ length: 5000 }, (_, at) => `p${at}`).join(' ');
  await paste(page, `${pasted} `);
  await page.keyboard.press('Escape');
  await saved(page);
  expect(await textNow()).toContain(pasted);
  await undoUntil(page, before);
});

test('thousands of places are written over in one go, and one undo brings them back', async ({ page }) => {
  watchConsole(page);
  const time = (seconds: number): string =>
    `00:${String(Math.floor(seconds / 60)).padStart(2, '0')}:${String(seconds % 60).padStart(2, '0')},000`;
  const content = Array.from(
    { length: 750 },
    (_, at) => `${at + 1}\n${time(2 * at)} --> ${time(2 * at + 1)}\nthe bell and the wheel and the bell\n`
  ).join('\n');
  const { body } = await send(server, `/api/recordings/${server.interview.recordingId}/tracks`, {
    ...{ format: 'srt', language: 'en', content }
  });
  const words = async (): Promise<string> =>
    (await ask(server, `/api/tracks/${body.track.id}`)).body.track.words
      .map((word: { text: string }) => word.text)
      .join(' ');
  const before = await words();
  await page.goto(`${server.url}/recordings/${server.interview.recordingId}/tracks/${body.track.id}/read`);
  await expect(page.getByTestId('page')).toContainText('the bell');
  await page.keyboard.press('/');
  await page.keyboard.type('the');
  await expect(page.getByTestId('hits')).toHaveText('2250 places in this track');
  // Only those in sight are drawn; the last is reached all the same.
  expect(await page.getByRole('list', { name: 'Places' }).getByRole('listitem').count()).toBeLessThan(40);
  await page.keyboard.press('Shift+Enter');
  await expect(page.getByText('2250 of 2250:')).toBeVisible();
  // By nothing: the words go.
  await page.getByRole('button', { name: 'Replace all (2250)' }).press('Enter');
  await expect(page.getByTestId('hits')).toHaveText('Not found in this track.');
  await saved(page);
  const shown = async (): Promise<string> => (await ask(server, `/api/tracks/${body.track.id}/export?format=txt`)).body;
  expect(await shown()).not.toMatch(/\bthe\b/);
  await page.keyboard.press('Escape');
  await page.getByTestId('page').press('Control+z');
  await expect.poll(words).toBe(before);
});

test('what changed since the draft is told with its errors, and a version is gone back to', async ({ page }) => {
  watchConsole(page);
  await page.goto(readUrl());
  await page.getByRole('tab', { name: 'Changes' }).press('Enter');
  await expect(page.getByTestId('draft-errors')).toContainText('of the words were wrong');
  await expect(page.getByRole('list', { name: 'Changes' })).toContainText('narrow be glad it');
  await checkAccessible(page);
  const before = await textNow();
  await page.getByLabel('Name of this version').fill('As it stands');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('From')).toContainText('As it stands');
  await page.getByRole('button', { name: 'Go back to “Draft”' }).press('Enter');
  await expect(page.getByTestId('page')).toContainText('narrow be glad it');
  await page.getByTestId('page').press('Control+z');
  await expect.poll(textNow).toBe(before);
});

test('a real draft is brought to what was spoken by keys alone', async ({ page }) => {
  watchConsole(page);
  const scripts = JSON.parse(readFileSync('demo/scripts.json', 'utf8'));
  // The beginning of the talk: as much as tells whether every kind of error can be put right.
  const reference: string = scripts.talk.parts
    .slice(0, 3)
    .map((part: { text: string }) => part.text)
    .join(' ');
  const { recordings } = (await ask(server, '/api/recordings')).body;
  const talk = recordings.find((one: { title: string }) => one.title === scripts.talk.title);
  const asked = await send(server, `/api/recordings/${talk.id}/transcriptions`, {
    ...{ engine: 'pocketsphinx-en-us', language: 'en', figures: false, fromMs: 0, toMs: 30_000 }
  });
  const { body } = await until(
    () => ask(server, `/api/jobs/${asked.body.job.id}`),
    (answer) => !['queued', 'running'].includes(answer.body.job.state as string)
  );
  const { trackId } = body.job.result;
  await page.goto(`${server.url}/recordings/${talk.id}/tracks/${trackId}/read`);
  const { keys, errors } = await correctByKeys(page, server, { trackId, reference });
  expect(errors).toBeGreaterThan(5);
  expect(keys).toBeGreaterThan(errors);
  const { words } = (await ask(server, `/api/tracks/${trackId}`)).body.track;
  expect(words.map((word: { text: string }) => word.text).join(' ')).toContain(
    'So something has to let it down slowly'
  );
});
