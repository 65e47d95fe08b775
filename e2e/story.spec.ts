/** The whole job once, without a mouse: from a file to caption files, with real sound and the real recogniser. */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import {
  ask,
  checkAccessible,
  HEARING_MS,
  media,
  saved,
  type Server,
  speech,
  startServer,
  tabTo,
  watchConsole
} from './support';

let server: Server;
test.beforeAll(async () => {
  server = await startServer();
});
test.afterAll(() => server.stop());

const TALK = [
  'Good morning and welcome to the tower.',
  'The pendulum swings once every two seconds and every swing lets one tooth of the wheel go past.',
  'My grandfather kept this clock running for forty years.',
  'The clock will lose about a minute a day.'
];

interface SeenCue {
  readonly start: string;
  readonly end: string;
  readonly lines: string[];
}

/** Steps through the cues of Time and reads their cards. */
async function cuesOnScreen(page: Page): Promise<SeenCue[]> {
  const seen: SeenCue[] = [];
  const heading = page.getByRole('heading', { name: /^Cue \d+ of \d+$/ });
  const count = Number(/of (\d+)/.exec((await heading.textContent())!)![1]);
  while (!(await heading.textContent())!.startsWith('Cue 1 ')) await page.keyboard.press('ArrowLeft');
  for (let at = 1; at <= count; at++) {
    await expect(heading).toHaveText(`Cue ${at} of ${count}`);
    seen.push({
      start: await page.getByTestId('cue-in').inputValue(),
      end: await page.getByTestId('cue-out').inputValue(),
      lines: (await page.getByTestId('cue-text').inputValue()).split('\n')
    });
    await page.keyboard.press('ArrowRight');
  }
  return seen;
}

/** A strict reader of SRT: number, timing, lines, blank line, nothing else. */
function readStrictSrt(text: string): { start: string; end: string; lines: string[] }[] {
  return text
    .trimEnd()
    .split('\n\n')
    .map((block, at) => {
      const [number, timing, ...lines] = block.split('\n');
      expect(number).toBe(String(at + 1));
      const found = /^(\d\d:\d\d:\d\d,\d{3}) --> (\d\d:\d\d:\d\d,\d{3})$/.exec(timing!);
      expect(found).not.toBeNull();
      return { start: found![1]!, end: found![2]!, lines };
    });
}
/** `00:00:10,550` as the card shows it. */
const asShown = (time: string): string => time.replace(/^00:0?/, '').replace(',', '.');

