/** A queue of recordings, a service that bills, a draft that is corrected while it grows, and a new hearing of it. */
import { expect, test } from '@playwright/test';
import {
  ask,
  checkAccessible,
  HEARING_MS,
  newFolder,
  saved,
  send,
  type Server,
  type Service,
  soundOf,
  speech,
  startServer,
  startService,
  upload,
  watchConsole
} from './support';

let service: Service;
let server: Server;
test.beforeAll(async () => {
  service = await startService(newFolder());
  server = await startServer(newFolder(), { VINETAP_METERED_URL: service.url });
});
test.afterAll(async () => {
  await server.stop();
  await service.stop();
});

const SENTENCES = [
  'Good morning and welcome to the tower.',
  'My grandfather kept this clock running for forty years.',
  'All night long the heavy weight wants to fall.',
  'Thank you for coming to the museum tonight.'
];

test('several recordings are heard one after the other with the same settings', async ({ page }) => {
  watchConsole(page);
  for (const [at, text] of SENTENCES.slice(0, 2).entries()) await upload(server, `part-${at + 1}.wav`, speech([text]));
  await page.goto(server.url);
  await page.getByRole('button', { name: 'Hear the 2 that are not heard yet…' }).click();
  await checkAccessible(page);
  await page.getByRole('button', { name: 'Hear them, one after the other' }).click();
  await expect(page.getByText('2 are being heard or wait')).toBeVisible();
  await expect(page.getByRole('link', { name: 'English captions' })).toHaveCount(2, { timeout: HEARING_MS });
  await expect(page.getByText(/being heard or wait/)).toBeHidden();
});

test('the price is said and agreed to before the sound is sent; a new hearing is taken passage by passage', async ({
  page
}) => {
  watchConsole(page);
  const { body } = await upload(server, 'talk.wav', speech(SENTENCES));
  const id = body.recording.id as string;
  await page.goto(`${server.url}/recordings/${id}/hear`);
  await expect(page.getByText('On this machine: the sound goes nowhere')).toBeVisible();
  await page.getByRole('radio', { name: /Voice Bureau/ }).check();
  await expect(page.getByText('1 started minute: €0.18. Balance now €20.00, after it €19.82.')).toBeVisible();
  await page.getByRole('button', { name: 'Hear it, for €0.18…' }).click();
  const asking = page.getByRole('dialog', { name: 'Send the sound and spend €0.18?' });
  await checkAccessible(page);
  await asking.getByRole('button', { name: 'Not now' }).click();
  await expect(asking).toBeHidden();
  await page.getByRole('button', { name: 'Hear it, for €0.18…' }).click();
  await asking.getByRole('button', { name: 'Send it and spend €0.18' }).click();
  // A new price that is long in coming moves nothing under the pointer: the old one stands.
  let answerPrices: () => void = () => undefined;
  const mayAnswer = new Promise<void>((resolve) => (answerPrices = resolve));
  await page.route('**/quote?*', async (route) => {
    await mayAnswer;
    await route.continue();
  });
  await expect(page.getByRole('link', { name: 'Read it' })).toBeVisible({ timeout: HEARING_MS });
  await expect(page.getByRole('button', { name: 'Hear it again, for €0.18…' })).toBeVisible();
  answerPrices();
  await page.getByRole('link', { name: 'Read it' }).click();
  const text = page.getByTestId('page');
  await expect(text).toContainText('museum tonight.');

  const { tracks } = (await ask(server, `/api/recordings/${id}`)).body.recording;
  const { track } = (await ask(server, `/api/tracks/${tracks[0].id}`)).body;
  const word = track.words.find((one: { text: string }) => one.text === 'museum');
  const edits = [{ type: 'setWordText', wordId: word.id, text: 'gallery' }];
  await send(server, `/api/tracks/${track.id}/edits`, { revision: track.revision, edits });
  await expect(text).toContainText('gallery');
  await page.goto(`${server.url}/recordings/${id}/hear`);
  await page.getByText('Change', { exact: true }).click();
  await page.getByLabel('It becomes').selectOption(track.id);
  await page.getByRole('button', { name: 'Hear it again' }).click();
  await page.getByRole('link', { name: 'See where it differs' }).click({ timeout: HEARING_MS });
  const proposal = page.getByRole('region', { name: /The new hearing differs in/ });
  await expect(proposal).toContainText('corrected by hand');
  await checkAccessible(page);
  await proposal.focus();
  await page.keyboard.press('t');
  await expect(text).toContainText('museum tonight.');
  await saved(page);
  await page.keyboard.press('Control+z');
  await expect(text).toContainText('gallery tonight.');
});

test('what is heard is corrected while the rest is heard', async ({ page }) => {
  watchConsole(page);
  const { body } = await upload(server, 'long.wav', speech([...SENTENCES, ...SENTENCES, ...SENTENCES, ...SENTENCES]));
  await page.goto(`${server.url}/recordings/${body.recording.id}/hear`);
  await page.getByRole('button', { name: 'Hear it' }).click();
  await page.getByRole('button', { name: 'Correct what is there' }).click({ timeout: HEARING_MS });
  const text = page.getByTestId('page');
  await expect(text).toContainText('welcome', { timeout: HEARING_MS });
  await expect(page.getByText(/Still being heard/)).toBeVisible();
  await page.locator('[data-surface]').first().focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+Home');
  await page.keyboard.type('Splendid! ');
  await page.keyboard.press('Escape');
  await expect(page.getByText(/Still being heard/)).toBeHidden({ timeout: HEARING_MS });
  await expect(text).toContainText(/Splendid! .*museum tonight\.$/);
  await saved(page);
});

test('hesitations are left out in one go and shown again; a loud sound without a caption is described', async ({
  page
}) => {
  watchConsole(page);
  const bell = soundOf('if(between(t,3,4),0.5*sin(2*PI*440*t),0.001*sin(300*t))', 6, 16_000);
  const { body } = await upload(server, 'hesitant.wav', bell);
  const content = '1\n00:00:00,400 --> 00:00:02,000\nUm, good morning and uh welcome to the tower.\n';
  const path = `/api/recordings/${body.recording.id}/tracks`;
  const { track } = (await send(server, path, { format: 'srt', language: 'en', content })).body;
  await page.goto(`${server.url}/recordings/${body.recording.id}/tracks/${track.id}/read`);
  await page.getByRole('tab', { name: 'Outline' }).click();
  await page.getByRole('button', { name: 'Leave them out' }).click();
  const lines = async () => (await ask(server, `/api/tracks/${track.id}`)).body.track.cues[0].lines.join(' ');
  await saved(page);
  expect(await lines()).toBe('Good morning and welcome to the tower.');
  await page.getByRole('button', { name: 'Show them again' }).click();
  await saved(page);
  expect(await lines()).toMatch(/Um, .* uh /);

  await page.getByText('A sound without a caption').click();
  await checkAccessible(page);
  await page.getByRole('combobox', { name: 'Describe the sound at 0:03' }).fill('bell strikes');
  await page.keyboard.press('Enter');
  await expect(page.getByText('A sound without a caption')).toBeHidden();
  await saved(page);
  const { cues } = (await ask(server, `/api/tracks/${track.id}`)).body.track;
  expect(cues[1]).toMatchObject({ startMs: 3000, lines: ['[bell strikes]'] });
});
