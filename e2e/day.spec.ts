/** A day's work as a new user would do it: own media in English and Italian, by mouse and by keys; what it takes is counted. */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test, type Locator, type Page } from '@playwright/test';
import { ask, HEARING_MS, middleOf, newFolder, saved, soundOf, speech, startDemo, watchConsole } from './support';

let demo: Awaited<ReturnType<typeof startDemo>>;
test.beforeAll(async () => {
  demo = await startDemo();
});
test.afterAll(() => demo.stop());

/** What hands have done: presses of the pointer, and keys; a chord is one key. */
interface Effort {
  readonly clicks: number;
  readonly keys: number;
}
const countEffort = (page: Page): Promise<unknown> =>
  page.addInitScript(() => {
    const add = (what: 'clicks' | 'keys'): void =>
      sessionStorage.setItem(what, String(Number(sessionStorage.getItem(what) ?? 0) + 1));
    addEventListener('pointerdown', ({ isTrusted }) => isTrusted && add('clicks'), { capture: true });
    addEventListener(
      'keydown',
      ({ isTrusted, key }) => isTrusted && !/^(Shift|Control|Alt|Meta)$/.test(key) && add('keys'),
      { capture: true }
    );
  });
/** A list that opens takes two clicks, which no script makes. */
async function pick(page: Page, list: Locator, option: string | { label: string }): Promise<void> {
  await list.selectOption(option);
  await page.evaluate(() =>
    sessionStorage.setItem('clicks', String(Number(sessionStorage.getItem('clicks') ?? 0) + 2))
  );
}
const effortNow = (page: Page): Promise<Effort> =>
  page.evaluate(() => ({
    clicks: Number(sessionStorage.getItem('clicks') ?? 0),
    keys: Number(sessionStorage.getItem('keys') ?? 0)
  }));

