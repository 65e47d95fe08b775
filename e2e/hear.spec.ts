/** Hearing with what is known before, watching it, and hearing a passage again. */
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import {
  ask,
  checkAccessible,
  HEARING_MS,
  saved,
  type Server,
  speech,
  startServer,
  upload,
  watchConsole
} from './support';

let server: Server;
test.beforeAll(async () => {
  server = await startServer();
});
test.afterAll(() => server.stop());

const SENTENCES = [
  'The keeper climbs one hundred and twelve steps.',
  'First he cleans the pivots of the going train.',
  'Then he adds one small drop of oil.',
  'How many people still set their watches by it?'
];

test('a script is fitted to the letter; a passage of it is heard again, taken by a key and taken back', async ({
  page
}) => {
  watchConsole(page);
  const { body } = await upload(server, 'steps.wav', speech(SENTENCES));
  await page.goto(`${server.url}/recordings/${body.recording.id}/hear`);
  await page.getByRole('radio', { name: /script you have/ }).check();
  await page
    .getByRole('textbox', { name: /The script/ })
    .fill(`${SENTENCES.join(' ')} And that is all there is to say.`);
  await checkAccessible(page);
  await page.getByRole('button', { name: 'Fit it' }).click();
  await page.getByRole('link', { name: 'Read it' }).click({ timeout: HEARING_MS });
  const text = page.getByTestId('page');
  await expect(text).toContainText(SENTENCES.join(' '));
  await expect
    .poll(() => page.evaluate(() => CSS.highlights.get('page-left-out')?.size ?? 0), {
      message: 'words that nobody speaks are struck through'
    })
    .toBeGreaterThan(3);

  await page.locator('[data-surface]').first().focus();
  for (let word = 0; word < 3; word++) await page.keyboard.press('f');
  await page.keyboard.press('h');
  const readings = page.getByRole('list', { name: 'Readings, best first' }).getByRole('button');
  await expect(readings.nth(1)).toBeVisible({ timeout: HEARING_MS });
  await checkAccessible(page);
  const second = (await readings.nth(1).locator('span').first().textContent())!;
  await page.keyboard.press('2');
  await expect(page.getByRole('list', { name: 'Readings, best first' })).toBeHidden();
  await expect(text).not.toContainText(SENTENCES[0]!);
  await expect(text).toContainText(second);
  await saved(page);
  await page.keyboard.press('Control+z');
  await expect(text).toContainText(SENTENCES[0]!);
});

test('words are read while the rest is heard; stopping keeps them; a part is chosen on the waveform', async ({
  page
}) => {
  watchConsole(page);
  const { body } = await upload(server, 'long.wav', speech([...SENTENCES, ...SENTENCES, ...SENTENCES, ...SENTENCES]));
  const id = body.recording.id as string;
  await page.goto(`${server.url}/recordings/${id}/hear`);
  await page.getByRole('button', { name: 'Hear it' }).click();
  await expect(page.getByRole('region', { name: 'Heard so far' })).toContainText('steps', { timeout: HEARING_MS });
  await page.getByRole('button', { name: 'Stop, and keep what is heard' }).click();
  await page.getByRole('link', { name: 'Read what was heard' }).click();
  await expect(page.getByTestId('page')).toContainText('steps');

  await page.goto(`${server.url}/recordings/${id}/hear`);
  await page.getByRole('combobox', { name: 'Language spoken' }).selectOption('zu');
  await expect(page.getByText('Zulu is not heard here.')).toBeVisible();
  const wave = (await page.locator('canvas').boundingBox())!;
  await page.mouse.move(wave.x + wave.width * 0.25, wave.y + 20);
  await page.mouse.down();
  await page.mouse.move(wave.x + wave.width * 0.5, wave.y + 20, { steps: 4 });
  await page.mouse.up();
  const from = await page.getByRole('textbox', { name: 'From' }).inputValue();
  expect(from).not.toBe('0:00.0');
  await page.getByRole('button', { name: 'Time it' }).click();
  await expect(page.getByRole('link', { name: 'Type into them' })).toBeVisible({ timeout: HEARING_MS });
  const { tracks } = (await ask(server, `/api/recordings/${id}`)).body.recording;
  const zulu = tracks.find((track: { language: string }) => track.language === 'zu');
  const { cues } = (await ask(server, `/api/tracks/${zulu.id}`)).body.track;
  const [startMs, endMs] = [body.recording.durationMs * 0.25, body.recording.durationMs * 0.5];
  expect(cues.length).toBeGreaterThan(1);
  for (const cue of cues) {
    expect(cue.startMs).toBeGreaterThan(startMs - 500);
    expect(cue.endMs).toBeLessThan(endMs + 1500);
  }
});

test('names are found in notes; two voices are told apart, named once and everywhere, and made one again', async ({
  page
}) => {
  watchConsole(page);
  const parts = ['slt', 'rms', 'slt', 'rms'].map((voice, at) => {
    const path = join(server.folder, `turn-${at}.wav`);
    writeFileSync(path, speech([SENTENCES[at]!], voice));
    return path;
  });
  const whole = join(server.folder, 'dialogue.wav');
  execFileSync('sox', [...parts, whole]);
  const { body } = await upload(server, 'dialogue.wav', readFileSync(whole));
  await page.goto(`${server.url}/recordings/${body.recording.id}/hear`);
  await page.getByText('Change', { exact: true }).click();
  await page.getByText('Find names in notes').click();
  await page
    .getByRole('textbox', { name: /Notes, a programme/ })
    .fill('Tonight Tobin Ashe of Merrowby talks.\nTobin Ashe, keeper');
  await page.getByRole('button', { name: 'Find names' }).click();
  await page.getByRole('checkbox', { name: /Tobin Ashe of Merrowby/ }).check();
  await page.getByRole('button', { name: 'Expect 1 of them in this recording' }).click();
  await expect(page.getByRole('textbox', { name: 'In this recording' })).toHaveValue('Tobin Ashe of Merrowby');

  await page.getByRole('combobox', { name: 'Speakers', exact: true }).selectOption('2');
  await page.getByRole('button', { name: 'Hear it' }).click();
  await page.getByRole('link', { name: 'Read it' }).click({ timeout: HEARING_MS });
  await page.getByRole('tab', { name: 'Outline' }).click();
  await page.getByRole('textbox', { name: 'Name of Speaker 2' }).fill('Tobin');
  await page.keyboard.press('Enter');
  const paragraphs = page.getByTestId('page').locator('p');
  await expect(page.getByTestId('page').locator('p[data-speaker="Tobin"]')).toHaveCount(2);
  await checkAccessible(page);
  await page.getByRole('button', { name: 'Listen to Tobin' }).click();
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await page.getByRole('button', { name: 'Pause' }).click();
  await page.getByRole('combobox', { name: 'Tobin is the same as' }).selectOption('Speaker 1');
  await expect(page.getByTestId('page').locator('p[data-speaker="Tobin"]')).toHaveCount(0);
  await expect(paragraphs.first()).toHaveAttribute('data-speaker', 'Speaker 1');
});
