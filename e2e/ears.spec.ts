/** Speech models of the user's own: put into a folder, described, and heard with. */
import { cpSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { expect, test } from '@playwright/test';
import { ask, checkAccessible, HEARING_MS, newFolder, startServer, upload, watchConsole, type Server } from './support';

let server: Server;
let models: string;
test.beforeAll(async () => {
  models = newFolder();
  server = await startServer(newFolder(), { VINETAP_MODELS: models });
});
test.afterAll(() => server.stop());

test('a model is put into the folder, called by its name, and hears what was said', async ({ page }) => {
  watchConsole(page);
  await page.goto(`${server.url}/ears`);
  await expect(page.getByText('There is none yet')).toContainText(models);
  await checkAccessible(page);

  cpSync(resolve('demo/models/tower-words'), join(models, 'tower'), { recursive: true });
  mkdirSync(join(models, 'broken'));
  writeFileSync(join(models, 'broken', 'model.onnx'), 'rubbish');
  await page.getByRole('button', { name: 'Look again' }).click();
  const row = page.getByTestId('ears').getByRole('listitem');
  await expect(row.filter({ hasText: 'broken' })).toContainText('cannot be used');
  await expect(row.filter({ hasText: 'broken' })).toContainText(/no ONNX file|cut short/);
  await expect(row.filter({ hasText: 'Sixteen words' })).toContainText('ready, loads in');
  await page.getByRole('button', { name: 'Name and languages of Sixteen words of the tower' }).click();
  await expect(page.getByLabel('Name', { exact: true })).toBeFocused();
  await checkAccessible(page);
  await page.keyboard.press('ControlOrMeta+A');
  await page.keyboard.insertText('The tower’s own');
  await page.keyboard.press('Enter');
  await expect(row.filter({ hasText: 'The tower’s own' })).toContainText('ready, loads in');

  const sound = readFileSync(resolve('demo/media/sixteen-words.mp3'));
  const { id } = (await upload(server, 'words.mp3', sound)).body.recording;
  await page.goto(`${server.url}/recordings/${id}/hear`);
  await page.getByRole('radio', { name: /The tower’s own/ }).check();
  await expect(page.getByRole('radio', { name: /broken/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Hear it' }).click();
  await expect(page.getByRole('link', { name: 'Read it' })).toBeVisible({ timeout: HEARING_MS });
  const { tracks } = (await ask(server, `/api/recordings/${id}`)).body.recording;
  const text = (await ask(server, `/api/tracks/${tracks[0].id}/export?format=txt`)).body as string;
  expect(text).toContain('The clock stops.');
  expect(text).toContain('The rope turns the wheel.');
});
