/** Recordings and tracks as things that are handled: brought in, found, grouped, renamed, put away and brought back. */
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import {
  ask,
  checkAccessible,
  newFolder,
  send,
  soundOf,
  startServer,
  until,
  upload,
  watchConsole,
  type Server
} from './support';

let server: Server;
test.beforeAll(async () => {
  server = await startServer();
});
test.afterAll(() => server.stop());

const SOUND = soundOf('0.4*sin(2*PI*220*t)', 3, 16_000);
const titles = async (page: Page): Promise<string[]> =>
  page.getByRole('row').evaluateAll((rows) => rows.map((row) => row.getAttribute('aria-label') ?? ''));
const listed = (page: Page, expected: readonly string[]): Promise<void> =>
  expect.poll(() => titles(page)).toEqual(expected);
const file = (name: string, bytes: Uint8Array): string => {
  const path = join(newFolder(), name);
  writeFileSync(path, bytes);
  return path;
};

test('files dropped together are a queue that survives a lost connection, a reload and another page', async ({
  page
}) => {
  watchConsole(page);
  const long = soundOf('0.3*sin(2*PI*330*t)', 8, 16_000);
  let cut: 'once' | 'always' | 'never' = 'once';
  let path = '';
  await page.route('**/api/uploads/*', async (route) => {
    const request = route.request();
    if (request.method() !== 'PATCH' || cut === 'never') return route.continue();
    // Half of it arrives before the connection is lost.
    const offset = Number(request.headers()['upload-offset']);
    path = new URL(request.url()).pathname;
    if (offset === 0)
      await ask(server, path, {
        method: 'PATCH',
        body: long.subarray(0, long.length / 2) as BodyInit,
        headers: { ...request.headers(), origin: server.url, 'content-length': String(long.length / 2) }
      });
    if (cut === 'once') cut = 'never';
    await route.abort('connectionreset');
  });
  await page.goto(server.url);
  const chooser = page.getByLabel('Recording', { exact: true });
  await chooser.setInputFiles([file('tower_bells.wav', long), file('no_sound.txt', Buffer.from('words'))]);
  await expect(page.getByRole('alert')).toContainText('no sound or video file');
  await listed(page, ['Tower bells']);
  await page.getByRole('button', { name: 'Dismiss' }).click();

  // A connection that stays away, and a page that is loaded anew meanwhile.
  cut = 'always';
  const second = file('going_train.wav', long);
  await chooser.setInputFiles(second);
  await expect(page.getByText('50 %, connection lost, trying again')).toBeVisible();
  page.once('dialog', (dialog) => void dialog.accept());
  await page.reload();
  await expect(page.getByText('Stopped at 50 %: choose the same file again to go on')).toBeVisible();
  await checkAccessible(page);
  cut = 'never';
  await chooser.setInputFiles(second);
  await listed(page, ['Going train', 'Tower bells']);
  const { recordings } = (await ask(server, '/api/recordings')).body;
  expect(path.endsWith(recordings[0].id as string)).toBe(true);
  const media = await fetch(`${server.url}/api/recordings/${recordings[0].id}/media`);
  expect(Buffer.from(await media.arrayBuffer()).equals(long)).toBe(true);

  // Given up, it is gone on the server as well.
  cut = 'always';
  await chooser.setInputFiles(file('pallets.wav', long.subarray(0, 100_000)));
  await expect(page.getByText(/connection lost, trying again/)).toBeVisible();
  cut = 'never';
  await page.getByRole('button', { name: 'Cancel' }).click();
  await until(
    () => fetch(`${server.url}${path}`, { method: 'HEAD', headers: { 'tus-resumable': '1.0.0' } }),
    ({ status }) => status === 404
  );
  for (const { id } of recordings) await ask(server, `/api/recordings/${id}?forever=1`, { method: 'DELETE' });
});

