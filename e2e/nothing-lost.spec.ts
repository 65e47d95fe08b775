/** What is acknowledged stays, what is not is sent, nothing is doubled: kills, closed browsers, two windows. */
import { expect, test, type BrowserContext, type Page } from '@playwright/test';
import { ask, media, restart, saved, send, startServer, upload, watchConsole, type Server } from './support';

const SRT = '1\n00:00:00,500 --> 00:00:02,000\nGood morning\n\n2\n00:00:02,500 --> 00:00:04,000\nMind the last step\n';

let server: Server;
let recordingId: string;
test.beforeEach(async () => {
  server = await startServer();
  const wav = media('wav', ['-f', 'lavfi', '-i', 'sine=300:duration=5', '-ar', '16000']);
  recordingId = (await upload(server, 'step.wav', wav)).body.recording.id;
});
test.afterEach(() => server.stop());

const newTrack = async (): Promise<string> =>
  (await send(server, `/api/recordings/${recordingId}/tracks`, { format: 'srt', language: 'en', content: SRT })).body
    .track.id;
const linesOf = async (id: string): Promise<string[]> =>
  (await ask(server, `/api/tracks/${id}`)).body.track.cues.map((cue: { lines: string[] }) => cue.lines.join(' '));

async function open(page: Page, trackId: string): Promise<void> {
  watchConsole(page);
  // What draws the captions has come, so that a killed server breaks off nothing but edits.
  const drawn = page.waitForEvent('requestfinished', (request) => request.url().endsWith('.wasm'));
  await page.goto(`${server.url}/recordings/${recordingId}/tracks/${trackId}/time`);
  await drawn;
  await expect(page.getByTestId('cue-text')).toHaveValue('Good morning');
}
async function write(page: Page, text: string): Promise<void> {
  await page.getByTestId('cue-text').fill(text);
  await page.keyboard.press('Escape');
}

test('a server killed between commit and answer: the edit is there once, and undo works', async ({ page }) => {
  const id = await newTrack();
  await open(page, id);
  let killed = false;
  await page.route('**/edits', async (route) => {
    if (killed || route.request().method() !== 'POST') return route.continue();
    killed = true;
    // The server has it; the answer never arrives.
    await route.fetch();
    await server.stop('SIGKILL');
    await route.abort('connectionfailed');
  });
  await page.keyboard.press('s');
  await expect(page.getByTestId('save-state')).toHaveText('Not sent: kept here');
  await expect(page.getByRole('heading', { name: 'Cue 2 of 3' })).toBeVisible();
  server = await restart(server);
  await saved(page);
  expect(await linesOf(id)).toEqual(['Good', 'morning', 'Mind the last step']);
  expect((await ask(server, `/api/tracks/${id}`)).body.track.revision).toBe(1);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('heading', { name: /of 2$/ })).toBeVisible();
  expect(await linesOf(id)).toEqual(['Good morning', 'Mind the last step']);
});

test('what was typed while the server was away is sent by the next window that opens the track', async ({
  browser
}) => {
  const id = await newTrack();
  const context = await browser.newContext();
  const first = await context.newPage();
  await open(first, id);
  await server.stop('SIGKILL');
  await write(first, 'Good evening');
  await expect(first.getByTestId('save-state')).toHaveText('Not sent: kept here');
  await first.close();
  server = await restart(server);
  const second = await context.newPage();
  await second.goto(`${server.url}/recordings/${recordingId}/tracks/${id}/time`);
  await expect(second.getByTestId('cue-text')).toHaveValue('Good evening');
  await saved(second);
  expect(await linesOf(id)).toEqual(['Good evening', 'Mind the last step']);
  await context.close();
});

test('two windows edit one track: each sees the other’s work, one queue sends it all, the leader may close', async ({
  browser
}) => {
  const id = await newTrack();
  const context: BrowserContext = await browser.newContext();
  const [first, second] = [await context.newPage(), await context.newPage()];
  await open(first, id);
  await open(second, id);
  await write(first, 'Good day');
  await expect(second.getByTestId('cue-text')).toHaveValue('Good day');
  await second.keyboard.press('ArrowRight');
  await write(second, 'Mind the first step');
  await saved(second);
  await first.keyboard.press('ArrowRight');
  await expect(first.getByTestId('cue-text')).toHaveValue('Mind the first step');
  await first.close();
  await second.keyboard.press('ArrowLeft');
  await write(second, 'Good night');
  await saved(second);
  expect(await linesOf(id)).toEqual(['Good night', 'Mind the first step']);
  expect((await ask(server, `/api/tracks/${id}`)).body.track.revision).toBe(3);
  await context.close();
});

test('edits of two browsers meet by id; one whose target is gone is kept in a list with its text', async ({
  browser
}) => {
  const id = await newTrack();
  const [one, other] = [await browser.newContext(), await browser.newContext()];
  const here = await one.newPage();
  const there = await other.newPage();
  await open(here, id);
  await open(there, id);
  // This browser is cut off; what it does waits.
  await here.route('**/api/**', (route) => route.abort('connectionfailed'));
  await write(here, 'Good afternoon');
  await here.keyboard.press('ArrowRight');
  await write(here, 'Mind every step');
  await expect(here.getByTestId('save-state')).toHaveText('Not sent: kept here');
  // Meanwhile the other one deletes the first cue.
  await there.keyboard.press('Delete');
  await saved(there);
  await here.unroute('**/api/**');
  await expect(here.getByRole('button', { name: '1 not applied' })).toBeVisible();
  await saved(here);
  expect(await linesOf(id)).toEqual(['Mind every step']);
  await here.getByRole('button', { name: '1 not applied' }).click();
  await expect(here.getByLabel('What could not be applied')).toContainText('Good afternoon');
  await expect(there.getByTestId('cue-text')).toHaveValue('Mind every step');
  await here.reload();
  await here.getByRole('button', { name: '1 not applied' }).click();
  await here.getByRole('button', { name: 'Dismiss' }).click();
  await expect(here.getByRole('button', { name: /not applied/ })).toHaveCount(0);
  await Promise.all([one.close(), other.close()]);
});

