import { expect, test, type Page } from '@playwright/test';
import { ask, checkAccessible, saved, send, startDemo, tabTo, watchConsole } from './support';

type Demo = Awaited<ReturnType<typeof startDemo>>;
let server: Demo;
test.beforeAll(async () => {
  server = await startDemo();
});
test.afterAll(() => server.stop());

const rows = (page: Page) => page.getByRole('region', { name: 'Rows of source and translation' });
const done = (page: Page) => page.locator('header strong');
const text = (page: Page) => page.getByTestId('row-text');
const urlOf = (trackId: string): string =>
  `${server.url}/recordings/${server.interview.recordingId}/tracks/${trackId}/translate`;

/** A short track, so that every row can be gone through. */
async function newSource(lines: readonly string[]): Promise<string> {
  const content = lines
    .map(
      (line, at) =>
        `${at + 1}\n00:00:${String(at * 3).padStart(2, '0')},000 --> 00:00:${String(at * 3 + 2).padStart(2, '0')},800\n${line}\n`
    )
    .join('\n');
  const path = `/api/recordings/${server.interview.recordingId}/tracks`;
  const made = await send(server, path, { format: 'srt', language: 'en', title: 'For translating', content });
  expect(made.status, JSON.stringify(made.body)).toBe(201);
  return made.body.track.id as string;
}
const LINES = [
  'The pendulum swings once',
  'every two seconds.',
  '[bell strikes]',
  'Do you hear the bell, Ines?',
  'The clock was made in 1704.'
];
async function begun(sourceId: string, asked: object): Promise<string> {
  const { status, body } = await send(server, `/api/tracks/${sourceId}/translations`, asked);
  expect(status, JSON.stringify(body)).toBe(201);
  return body.track.id as string;
}
const rowsOf = async (id: string) =>
  (await ask(server, `/api/tracks/${id}/rows`)).body.rows as { target: string; state: string; cueIds: string[] }[];

test('a Spanish track comes from a machine’s draft to what is handed over, by keys alone', async ({ page }) => {
  watchConsole(page);
  const source = await newSource(LINES);
  await page.goto(`${server.url}/recordings/${server.interview.recordingId}/tracks/${source}/check`);
  await page.getByTestId('findings-left').waitFor();
  await page.keyboard.press('Shift+Digit6');
  await expect(page.getByText('Begin a translation')).toBeVisible();
  await expect(page.getByText('rough, often slower to mend than to write')).toBeVisible();
  await checkAccessible(page);
  await tabTo(page, 'Begin');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL((url) => url.pathname.endsWith('/translate') && !url.pathname.includes(source));
  await expect(done(page)).toHaveText('0 of 5 done');
  await expect(rows(page).getByText('machine’s')).toHaveCount(5);
  await checkAccessible(page);

  // A term of the house is offered by a number key, and missed where it is not used.
  await rows(page).focus();
  await page.keyboard.press('Shift+O');
  await page.getByLabel('In the source').fill('pendulum');
  await page.getByLabel('In the translation').fill('péndulo real');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect(page.getByTestId('offers')).toContainText('not used');
  await expect(rows(page)).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(text(page)).toBeFocused();
  await page.keyboard.press('ControlOrMeta+A');
  await page.keyboard.insertText('El');
  await page.keyboard.press('Alt+Digit1');
  await expect(text(page)).toHaveValue('El péndulo real');
  await page.keyboard.insertText(' oscila una vez');
  await expect(page.getByTestId('offers')).toContainText('used');
  await page.keyboard.press('Enter');
  await expect(done(page)).toHaveText('1 of 5 done');

  // Enter goes from row to row: each is done as it stands, or as it was written.
  const written = ['cada dos segundos.', '[suena la campana]', '¿Oyes la campana, Ines?', 'El reloj se hizo en 1704.'];
  for (const [at, line] of written.entries()) {
    await expect(text(page)).toBeFocused();
    await page.keyboard.press('ControlOrMeta+A');
    await page.keyboard.insertText(line);
    await page.keyboard.press('Enter');
    await expect(done(page)).toHaveText(`${at + 2} of 5 done`);
  }
  await expect(rows(page)).toBeFocused();
  await saved(page);
  // One opened again, taken back, and the whole is as it was.
  await page.keyboard.press('x');
  await expect(done(page)).toHaveText('4 of 5 done');
  await page.keyboard.press('ControlOrMeta+Z');
  await expect(done(page)).toHaveText('5 of 5 done');

  await page.keyboard.press('Shift+Digit8');
  await expect(page).toHaveURL(/hand-over$/);
  const id = /tracks\/([^/]+)\//.exec(page.url())![1]!;
  const file = await ask(server, `/api/tracks/${id}/export?format=srt`);
  expect(file.body).toContain('El péndulo real oscila una vez');
  expect(file.body).toContain('[suena la campana]');
  expect(file.headers.get('content-disposition')).toMatch(/\.es\./);
});

