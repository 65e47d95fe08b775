import { expect, test, type Page } from '@playwright/test';
import { ask, checkAccessible, restart, send, startDemo, watchConsole, type Server } from './support';

type Demo = Awaited<ReturnType<typeof startDemo>>;
let server: Server;
let interview: Demo['interview'];
test.beforeAll(async () => {
  const demo = await startDemo();
  ({ interview } = demo);
  server = demo;
});
test.afterAll(() => server.stop());

const text = (page: Page) => page.getByTestId('trim-text');
const word = (page: Page, said: string) => text(page).locator('.word', { hasText: new RegExp(`^${said}$`) });
const saved = (page: Page) => expect(page.getByTestId('save-state')).toHaveText('Saved');
const clocks = (page: Page) => page.getByTestId('trim-clocks');
const open = async (page: Page): Promise<void> => {
  await page.goto(`${server.url}/recordings/${interview.recordingId}/tracks/${interview.trackId}/trim`);
  await expect(word(page, 'standing')).toBeVisible();
};
/** From one word to another, the first of its kind each. */
const choose = async (page: Page, from: string, to: string): Promise<void> => {
  await word(page, from).first().click();
  await word(page, to)
    .first()
    .click({ modifiers: ['Shift'] });
};
const trimOf = async () => {
  const { trims } = (await ask(server, `/api/recordings/${interview.recordingId}/trims`)).body;
  return (await ask(server, `/api/trims/${trims[0].id}`)).body.trim;
};

test('words are taken out by keys, and the sound goes with them; all is undone, kept, and seen in two windows', async ({
  page,
  context
}) => {
  watchConsole(page);
  await open(page);
  await expect(clocks(page)).toContainText('nothing out yet');
  await choose(page, 'It', 'eleven,');
  await expect(page.getByTestId('chosen')).toContainText('s chosen');
  await page.keyboard.press('x');
  await expect(word(page, 'eleven,')).toHaveClass(/out/);
  await expect(clocks(page)).toContainText('out, 1 %');
  // The same key puts it back, and Undo takes that back.
  await page.keyboard.press('x');
  await expect(word(page, 'eleven,')).toHaveClass(/heard/);
  await page.keyboard.press('Control+z');
  await expect(word(page, 'eleven,')).toHaveClass(/out/);
  await saved(page);
  const { pieces, durationMs } = await trimOf();
  expect(pieces).toHaveLength(2);
  expect(durationMs).toBe(107_000 - (pieces[1].fromMs - pieces[0].toMs));

  await choose(page, 'Good', 'morning,');
  await page.keyboard.press('m');
  await expect(word(page, 'morning,')).toHaveClass(/silent/);
  await choose(page, 'look', 'at');
  await page.keyboard.press('g');
  await expect(word(page, 'look').first()).toHaveClass(/gap/);
  await word(page, 'Today').click();
  await page.keyboard.press('t');
  await expect(text(page).locator('.put-in')).toHaveText('+0.5 s');

  // Another window has it at once, and what is done there is seen here.
  const other = await context.newPage();
  watchConsole(other);
  await open(other);
  await expect(word(other, 'eleven,')).toHaveClass(/out/);
  await word(other, 'pendulum').first().click();
  await other.keyboard.press('x');
  await expect(word(page, 'pendulum').first()).toHaveClass(/out/);
  await other.close();

  // A passage is picked up and put ahead of another.
  await choose(page, 'And', 'that\\?');
  await page.keyboard.press('p');
  await word(page, 'We').first().click();
  await page.keyboard.press('v');
  const first = text(page)
    .locator('.paragraph')
    .filter({ has: page.locator('.word') })
    .first();
  await expect(first).toContainText('And who taught you to listen for that?');
  await page.keyboard.press('Shift+O');
  await expect(first).toContainText('We are standing');
  // The same by hand: a paragraph is dragged by its time.
  await text(page).locator('.paragraph', { hasText: 'And who taught' }).locator('.time').dragTo(first);
  await expect(first).toContainText('And who taught you to listen for that?');
  await page.keyboard.press('Shift+O');
  await expect(first).toContainText('We are standing');
  await saved(page);
  await checkAccessible(page);

  const before = await trimOf();
  await server.stop('SIGKILL');
  server = await restart(server);
  expect(await trimOf()).toEqual(before);
  await open(page);
  await expect(word(page, 'eleven,')).toHaveClass(/out/);
  await page.keyboard.press('Shift+B');
  await expect(text(page).locator('.word.out')).toHaveCount(0);
  await saved(page);
});