test('text that is being typed survives the window, wherever it is typed, and goes in before whatever comes next', async ({
  page
}) => {
  const id = await newTrack();
  await open(page, id);
  // On the cue card, gone in the middle of a word.
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Good ev');
  await page.reload();
  await expect(page.getByTestId('cue-text')).toHaveValue('Good ev');
  await saved(page);
  expect(await linesOf(id)).toEqual(['Good ev', 'Mind the last step']);

  // On the page: a visit to the cue beside it leaves its text alive, and undo takes back what was typed last.
  await page.goto(`${server.url}/recordings/${recordingId}/tracks/${id}/read`);
  await page.getByRole('tab', { name: 'Cue' }).click();
  await page.getByRole('tab', { name: 'Doubts' }).click();
  await page.getByTestId('page').click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type(' here');
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('page')).not.toContainText('here');
  await saved(page);
  expect(await linesOf(id)).toEqual(['Good ev', 'Mind the last step']);
  await page.getByTestId('page').click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type(' of all');
  await page.reload();
  await expect(page.getByTestId('page')).toContainText('step of all');
  await saved(page);
  expect((await linesOf(id)).join(' ')).toContain('Mind the last step of all');
});

test('a key that is held while the window loses it times nothing', async ({ page }) => {
  const id = await newTrack();
  await open(page, id);
  const before = (await ask(server, `/api/tracks/${id}`)).body.track;
  await page.keyboard.press('Space');
  await page.keyboard.down('z');
  await page.waitForFunction(() => document.querySelector<HTMLMediaElement>('video, audio')!.currentTime > 0.6);
  await page.evaluate(() => window.dispatchEvent(new Event('blur')));
  await page.keyboard.up('z');
  await expect(page.getByText('The window lost the key: nothing was timed.').first()).toBeAttached();
  expect((await ask(server, `/api/tracks/${id}`)).body.track).toEqual(before);
});

test('a server that asks for its passphrase again, a browser that keeps nothing: both are said, and nothing is lost', async ({
  page
}) => {
  const id = await newTrack();
  await open(page, id);
  await page.route('**/edits', (route) =>
    route.request().method() === 'POST'
      ? route.fulfill({ status: 401, json: { error: { code: 'passphrase_needed', message: 'Enter the passphrase.' } } })
      : route.continue()
  );
  await write(page, 'Good night');
  await expect(page.getByTestId('save-state')).toHaveText('Not signed in');
  await expect(page.getByRole('link', { name: 'Sign in again' })).toBeVisible();
  await page.unroute('**/edits');
  await page.evaluate(() => window.dispatchEvent(new Event('focus')));
  await saved(page);
  expect((await linesOf(id))[0]).toBe('Good night');

  await page.addInitScript(() => {
    IDBObjectStore.prototype.add = () => {
      throw new DOMException('no room', 'QuotaExceededError');
    };
  });
  await page.goto(`${server.url}/recordings/${recordingId}/tracks/${id}/time`);
  await write(page, 'Good day');
  await expect(page.getByRole('alert')).toContainText('Leave the window open');
  await saved(page);
  expect((await linesOf(id))[0]).toBe('Good day');
});

test('names and scripts that were typed and not sent yet are there again after a reload', async ({ page }) => {
  watchConsole(page);
  await page.goto(`${server.url}/recordings/${recordingId}/hear`);
  await page.getByText('Change', { exact: true }).click();
  const names = page.getByLabel('In this recording');
  await names.fill('Merrowby\nIne');
  await page.reload();
  await expect(names).toHaveValue('Merrowby\nIne');
  await page.getByText('Change', { exact: true }).click();
  await names.fill('Merrowby\nInes Calder');
  await names.blur();
  await expect
    .poll(async () => (await ask(server, `/api/recordings/${recordingId}/vocabulary`)).body.terms.length)
    .toBe(2);
  await page.reload();
  await expect(names).toHaveValue('Merrowby\nInes Calder');
});

test('a time, a sound, a search and a name that are being typed when the window goes are there in the next', async ({
  page
}) => {
  const id = await newTrack();
  await open(page, id);
  await page.getByTestId('cue-out').fill('0:01.800');
  await page.reload();
  await expect(page.getByTestId('cue-out')).toHaveValue('0:01.800');
  await saved(page);

  await page.goto(`${server.url}/recordings/${recordingId}/tracks/${id}/read`);
  await page.getByTestId('save-state').waitFor();
  await page.keyboard.press('t');
  await page.getByRole('combobox', { name: /^Sound at/ }).fill('door slams');
  await page.reload();
  await saved(page);
  await expect.poll(() => linesOf(id)).toContainEqual(expect.stringContaining('[door slams]'));

  await page.keyboard.press('/');
  const find = page.getByRole('textbox', { name: 'Find' });
  await find.fill('step');
  await page.getByLabel('Replace with').fill('stair');
  await page.reload();
  await expect(find).toHaveValue('step');
  await expect(page.getByLabel('Replace with')).toHaveValue('stair');
});