test('a Hebrew and a Japanese track go over the clipboard, and are shown before they are taken', async ({ page }) => {
  watchConsole(page);
  const source = await newSource(LINES);
  const hebrew = await begun(source, { language: 'he', from: 'empty' });
  await page.goto(urlOf(hebrew));
  await rows(page).focus();
  await page.keyboard.press('Shift+C');
  await expect(page.getByRole('button', { name: 'Part 1: rows 1 to 5' })).toBeVisible();
  await expect(page.getByTestId('clipboard').getByLabel('Source')).toHaveValue(/\[4\] Do you hear the bell, Ines\?/);
  // Numbers in brackets of another kind, a line lost, one greeting.
  await page
    .getByTestId('pasted')
    .fill(
      'הנה התרגום שביקשת:\n\n(1) המטוטלת מתנודדת פעם אחת\n(2) כל שתי שניות.\n(4) את שומעת את הפעמון, Ines?\n(5) השעון נבנה בשנת 1704.'
    );
  await page.getByRole('button', { name: 'Lay it on the rows' }).click();
  await expect(page.getByText('Belongs to no row:')).toBeVisible();
  await expect(page.getByRole('cell', { name: 'השעון נבנה בשנת 1704.' })).toHaveAttribute('dir', 'rtl');
  await checkAccessible(page);
  await page.getByRole('button', { name: 'Take 4 rows' }).click();
  await expect(rows(page)).toBeVisible();
  await expect(text(page)).toHaveAttribute('dir', 'rtl');
  await expect(rows(page).locator('.target').nth(1)).toHaveAttribute('dir', 'rtl');
  expect((await rowsOf(hebrew)).map(({ target }) => target)).toEqual([
    ...[
      'המטוטלת מתנודדת פעם אחת',
      'כל שתי שניות.',
      '[bell strikes]',
      'את שומעת את הפעמון, Ines?',
      'השעון נבנה בשנת 1704.'
    ]
  ]);

  const japanese = await begun(source, { language: 'ja', from: 'empty' });
  await page.goto(urlOf(japanese));
  await rows(page).focus();
  await page.keyboard.press('Shift+C');
  await page
    .getByTestId('pasted')
    .fill(
      '【１】振り子は2秒ごとに\n【２】一回揺れます。\n【３】[鐘が鳴る]\n【４】Inesさん、鐘の音が聞こえますか？\n【５】この時計は1704年に作られました。'
    );
  await page.getByRole('button', { name: 'Lay it on the rows' }).click();
  await page.getByRole('button', { name: 'Take 5 rows' }).click();
  await expect(rows(page)).toBeVisible();
  expect((await rowsOf(japanese)).map(({ target }) => target)).toEqual([
    ...[
      '振り子は2秒ごとに',
      '一回揺れます。',
      '[鐘が鳴る]',
      'Inesさん、鐘の音が聞こえますか？',
      'この時計は1704年に作られました。'
    ]
  ]);
  // Lines are broken by the script’s own room, never with a space.
  const { track } = (await ask(server, `/api/tracks/${japanese}`)).body;
  expect(track.rules.maxCharsPerLine).toBe(16);
  expect(track.cues[4].lines.join('')).toBe('この時計は1704年に作られました。');
  // Undone as one.
  await rows(page).focus();
  await page.keyboard.press('ControlOrMeta+Z');
  await expect(rows(page).getByText('empty')).toHaveCount(4);
});