test('pauses and hesitations go all at once or one by one, and joins are heard', async ({ page }) => {
  watchConsole(page);
  const { track } = (await ask(server, `/api/tracks/${interview.trackId}/document`)).body;
  const wordId = track.words.find(({ text: said }: { text: string }) => said === 'behind').id;
  const { revision } = (await ask(server, `/api/tracks/${interview.trackId}/document`)).body;
  await send(server, `/api/tracks/${interview.trackId}/edits`, {
    ...{ revision, edits: [{ type: 'setWordText', wordId, text: 'um,' }] }
  });
  await open(page);
  await expect(page.getByTestId('pauses-found')).toContainText(/^\d+ pauses, \d+\.\d s in all/);
  const count = Number(/\d+/.exec((await page.getByTestId('pauses-found').textContent())!)![0]);
  // Fewer are long enough.
  await page.getByLabel('At least').fill('2000');
  await page.getByLabel('At least').press('Enter');
  await expect(page.getByTestId('pauses-found')).not.toContainText(`${count} pauses`);
  await text(page).focus();
  await page.keyboard.press('Control+Enter');
  await expect(clocks(page)).toContainText('out,');
  await saved(page);
  const long = (await trimOf()).takenOut.length;
  expect(long).toBeGreaterThan(0);
  expect(long).toBeLessThan(count);

  await page.getByLabel('At least').fill('600');
  await page.getByLabel('At least').press('Enter');
  await page.getByRole('button', { name: 'One by one' }).click();
  await expect(page.getByTestId('offer')).toContainText(/A pause of .* 1 of \d+/);
  await text(page).focus();
  await page.keyboard.press('0');
  await page.keyboard.press('1');
  await saved(page);
  expect((await trimOf()).takenOut).toHaveLength(long + 1);

  await page.keyboard.press('Escape');
  await page.getByRole('tab', { name: 'Hesitations' }).click();
  await expect(page.getByTestId('hesitations-found')).toContainText('1 place');
  await text(page).focus();
  await page.keyboard.press('Control+Enter');
  await expect(word(page, 'um,')).toHaveClass(/out/);
  await page.getByLabel('Any word or phrase').fill('the clock');
  await page.getByRole('button', { name: 'Find it' }).click();
  await expect(page.getByTestId('hesitations-found')).toContainText(/Said \d+ times/);
  await page.keyboard.press('Escape');

  await page.getByRole('tab', { name: 'Joins' }).click();
  await expect(page.getByText(/\d+ joins, /)).toBeVisible();
  await text(page).focus();
  await page.keyboard.press('b');
  await expect(page.getByText(/Join \d+ of \d+/)).toBeVisible();
  // It plays around the join by itself, the media silent under the mix, and stops behind it.
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  expect(await page.evaluate(() => document.querySelector('video')!.muted)).toBe(true);
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await page.getByRole('tab', { name: 'Captions' }).click();
  await expect(page.getByText(/\d+ cues as recorded, \d+ as trimmed/)).toBeVisible();
  await checkAccessible(page);
});

test('what is trimmed is taken away as sound, cut list and captions, and is a recording of its own', async ({
  page
}) => {
  watchConsole(page);
  await open(page);
  await choose(page, 'Good', 'tower\\.');
  await page.keyboard.press('x');
  await saved(page);
  await page.getByRole('tab', { name: 'Export' }).click();
  await page.getByLabel('Cut list').check();
  const href = await page.getByRole('link', { name: 'Take it' }).getAttribute('href');
  expect((await ask(server, href!)).body.OTIO_SCHEMA).toBe('Timeline.1');
  await page.getByLabel('Sound', { exact: true }).check();
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByRole('link', { name: 'Download' })).toBeVisible();
  await page.getByRole('button', { name: 'Bring it in as a recording' }).click();
  const link = page.getByRole('link', { name: 'Open it' });
  await expect(link).toBeVisible();
  const id = (await link.getAttribute('href'))!.split('/')[2]!;
  const { recording } = (await ask(server, `/api/recordings/${id}`)).body;
  expect(recording.tracks).toHaveLength(1);
  await checkAccessible(page);

  await page.keyboard.press('Escape');
  await text(page).focus();
  await page.keyboard.press('Shift+Digit8');
  const file = page.getByTestId('file-name');
  await expect(file).toHaveText('winding-the-merrowby-clock.en.vtt');
  await page.getByTestId('seen-as').selectOption({ label: 'As trimmed: Trim' });
  await expect(file).toHaveText('winding-the-merrowby-clock-trim.en.vtt');
  await expect(page.getByLabel(/winding-the-merrowby-clock-trim/)).not.toContainText('welcome to the tower');
  await page.keyboard.press('Shift+Digit7');
  await expect(page.getByText('As trimmed, to be looked at: captions are mended')).toBeVisible();
  await page.keyboard.press('Shift+Digit3');
  await expect(page.getByText('As trimmed, to be looked at: cues are changed')).toBeVisible();
  const trellis = page.getByTestId('trellis-trimmed');
  await expect(trellis.locator('.cue').first()).toBeVisible();
  await expect(trellis.getByTitle('Join').first()).toBeVisible();
  await checkAccessible(page);
  await page.getByTestId('seen-as').selectOption({ label: 'As recorded' });
  await expect(page.getByTestId('cue-text')).toBeVisible();
});