const inFile = (name: string, bytes: Uint8Array | string): string => {
  const path = join(newFolder(), name);
  writeFileSync(path, bytes);
  return path;
};
test('from two files to captions handed over, at the first try', async ({ page }) => {
  watchConsole(page);
  await countEffort(page);
  await page.setViewportSize({ width: 1280, height: 800 });
  const told: [string, Effort][] = [];
  let before: Effort = { clicks: 0, keys: 0 };
  const part = async (name: string, work: () => Promise<void>): Promise<void> => {
    await work();
    const now = await effortNow(page);
    told.push([name, { clicks: now.clicks - before.clicks, keys: now.keys - before.keys }]);
    before = now;
  };
  const english = inFile('morning_in_merrowby.wav', speech(['Good morning and welcome to the tower.']));
  const italian = inFile('la_torre.it.wav', soundOf('0.3*sin(2*PI*200*t)', 4, 16_000));
  page.on('filechooser', (chooser) => void chooser.setFiles([english, italian]));
  await page.goto(demo.url);

  await part('two files in', async () => {
    await page.getByRole('button', { name: 'Choose files' }).click();
    await expect(page.getByRole('link', { name: 'La torre.it' })).toBeVisible();
    await expect(page.getByRole('link', { name: 'Morning in merrowby' })).toBeVisible();
  });
  await part('heard, and read', async () => {
    await page.getByRole('row', { name: 'Morning in merrowby' }).getByRole('link', { name: 'Hear' }).click();
    await page.getByRole('button', { name: 'Hear it' }).click();
    await page.getByRole('link', { name: 'Read it' }).click({ timeout: HEARING_MS });
    await expect(page.getByTestId('page')).toContainText('morning');
  });

  const { recordingId, trackId } = demo.interview;
  const trackNow = async () => (await ask(demo, `/api/tracks/${trackId}`)).body.track;
  await page.goto(`${demo.url}/recordings/${recordingId}/tracks/${trackId}/read`);
  const paper = page.getByTestId('page');
  await expect(paper).toContainText('Merrowby');
  await part('a word replaced', async () => {
    const word = await middleOf(page, 'welcome');
    await page.mouse.click(word.x, word.y);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Enter');
    await page.keyboard.type('good day');
    await page.keyboard.press('Escape');
    await expect(paper).toContainText('and good day to the tower');
  });
  await part('a word left out and brought back', async () => {
    const word = await middleOf(page, 'grandfather');
    await page.mouse.click(word.x, word.y);
    await page.keyboard.press('Escape');
    await page.keyboard.press('x');
    await page.keyboard.press('x');
    await saved(page);
    const { words } = await trackNow();
    expect(words.find((one: { text: string }) => one.text === 'grandfather').shown).not.toBe(false);
  });
  await part('a paragraph given to a new speaker', async () => {
    await pick(page, page.getByLabel('Speaker of the paragraph'), 'New speaker');
    await expect(page.locator('p[data-speaker="Speaker 3"]')).toBeVisible();
  });
  await part('taken back', async () => {
    await page.getByRole('button', { name: /^Undo: / }).click();
    await expect(page.locator('p[data-speaker="Speaker 3"]')).toHaveCount(0);
  });

  const bodies = page.getByTestId('trellis').locator('[data-part="body"]');
  await part('on to Time', async () => {
    await page.getByRole('link', { name: 'Time', exact: true }).click();
    await expect(bodies.first()).toBeVisible();
  });
  const count = page.getByTestId('chosen-count');
  await part('a cue heard once', async () => {
    await bodies.nth(1).click();
    await page.keyboard.press('Shift+Space');
    await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
    await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  });
  await part('three cues moved, and let go', async () => {
    await bodies.nth(0).click();
    await bodies.nth(2).click({ modifiers: ['Shift'] });
    await expect(count).toHaveText(/^3 cues chosen/);
    await page.keyboard.press('Shift+I');
    await page.keyboard.press('Escape');
    await expect(count).toHaveCount(0);
  });
  await part('a word pushed, and pulled back', async () => {
    await bodies.nth(0).click();
    await saved(page);
    const { cues } = await trackNow();
    await page.keyboard.press('>');
    await page.keyboard.press('<');
    await saved(page);
    expect((await trackNow()).cues).toEqual(cues);
  });
  await part('a cue’s text typed', async () => {
    await bodies.nth(0).dblclick();
    await expect(page.getByTestId('cue-text')).toBeFocused();
    await page.keyboard.press('End');
    await page.keyboard.type('!');
    await page.keyboard.press('Escape');
    await saved(page);
  });

  await part('the third cue placed at the top', async () => {
    await page.getByRole('link', { name: 'Dress', exact: true }).click();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowRight');
    await expect(page.getByText('Cue 3 of 24')).toBeVisible();
    await page.getByRole('radio', { name: 'This cue' }).click();
    await page.getByRole('tab', { name: 'Place' }).click();
    await page.getByRole('radio', { name: 'top centre' }).click();
    await saved(page);
    expect((await trackNow()).cues[2].placement).toBe('top centre');
  });
  await part('SRT taken away', async () => {
    await page.getByRole('link', { name: 'Hand over' }).click();
    await page.getByRole('radio', { name: 'SRT' }).click();
    const download = page.waitForEvent('download');
    await page.getByRole('link', { name: 'Download' }).click();
    const text = readFileSync(await (await download).path(), 'utf8');
    expect(text).toMatch(/^1\n00:00:/);
    // No sign that nobody sees.
    expect(text).not.toMatch(/[\u2060\u200b\ufeff]/);
  });

  await page.goto(demo.url);
  const srt = Buffer.from('1\r\n00:00:00,200 --> 00:00:03,500\r\nPerché la torre è così alta?\r\n', 'latin1');
  await part('Italian captions imported', async () => {
    await page.getByRole('row', { name: 'La torre.it' }).getByRole('link', { name: 'Hear' }).click();
    await page.getByRole('tab', { name: 'Import captions' }).click();
    await page.getByLabel('Captions file').setInputFiles(inFile('torre.it.srt', srt));
    await expect(page.getByLabel('First lines')).toContainText('Perché la torre è così alta?');
    await expect(page.getByRole('textbox', { name: 'Language' })).toHaveValue('it');
    await page.getByRole('button', { name: 'Import', exact: true }).click();
    await page.getByRole('link', { name: 'See it in Time' }).click();
    await expect(page.getByTestId('trellis')).toContainText('Perché');
  });
  await part('found again by a word, and marked ready', async () => {
    await page.getByRole('link', { name: 'All recordings' }).click();
    await page.getByLabel('Find by title or spoken words').click();
    await page.keyboard.type('torre è');
    await page.getByRole('row', { name: 'La torre.it' }).getByRole('link', { name: 'Hear or import' }).click();
    await pick(page, page.getByLabel('State of Italian captions'), 'ready');
    await page.getByRole('link', { name: 'All recordings' }).click();
    await expect(page.getByRole('row', { name: 'La torre.it' })).toContainText('Ready');
  });
  test.info().annotations.push({ type: 'effort', description: JSON.stringify(Object.fromEntries(told)) });
  writeFileSync(test.info().outputPath('effort.json'), JSON.stringify(Object.fromEntries(told), null, 1));
  // More than this would be a step back: what is typed is a part of it.
  expect(Object.fromEntries(told.map(([name, { clicks, keys }]) => [name, clicks + keys]))).toMatchObject({
    'a word left out and brought back': 4,
    'a cue heard once': 2,
    'a word pushed, and pulled back': 3,
    'taken back': 1
  });
});