test('recordings are found, sorted, renamed, grouped, chosen and put away by keys and by the pointer', async ({
  page
}) => {
  watchConsole(page);
  const ids: string[] = [];
  for (const name of ['Winding day', 'Bell ringing', 'Oil and dust', 'Álva on ladders'])
    ids.push((await upload(server, `${name}.wav`, SOUND)).body.recording.id);
  await send(server, `/api/recordings/${ids[1]}/tracks`, {
    ...{ format: 'srt', language: 'it', content: '1\n00:00:00,200 --> 00:00:02,500\nLa campana grande suona.\n' }
  });
  await page.goto(server.url);
  await listed(page, ['Álva on ladders', 'Oil and dust', 'Bell ringing', 'Winding day']);
  await expect(page.getByRole('row', { name: 'Winding day' })).toContainText('Not heard yet');
  await expect(page.getByRole('row', { name: 'Bell ringing' })).toContainText('Draft, nothing corrected yet');
  await checkAccessible(page);

  // Found by what is spoken, by title without its accent, by language; sorted.
  const find = page.getByLabel('Find by title or spoken words');
  await find.fill('campana');
  await listed(page, ['Bell ringing']);
  await expect(page.getByRole('row')).toContainText('La campana grande suona.');
  await find.fill('alva');
  await listed(page, ['Álva on ladders']);
  await find.fill('zebra');
  await expect(page.getByText('No recording fits')).toBeVisible();
  await page.getByRole('button', { name: 'Show all recordings' }).click();
  await page.getByLabel('Language').selectOption({ label: 'Italian' });
  await listed(page, ['Bell ringing']);
  await page.getByRole('button', { name: 'Show all' }).click();
  await page.getByLabel('Sort by').selectOption({ label: 'Title' });
  await listed(page, ['Álva on ladders', 'Bell ringing', 'Oil and dust', 'Winding day']);

  // By keys: go, rename, choose a range, group it.
  await page.getByRole('grid').focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('F2');
  await page.keyboard.type('Ringing the changes');
  await page.keyboard.press('Enter');
  await listed(page, ['Álva on ladders', 'Oil and dust', 'Ringing the changes', 'Winding day']);
  await page.getByRole('button', { name: 'Undo' }).click();
  await listed(page, ['Álva on ladders', 'Bell ringing', 'Oil and dust', 'Winding day']);
  await page.keyboard.press('Space');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByText('2 chosen', { exact: true })).toBeVisible();
  await checkAccessible(page);
  await page.getByLabel('Move to project').selectOption({ label: 'New project…' });
  await page.getByPlaceholder('Name of a new project').fill('The tower');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Name of the project The tower')).toBeVisible();
  await checkAccessible(page);
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByLabel('Move to project').selectOption({ label: 'The tower' });
  await expect(page.getByText('2 recordings in “The tower”.')).toBeVisible();
  await expect(page.getByRole('row', { name: 'Bell ringing' })).toContainText('The tower');
  await page.getByRole('button', { name: 'Let go (Esc)' }).click();
  await page.getByLabel('Project').selectOption({ label: 'The tower (2)' });
  await listed(page, ['Bell ringing', 'Oil and dust']);
  await page.getByRole('button', { name: 'Show all' }).click();

  // By the pointer, as in any list; into the bin and back.
  const row = (name: string) =>
    page
      .getByRole('row', { name })
      .getByText(/3|Not heard|Draft/)
      .first();
  await row('Winding day').click();
  await expect(page.getByText('1 chosen', { exact: true })).toBeVisible();
  await row('Álva').click({ modifiers: ['Control'] });
  await expect(page.getByText('2 chosen', { exact: true })).toBeVisible();
  await page.keyboard.press('Delete');
  await listed(page, ['Bell ringing', 'Oil and dust']);
  await expect(page.getByText('2 are in the bin.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await listed(page, ['Álva on ladders', 'Bell ringing', 'Oil and dust', 'Winding day']);
  await page.keyboard.press('Control+a');
  await expect(page.getByText('4 chosen', { exact: true })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(find).toBeVisible();
  await page.keyboard.press('/');
  await expect(find).toBeFocused();
  // The list stands as it was left.
  await page.getByLabel('Sort by').selectOption({ label: 'Newest' });
  await find.fill('dust');
  await listed(page, ['Oil and dust']);
  await page.getByRole('grid').focus();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/hear$/);
  await page.goBack();
  await listed(page, ['Oil and dust']);
  await expect(find).toHaveValue('dust');
});

test('tracks are duplicated, marked ready, put in the bin and brought back', async ({ page }) => {
  watchConsole(page);
  const { id } = (await upload(server, 'Night watch.wav', SOUND)).body.recording;
  await send(server, `/api/recordings/${id}/tracks`, {
    ...{ format: 'srt', language: 'en', content: '1\n00:00:00,200 --> 00:00:02,500\nAll is well.\n' }
  });
  await page.goto(`${server.url}/recordings/${id}/hear`);
  await page.getByRole('button', { name: 'Duplicate English captions' }).click();
  await expect(page.getByRole('link', { name: 'English captions, Copy' })).toBeVisible();
  await page.getByLabel('Name of English captions, Copy').fill('For children');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'English captions, For children' })).toBeVisible();
  await page.getByLabel('State of English captions', { exact: true }).selectOption({ label: 'Ready' });
  await page.getByRole('button', { name: 'Put English captions, For children in the bin' }).click();
  await expect(page.getByText('In the bin (1)')).toBeVisible();
  await page.getByText('In the bin (1)').click();
  await checkAccessible(page);
  await page.goto(server.url);
  await expect(page.getByRole('row', { name: 'Night watch' })).toContainText('Ready');
  // A window that has it open still says where it is, and keeps what is done there.
  const { tracks } = (await ask(server, `/api/recordings/${id}/tracks?bin=1`)).body;
  await page.goto(`${server.url}/recordings/${id}/tracks/${tracks[0].id}/read`);
  await expect(page.getByText('This track is in the bin.')).toBeVisible();
  await checkAccessible(page);
  await page.goto(`${server.url}/recordings/${id}/hear`);
  await page.getByText('In the bin (1)').click();
  await page.getByRole('button', { name: 'Bring back' }).click();
  await expect(page.getByRole('link', { name: 'English captions, For children' })).toBeVisible();
  await page.goto(server.url);
  // The doubts were counted when it was read.
  await expect(page.getByRole('row', { name: 'Night watch' })).toContainText('No doubts, no findings');
});