test('several trims stand side by side, with names of their own; one that is deleted comes back', async ({ page }) => {
  watchConsole(page);
  await open(page);
  await page.getByRole('button', { name: 'New trim' }).click();
  await expect(page.getByLabel('Trim', { exact: true })).toContainText('Trim 2 · 1:47');
  await page.getByRole('button', { name: 'Rename this trim' }).click();
  await page.getByLabel('Name of the trim').fill('Highlight');
  await page.getByLabel('Name of the trim').press('Enter');
  await choose(page, 'We', 'clock\\.');
  await page.keyboard.press('x');
  await saved(page);
  await page.getByRole('tab', { name: 'Export' }).click();
  await page.getByLabel('Video', { exact: true }).check();
  await page.getByRole('combobox', { name: /^Captions/ }).selectOption('inside');
  await page.getByRole('radio', { name: /Fast/ }).check();
  await expect(page.getByTestId('copying')).toContainText(/begins early, by \d.* at most/);
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByText(/^winding-the-merrowby-clock-highlight\.(.*\.)?mp4/)).toBeVisible();
  await page.getByRole('button', { name: 'Duplicate this trim' }).click();
  await expect(page.getByLabel('Trim', { exact: true })).toContainText('Highlight copy');
  await page.getByRole('button', { name: 'Delete this trim' }).click();
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await expect(page.getByLabel('Trim', { exact: true }).locator('option')).toHaveCount(3);
  await expect(word(page, 'standing')).toHaveClass(/out/);
});

test('a talk loses what was said twice, its pauses and its hesitations, and nothing else', async ({ page }) => {
  watchConsole(page);
  const { recordings } = (await ask(server, '/api/recordings')).body;
  const talk = recordings.find(({ title }: { title: string }) => title === 'How a tower clock keeps time');
  await page.goto(`${server.url}/recordings/${talk.id}/tracks/${talk.tracks[0].id}/trim`);
  await expect(word(page, 'museum')).toBeVisible();
  await page.getByRole('tab', { name: 'Hesitations' }).click();
  await expect(page.getByTestId('hesitations-found')).toContainText(/^7 places/);
  await text(page).focus();
  await page.keyboard.press('Control+Enter');
  // The first time it was said, to where it is said again.
  await page.getByLabel('Any word or phrase').fill('Let me say that again');
  await page.getByRole('button', { name: 'Find it' }).click();
  await expect(page.getByTestId('hesitations-found')).toContainText('Said once');
  await text(page).locator('.paragraph', { hasText: 'Let me say' }).locator('.word').first().click();
  await word(page, 'again\\.')
    .first()
    .click({ modifiers: ['Shift'] });
  await page.keyboard.press('x');
  await saved(page);
  const { trims } = (await ask(server, `/api/recordings/${talk.id}/trims`)).body;
  const { body } = await ask(server, `/api/tracks/${talk.tracks[0].id}/export?format=txt&trimId=${trims[0].id}`);
  const said = (body as string).replaceAll(/\s+/g, ' ');
  // Nothing is left of it between its words.
  const { pieces } = (await ask(server, `/api/trims/${trims[0].id}`)).body.trim;
  const lengths = pieces.map(({ fromMs, toMs }: { fromMs: number; toMs: number }) => toMs - fromMs);
  expect(Math.min(...lengths)).toBeGreaterThan(150);
  expect(said).toContain(
    'pendulum is a slower pendulum. The old keeper had a simple answer. He put a few pennies on top'
  );
  expect(said).toContain('we still have, I mean we still have his pennies');
  expect(said).not.toMatch(/\b[Uu][mh]\b|say that again/);
});