test('a row tells what its source said before, takes its times, and is remembered', async ({ page }) => {
  watchConsole(page);
  const source = await newSource(LINES);
  const id = await begun(source, { language: 'ca', from: 'empty' });
  await page.goto(urlOf(id));
  await rows(page).focus();
  await page.keyboard.press('Enter');
  await expect(text(page)).toBeFocused();
  await page.keyboard.insertText('El pèndol oscil·la una vegada');
  await page.keyboard.press('Enter');
  await expect(done(page)).toHaveText('1 of 5 done');
  await page.keyboard.press('Escape');
  await saved(page);

  const { track } = (await ask(server, `/api/tracks/${source}`)).body;
  const [first] = track.cues;
  await send(server, `/api/tracks/${source}/edits`, {
    revision: track.revision,
    edits: [
      { type: 'setCueText', cueId: first.id, lines: ['The pendulum swings slowly once'] },
      { type: 'setCueTimes', cueId: first.id, startMs: 100, endMs: 2700 }
    ]
  });
  await expect(page.getByText('1 row whose source has changed')).toBeVisible();
  await page.keyboard.press('ArrowUp');
  await expect(rows(page).getByText('The source said:')).toBeVisible();
  await expect(rows(page).locator('del')).toHaveText('The pendulum swings once');
  await page.keyboard.press('0');
  await expect(page.getByText('1 row whose source has changed')).toBeHidden();
  await page.keyboard.press('t');
  await saved(page);
  const [cue] = (await ask(server, `/api/tracks/${id}`)).body.track.cues;
  expect([cue.startMs, cue.endMs]).toEqual([100, 2700]);

  // Another track of the house says nearly the same.
  const other = await begun(await newSource(['The pendulum swings slowly']), { language: 'ca', from: 'empty' });
  await page.goto(urlOf(other));
  await rows(page).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('offers')).toContainText('El pèndol oscil·la una vegada');
  await page.keyboard.press('Alt+Digit1');
  await expect(text(page)).toHaveValue('El pèndol oscil·la una vegada');
  await page.keyboard.press('Enter');
  await expect(done(page)).toHaveText('1 of 1 done');

  // What is being typed is there again when the page was left in the middle of it.
  await page.goto(urlOf(id));
  await rows(page).focus();
  await page.keyboard.press('n');
  await page.keyboard.press('Enter');
  await expect(text(page)).toBeFocused();
  await page.keyboard.insertText('cada dos');
  await page.goto(urlOf(id));
  await expect(rows(page)).toContainText('cada dos');
});

test('two windows write on one translation, and neither loses anything', async ({ page, context }) => {
  const source = await newSource(LINES);
  const id = await begun(source, { language: 'es', from: 'empty' });
  const other = await context.newPage();
  for (const window of [page, other]) {
    watchConsole(window);
    await window.goto(urlOf(id));
    await expect(done(window)).toHaveText('0 of 5 done');
    await rows(window).focus();
  }
  await page.bringToFront();
  await page.keyboard.press('Enter');
  await expect(text(page)).toBeFocused();
  await page.keyboard.insertText('El péndulo oscila');

  // The other one is ahead by two rows, and done with one, while the first is in the middle of its own.
  await other.bringToFront();
  for (let step = 0; step < 3; step++) await other.keyboard.press('ArrowDown');
  await other.keyboard.press('Enter');
  await expect(text(other)).toBeFocused();
  await other.keyboard.insertText('¿Oyes la campana, Ines?');
  await other.keyboard.press('Enter');
  await saved(other);

  await page.bringToFront();
  await expect(rows(page)).toContainText('¿Oyes la campana, Ines?');
  await expect(text(page)).toHaveValue('El péndulo oscila');
  await page.keyboard.insertText(' una vez');
  await page.keyboard.press('Enter');
  await expect(done(page)).toHaveText('2 of 5 done');
  await saved(page);
  await expect(done(other)).toHaveText('2 of 5 done');
  await expect(rows(other)).toContainText('El péndulo oscila una vez');

  // Both on the same row: what was written last stands, and what it took the place of comes back by undoing.
  for (const [window, line] of [
    [page, 'El reloj es de 1704.'],
    [other, 'El reloj se hizo en 1704.']
  ] as const) {
    await window.bringToFront();
    await rows(window).focus();
    for (let step = 0; step < LINES.length; step++) await window.keyboard.press('ArrowDown');
    await window.keyboard.press('Enter');
    await expect(text(window)).toBeFocused();
    await window.keyboard.press('ControlOrMeta+A');
    await window.keyboard.insertText(line);
    await window.keyboard.press('Enter');
    await saved(window);
  }
  expect((await rowsOf(id)).map(({ target, state }) => `${state}: ${target}`)).toEqual([
    ...['done: El péndulo oscila una vez', 'empty: ', 'machine: [bell strikes]'],
    ...['done: ¿Oyes la campana, Ines?', 'done: El reloj se hizo en 1704.']
  ]);
  await rows(other).focus();
  await other.keyboard.press('ControlOrMeta+Z');
  await saved(other);
  expect((await rowsOf(id)).at(-1)!.target).toBe('El reloj es de 1704.');
});
