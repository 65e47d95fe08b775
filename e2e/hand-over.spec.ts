import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { ask, checkAccessible, send, startDemo, watchConsole } from './support';

type Demo = Awaited<ReturnType<typeof startDemo>>;
let server: Demo;
let url: string;
let recordingId: string;
test.beforeAll(async () => {
  server = await startDemo();
  const { recordings } = (await ask(server, '/api/recordings')).body as {
    recordings: { id: string; title: string; tracks: { id: string }[] }[];
  };
  const { id, tracks } = recordings.find(({ title }) => title.startsWith('Winding'))!;
  recordingId = id;
  url = `${server.url}/recordings/${id}/tracks/${tracks[0]!.id}/hand-over`;
});
test.afterAll(() => server.stop());

test('a file is said as its options have it, in the format that the arrows come to', async ({ page }) => {
  watchConsole(page);
  await page.goto(url);
  await page.getByRole('radio', { checked: true }).focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByTestId('file-name')).toHaveText('winding-the-merrowby-clock.en.srt');
  const preview = page.getByTestId('preview');
  await expect(preview).toContainText('1\n00:00:01,036 --> ');
  await page.getByLabel('Moved by').fill('10');
  await page.keyboard.press('Tab');
  await expect(preview).toContainText('1\n00:00:11,036 --> ');
  await page.getByLabel('Windows line ends').check();
  const waiting = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download' }).click();
  const text = readFileSync(await (await waiting).path(), 'utf8');
  expect(text).toMatch(/^1\r\n00:00:11,036 --> /);
  await page.locator('#format-ttml').click();
  await expect(preview).toContainText('<p xml:id="c1" begin="00:00:01.036"');
  // What was said with a format is there again.
  await page.locator('#format-srt').click();
  await expect(page.getByLabel('Moved by')).toHaveValue('10');
  await checkAccessible(page);
});

test('a bundle is handed over for a destination, which is kept for the next recording', async ({ page }) => {
  watchConsole(page);
  await page.goto(url);
  await page.getByRole('tab', { name: 'Bundle' }).click();
  const names = page.getByTestId('bundle-names').getByRole('listitem');
  await page.getByTestId('destination').selectOption('A streaming service');
  await expect(names).toHaveText(['winding-the-merrowby-clock.en.ttml']);
  await expect(page.getByText('asks for the sheet “Broadcast”')).toBeVisible();
  await page.getByLabel('SRT').check();
  const pattern = page.getByLabel('Pattern');
  await pattern.fill('{titel}');
  await expect(page.getByRole('button', { name: 'Download as ZIP' })).toBeDisabled();
  await pattern.fill('{title} ({language})');
  await page.getByLabel('small letters and hyphens').uncheck();
  await page.getByLabel('Languages as').selectOption('eng');
  await expect(names).toHaveText(['Winding the Merrowby clock (eng).ttml', 'Winding the Merrowby clock (eng).srt']);
  await page.getByPlaceholder('Name').fill('The museum');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('destination')).toHaveValue('The museum');
  await checkAccessible(page);

  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download as ZIP' }).click();
  const file = await waiting;
  expect(file.suggestedFilename()).toBe('winding-the-merrowby-clock.zip');
  const read =
    'import sys, zipfile; z = zipfile.ZipFile(sys.argv[1]); print(z.testzip()); print("\\n".join(z.namelist()))';
  const listed = execFileSync('python3', ['-c', read, await file.path()], { encoding: 'utf8' });
  expect(listed.trim().split('\n')).toEqual([
    ...['None', 'Winding the Merrowby clock (eng).ttml', 'Winding the Merrowby clock (eng).srt', 'contents.csv']
  ]);
  await expect(page.getByText('2 files handed over.')).toBeVisible();

  // As last time, by one key, from anywhere in the place.
  await page.reload();
  await expect(page.getByRole('region', { name: 'Files to hand over' })).toBeFocused();
  const again = page.waitForEvent('download');
  await page.keyboard.press('Shift+H');
  expect((await again).suggestedFilename()).toBe('winding-the-merrowby-clock.zip');
  await expect(page.getByText('2 files handed over for “The museum”.')).toBeVisible();
  await page.getByRole('tab', { name: 'Bundle' }).click();
  await expect(page.getByTestId('destination')).toHaveValue('The museum');
  await expect(names).toHaveText(['Winding the Merrowby clock (eng).ttml', 'Winding the Merrowby clock (eng).srt']);
  await page.getByRole('button', { name: 'Delete' }).click();
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await expect(page.getByTestId('destination')).toHaveValue('The museum');
});

test('chosen recordings are handed over together from their list', async ({ page }) => {
  watchConsole(page);
  await page.goto(server.url);
  await page.getByRole('grid').focus();
  await page.keyboard.press('Control+a');
  await expect(page.getByText('2 chosen')).toBeVisible();
  await page.keyboard.press('b');
  await page.getByTestId('bundle-destination').selectOption('Whoever asks');
  const talk = ['en', 'ca', 'es'].map((language) => `how-a-tower-clock-keeps-time.${language}`);
  await expect(page.getByTestId('bundle-all-names').getByRole('listitem')).toHaveText(
    [...talk, 'winding-the-merrowby-clock.en'].flatMap((name) => [`${name}.srt`, `${name}.vtt`, `${name}.pdf`])
  );
  await checkAccessible(page);
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download as ZIP' }).click();
  await waiting;
  await expect(page.getByText('12 files handed over.')).toBeVisible();
  await expect(page.getByRole('row', { name: /Winding/ })).toContainText('Handed over, version 1');
});

test('captions go inside the video, in two languages, nothing encoded anew', async ({ page }) => {
  watchConsole(page);
  await send(server, `/api/recordings/${recordingId}/tracks`, {
    ...{
      format: 'srt',
      language: 'de',
      content: '1\n00:00:01,000 --> 00:00:04,000\nWir stehen hinter dem Zifferblatt.\n'
    }
  });
  await page.goto(url);
  await page.getByRole('tab', { name: 'Video' }).click();
  await page.getByRole('combobox', { name: 'Captions' }).selectOption('inside');
  await page.getByRole('checkbox', { name: 'German', exact: true }).check();
  await page.getByRole('checkbox', { name: 'German: Shown first' }).check();
  await checkAccessible(page);
  await page.getByRole('button', { name: 'Render' }).click();
  const waiting = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save' }).click();
  const file = await waiting;
  expect(file.suggestedFilename()).toBe('winding-the-merrowby-clock.captions.mp4');
  const probed = execFileSync(
    'ffprobe',
    [
      '-v',
      'error',
      '-show_entries',
      'stream=codec_name:stream_tags=language:disposition=default',
      '-of',
      'compact',
      await file.path()
    ],
    { encoding: 'utf8' }
  );
  const streams = probed.trim().split('\n');
  expect(streams.map((line) => /codec_name=(\w+)/.exec(line)?.[1])).toEqual(['h264', 'aac', 'mov_text', 'mov_text']);
  expect(streams[2]).toMatch(/default=0.*language=eng/);
  expect(streams[3]).toMatch(/default=1.*language=deu/);
});