test('from a recording to caption files, by the keyboard alone', async ({ page }) => {
  watchConsole(page);
  const file = join(server.folder, 'merrowby_clock.wav');
  writeFileSync(file, speech(TALK));

  // Listening from the start: the browser takes a moment to hand its choosers over.
  page.on('filechooser', (chooser) => void chooser.setFiles(file));
  await page.goto(server.url);
  await expect(page.getByText('Nothing to caption yet')).toBeVisible();
  await checkAccessible(page);
  await tabTo(page, 'Choose files');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Merrowby clock' })).toBeVisible();
  await expect(page.getByText('Not heard yet')).toBeVisible();
  await checkAccessible(page);

  await tabTo(page, /^Recordings$/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Hear it' })).toBeEnabled();
  await checkAccessible(page);
  await tabTo(page, 'Hear it');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('progressbar')).toBeVisible();
  await expect(page.getByText('Draft ready.')).toBeVisible({ timeout: HEARING_MS });
  await checkAccessible(page);
  await tabTo(page, 'Read it');
  await page.keyboard.press('Enter');

  // Read: the spoken word is marked as it plays; typing corrects; a burst is one edit and one undo.
  const paper = page.getByTestId('page');
  await expect(paper).toContainText('the tower');
  const drafted = (await paper.textContent())!;
  await page.keyboard.press('Space');
  await expect
    .poll(() =>
      page.evaluate(() =>
        [...(CSS.highlights.get('page-spoken') ?? [])].map((range) => (range as Range).toString()).join()
      )
    )
    .toMatch(/\w+/);
  await expect(page.getByTestId('picture-cue')).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  // Back word by word to the first one: it is selected, and its left edge is one key away.
  for (let step = 0; step < 12; step++) await page.keyboard.press('d');
  await page.keyboard.press('Enter');
  await expect(paper).toBeFocused();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.type('Hello & ');
  await expect(page.getByText('1 corrected').or(page.getByText('2 corrected'))).toBeVisible();
  await saved(page);
  expect(await paper.textContent()).toBe(`Hello & ${drafted}`);
  await page.keyboard.press('Control+z');
  await expect(paper).toHaveText(drafted);
  await page.keyboard.press('Control+Shift+z');
  await expect(paper).toHaveText(`Hello & ${drafted}`);
  await page.keyboard.press('Control+End');
  await page.keyboard.type(' And more.');
  await saved(page);
  await expect(paper).toHaveText(`Hello & ${drafted} And more.`);
  await page.keyboard.press('Escape');
  await checkAccessible(page);

  // Time: cues are stepped through, split, merged, timed, written.
  await page.keyboard.press('Shift+Digit3');
  await expect(page.getByTestId('trellis')).toBeFocused();
  const heading = page.getByRole('heading', { name: /^Cue \d+ of \d+$/ });
  await expect(page.locator('[data-cue]').first()).toBeVisible();
  const before = Number(/of (\d+)/.exec((await heading.textContent())!)![1]);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('s');
  await expect(heading).toHaveText(new RegExp(`of ${before + 1}$`));
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('m');
  await expect(heading).toHaveText(new RegExp(`of ${before}$`));
  const end = page.getByTestId('cue-out');
  const outBefore = await end.inputValue();
  await page.keyboard.press('i');
  await expect(end).not.toHaveValue(outBefore);
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('cue-text')).toBeFocused();
  await page.keyboard.press('Control+End');
  await page.keyboard.type(' <i>indeed</i>');
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('trellis')).toBeFocused();
  await expect(page.getByTestId('cue-text')).toHaveValue(/<i>indeed<\/i>$/);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('=');
  await page.keyboard.press('-');
  await page.keyboard.press('?');
  await expect(page.getByRole('heading', { name: 'Keys' })).toBeVisible();
  await checkAccessible(page);
  await page.keyboard.press('Escape');
  await saved(page);
  await checkAccessible(page);
  const seen = await cuesOnScreen(page);

  // Dress: the place shows on the picture at once.
  await page.keyboard.press('Shift+Digit5');
  await expect(page.getByTestId('mover')).toBeVisible();
  await page.keyboard.press('Enter');
  for (let tab = 0; tab < 3; tab++) await page.keyboard.press('ArrowRight');
  const low = (await page.getByTestId('mover').boundingBox())!;
  await tabTo(page, 'bottom centre');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await page.getByTestId('mover').boundingBox())!.y).toBeLessThan(low.y - 100);
  await saved(page);
  await checkAccessible(page);

  // Hand over: what was on screen is in the files.
  await page.keyboard.press('Shift+Digit8');
  await expect(page.getByTestId('file-name')).toHaveText('merrowby-clock.en.vtt');
  await checkAccessible(page);
  const download = async (): Promise<string> => {
    const waiting = page.waitForEvent('download');
    await tabTo(page, 'Download');
    await page.keyboard.press('Enter');
    const path = await (await waiting).path();
    return readFileSync(path, 'utf8');
  };
  const vtt = await download();
  expect(await page.getByTestId('preview').textContent()).toBe(vtt);
  await tabTo(page, 'WebVTT');
  await page.keyboard.press('ArrowDown');
  await expect(page.getByTestId('file-name')).toHaveText('merrowby-clock.en.srt');
  const srt = await download();
  expect(readStrictSrt(srt).map((cue) => ({ ...cue, start: asShown(cue.start), end: asShown(cue.end) }))).toEqual(
    seen.map((cue) => ({ ...cue, lines: cue.lines.map((line) => line.replaceAll('&amp;', '&')) }))
  );
  // Chromium's own parser reads the WebVTT.
  const parsed = await page.evaluate(async (text) => {
    const track = document.createElement('track');
    const video = document.createElement('video');
    track.src = URL.createObjectURL(new Blob([text], { type: 'text/vtt' }));
    track.kind = 'captions';
    video.append(track);
    document.body.append(video);
    track.track.mode = 'hidden';
    await new Promise((done, fail) => {
      track.onload = done;
      track.onerror = fail;
    });
    const cues = [...(track.track.cues ?? [])] as VTTCue[];
    video.remove();
    return cues.map((cue) => ({
      startTime: cue.startTime,
      endTime: cue.endTime,
      text: cue.text,
      line: cue.line,
      position: cue.position,
      align: cue.align
    }));
  }, vtt);
  const strict = readStrictSrt(srt);
  const seconds = (time: string): number =>
    time.split(/[:,]/).reduce((sum, part, at) => (at < 3 ? sum * 60 + Number(part) : sum + Number(part) / 1000), 0);
  expect(parsed.map((cue) => [cue.startTime, cue.endTime])).toEqual(
    strict.map((cue) => [seconds(cue.start), seconds(cue.end)])
  );
  expect(parsed.map((cue) => cue.text.split('\n'))).toEqual(seen.map((cue) => cue.lines));
  for (const cue of parsed) expect([cue.line, cue.position, cue.align]).toEqual([0, 95, 'end']);

  // Undo reaches back over a reload.
  await page.reload();
  await expect(page.getByTestId('file-name')).toHaveText('merrowby-clock.en.vtt');
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('preview')).not.toContainText('line:0 position:95%');
});