/** Elements whose text is cut with nothing that tells the rest, and those that reach out of the window. */
const misfits = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const found: string[] = [];
    if (document.documentElement.scrollWidth > innerWidth)
      found.push(`the page is ${document.documentElement.scrollWidth} wide`);
    for (const element of document.querySelectorAll<HTMLElement>(
      'button, label, h1, h2, h3, legend, [role=tab], th, dt, a'
    )) {
      const box = element.getBoundingClientRect();
      if (!element.checkVisibility({ visibilityProperty: true }) || element.closest('.unseen, [data-part]') !== null)
        continue;
      if (box.width === 0 || box.height === 0) continue;
      const name = `${element.tagName} “${element.textContent.trim().slice(0, 40)}”`;
      if (box.right > innerWidth + 1 || box.left < -1) found.push(`${name} reaches out`);
      const isCut = element.scrollWidth > element.clientWidth + 1 && getComputedStyle(element).overflowX === 'hidden';
      if (isCut && element.title === '' && element.closest('[title]') === null) found.push(`${name} is cut`);
    }
    return found;
  });

test('nothing is cut or reaches out, at 1280 and at 1024 pixels, in light and dark', async ({ page }) => {
  watchConsole(page);
  const { recordingId, trackId } = demo.interview;
  await ask(demo, `/api/recordings/${recordingId}`, {
    ...{ method: 'PATCH', headers: { 'content-type': 'application/json' } },
    body: JSON.stringify({ title: 'Winding the Merrowby clock by lantern light on the longest night of the year' })
  });
  const track = `/recordings/${recordingId}/tracks/${trackId}`;
  const screens: [string, readonly string[]][] = [
    ['/', []],
    [`/recordings/${recordingId}/hear`, ['Have it heard', 'Import captions']],
    [`${track}/read`, ['Doubts', 'Find', 'Cue', 'Outline', 'Changes']],
    [`${track}/time`, ['Cue', 'Rules', 'Ease', 'Sync']],
    [`${track}/dress`, []],
    [`${track}/check`, ['Figures', 'Report', 'Sheet', 'Findings']],
    [`${track}/hand-over`, ['Files', 'Bundle', 'Video', 'Site', 'Handed over']]
  ];
  for (const [width, height] of [
    [1280, 800],
    [1024, 768]
  ] as const) {
    await page.setViewportSize({ width, height });
    for (const [path, tabs] of screens) {
      await page.goto(demo.url + path);
      await expect(page.locator('[data-surface], [data-place]').first()).toBeVisible();
      for (const tab of tabs.length === 0 ? [null] : tabs) {
        if (tab !== null) await page.getByRole('tab', { name: tab, exact: true }).click();
        if (tab === 'Have it heard') await page.getByText('Change', { exact: true }).click();
        for (const mode of ['light', 'dark']) {
          await page.evaluate((name) => (document.documentElement.dataset.mode = name), mode);
          await expect.poll(() => misfits(page), { message: `${path} ${tab ?? ''} ${width} ${mode}` }).toEqual([]);
        }
      }
    }
  }
});