test('captions made elsewhere come in with their warnings; what cannot be used says why and leaves nothing', async ({
  page
}) => {
  watchConsole(page);
  await page.goto(server.url);
  const bad = join(server.folder, 'letter.mp4');
  writeFileSync(bad, 'Dear Tobin');
  await page.getByLabel('Recording', { exact: true }).setInputFiles(bad);
  await expect(page.getByRole('alert')).toContainText('no sound or video file');
  await checkAccessible(page);
  await page.getByRole('button', { name: 'Dismiss' }).click();
  await page.getByRole('link', { name: 'Hear or import' }).click();
  await page.getByRole('tab', { name: 'Import captions' }).click();
  // Written by an older program of Windows, in Italian.
  const srt = join(server.folder, 'elsewhere.it.srt');
  writeFileSync(
    srt,
    Buffer.from(
      '1\n00:00:01,000 --> 00:00:01,000\nCos\xec fin\xec, perch\xe9 \xe8 tardi\n\n2\n00:00:02,000 --> 00:00:03,000\n<font color=red>Gi\xe0 rosso</font>\n',
      'latin1'
    )
  );
  await page.getByLabel('Captions file').setInputFiles(srt);
  await expect(page.getByLabel('First lines')).toContainText('Così finì, perché è tardi');
  await expect(page.getByRole('combobox', { name: 'Encoding' })).toHaveValue('windows-1252');
  await expect(page.getByRole('form', { name: /^Import/ })).toContainText('Italian');
  await checkAccessible(page);
  await page.getByRole('combobox', { name: 'Encoding' }).selectOption('Cyrillic (Windows-1251)');
  await expect(page.getByLabel('First lines')).not.toContainText('Così');
  await page.getByRole('combobox', { name: 'Encoding' }).selectOption('Western (Windows-1252)');
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(page.getByText('2 things were mended or noted')).toBeVisible();
  await checkAccessible(page);
  await page.getByRole('link', { name: 'See it in Time' }).click();
  await expect(page.getByTestId('cue-text')).toHaveValue('Così finì, perché è tardi');
  await page.getByLabel('Track', { exact: true }).selectOption('English captions');
  await expect(page.getByTestId('cue-text')).not.toHaveValue('Così finì, perché è tardi');
  await page.goBack();
  const empty = join(server.folder, 'empty.vtt');
  writeFileSync(empty, 'WEBVTT\n');
  await page.goBack();
  const name = page.getByLabel('Name of Italian captions');
  await name.fill('From the archive');
  await name.press('Enter');
  await expect(page.getByRole('link', { name: 'Italian captions, From the archive' })).toBeVisible();
  await page.getByRole('tab', { name: 'Import captions' }).click();
  await page.getByLabel('Captions file').setInputFiles(empty);
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('No cue can be read');

  // Into the bin and back.
  await page.goto(server.url);
  await page.getByRole('button', { name: 'Put Merrowby clock in the bin' }).click();
  await expect(page.getByText('Nothing to caption yet')).toBeVisible();
  await page.getByRole('button', { name: 'Bin (1)' }).click();
  await checkAccessible(page);
  await page.getByRole('button', { name: 'Bring back' }).click();
  await expect(page.getByRole('link', { name: 'Merrowby clock' })).toBeVisible();
  expect((await ask(server, '/api/recordings')).body.recordings[0].tracks).toHaveLength(2);
});

test('a video that browsers do not play is played as a copy; empty cues are laid on its speech and typed into', async ({
  page
}) => {
  watchConsole(page);
  const sound = join(server.folder, 'spoken.wav');
  writeFileSync(sound, speech(TALK.slice(0, 2)));
  const film = join(server.folder, 'mill_of_quenby.avi');
  writeFileSync(
    film,
    media('avi', [
      ...['-f', 'lavfi', '-i', 'testsrc=duration=6:size=161x91:rate=10', '-i', sound],
      ...['-c:v', 'mpeg4', '-c:a', 'mp3', '-shortest']
    ])
  );
  await page.goto(server.url);
  await page.getByLabel('Recording', { exact: true }).setInputFiles(film);
  await page
    .getByRole('row')
    .filter({ has: page.getByRole('link', { name: 'Mill of quenby' }) })
    .getByRole('link', { name: 'Hear', exact: true })
    .click();
  await page.getByText('Change', { exact: true }).click();
  await page.getByLabel('In this recording').fill('Quenby = kwen bee\n***');
  await expect(page.getByText('nothing in it can be spoken: ***')).toBeVisible();
  await page.getByRole('combobox', { name: 'Language spoken' }).selectOption({ label: 'Welsh' });
  await expect(page.getByText('Welsh is not heard here; a script of it is laid on the sound.')).toBeVisible();
  await page.getByRole('radio', { name: 'Empty cues on the speech' }).check();
  await checkAccessible(page);
  await page.getByRole('button', { name: 'Time it' }).click();
  await page.getByRole('link', { name: 'Type into them' }).click();
  await expect(page.getByText('Welsh captions')).toBeVisible();
  await page.locator('[data-cue]').first().waitFor();
  await page.keyboard.press('Enter');
  await page.keyboard.type('Bore da.');
  await page.keyboard.press('Escape');
  await saved(page);
  await expect(page.getByTestId('picture-cue')).toHaveText('Bore da.');
  expect(await page.locator('video').evaluate((video: HTMLVideoElement) => video.videoWidth)).toBe(160);
});
