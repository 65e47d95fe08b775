/** Speaking into the application: words while they are spoken, a sentence said anew, nothing lost, a recording at the end. */
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { chromium, expect, test, type Browser, type Page } from '@playwright/test';
import {
  ask,
  checkAccessible,
  HEARING_MS,
  newFolder,
  restart,
  speech,
  startServer,
  type Server,
  until,
  watchConsole
} from './support';

let server: Server;
test.beforeAll(async () => {
  server = await startServer();
});
test.afterAll(() => server.stop());

const browsers: Browser[] = [];
test.afterEach(async () => {
  for (const one of browsers.splice(0)) await one.close();
});

/** Sentences with pauses as a microphone brings them; silence before them, to begin in, and behind, as its stand-in needs it. */
function spoken(said: readonly string[], filter = 'anull'): string {
  const folder = newFolder();
  const inputs = said.flatMap((sentence, at) => {
    const path = join(folder, `${at}.wav`);
    writeFileSync(path, speech([sentence]));
    return ['-i', path];
  });
  const brought = join(folder, 'brought.wav');
  const filters = `concat=n=${said.length}:v=0:a=1,${filter},adelay=4000,apad=pad_dur=2`;
  execFileSync('ffmpeg', ['-v', 'error', ...inputs, '-filter_complex', filters, '-ac', '1', '-ar', '48000', brought]);
  return brought;
}

/** A window of a browser whose microphone brings a file from its start each time that it is switched on. */
async function windowWith(microphone: string | null): Promise<Page> {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--autoplay-policy=no-user-gesture-required',
      '--disable-background-networking',
      ...(microphone === null
        ? []
        : [
            '--use-fake-device-for-media-stream',
            '--use-fake-ui-for-media-stream',
            `--use-file-for-fake-audio-capture=${microphone}%noloop`
          ])
    ]
  });
  browsers.push(browser);
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  return context.newPage();
}

const MISTAKEN = ['the clock in the tower is late this morning', 'we have to boil the wheels in the evening'];
const words = (page: Page) => page.getByTestId('live-words');
const sentences = (page: Page) => words(page).locator('p:not(.soft)');
const state = (page: Page) => page.getByTestId('narration-state');
const microphoneOn = (page: Page) => expect(page.getByRole('combobox', { name: 'Microphone' })).toBeVisible();
/** With the microphone's file at its beginning. */
async function record(page: Page): Promise<void> {
  // To be changed by the browser, or not to be, switches it on anew.
  await page.getByLabel('Gain control').setChecked(true);
  await page.getByLabel('Gain control').setChecked(false);
  await microphoneOn(page);
  await page.getByRole('button', { name: 'Record' }).click();
  await expect(state(page)).toHaveText('Recording');
}
const recordingsOf = async () => (await ask(server, '/api/recordings')).body.recordings;

test('a sentence goes wrong and is said anew, the page is closed in the middle and gone on with; heard, trimmed, handed over', async () => {
  const page = await windowWith(spoken(MISTAKEN));
  watchConsole(page);
  await page.goto(server.url);
  await page.getByRole('link', { name: 'Narrate' }).click();
  await microphoneOn(page);
  await page.getByLabel('Title').fill('Winding day');
  await page
    .getByLabel(/^Script/)
    .fill('The clock in the tower is late this morning. We have to oil the wheels in the evening.');
  await checkAccessible(page);

  await record(page);
  await expect(sentences(page)).toHaveCount(2);
  await expect(words(page)).toContainText(/clock|morning/i);
  await expect(page.getByTestId('script').locator('.read').first()).toBeVisible();
  await expect(sentences(page).last()).toContainText(/evening|wheels|have/i);
  await page.keyboard.press('r');
  await expect(state(page)).toHaveText('Paused');
  await page.keyboard.press('a');
  await expect(words(page).locator('.out')).toHaveCount(1);
  await page.keyboard.press('b');
  await expect(words(page).locator('.out')).toHaveCount(0);
  await page.keyboard.press('a');
  await expect(words(page).locator('.out')).toContainText('left out');
  await checkAccessible(page);
  const first = (await sentences(page).first().textContent())!.trim();

  // Another window sees that it is in hand here.
  const other = await page.context().newPage();
  await other.goto(`${server.url}/narrate`);
  await expect(other.getByText('being spoken in another window')).toBeVisible();
  await page.close();
  await other.reload();
  await microphoneOn(other);
  await expect(other.getByText('Winding day')).toBeVisible();
  await other.getByRole('button', { name: 'Go on' }).click();
  await expect(state(other)).toHaveText('Recording');
  await expect(sentences(other).first()).toHaveText(first);
  await expect(words(other).locator('.out')).toHaveCount(1);
  await expect(sentences(other)).toHaveCount(4);
  await expect(sentences(other).last()).toContainText(/evening|wheels|have/i);
  await other.keyboard.press('e');
  await expect(other.getByRole('link', { name: 'Read it' })).toBeVisible({ timeout: HEARING_MS });

  const { id, tracks, durationMs } = (await recordingsOf()).find(
    ({ title }: { title: string }) => title === 'Winding day'
  );
  const [trim] = (await ask(server, `/api/recordings/${id}/trims`)).body.trims;
  expect(durationMs - trim.durationMs).toBeGreaterThan(300);
  await other.goto(`${server.url}/recordings/${id}/tracks/${tracks[0].id}/trim`);
  await expect(other.getByTestId('trim-text').locator('.out').first()).toBeVisible();
  const said = async (trimmed: string): Promise<string> =>
    (await ask(server, `/api/tracks/${tracks[0].id}/export?format=txt${trimmed}`)).body as string;
  const boiled = (text: string): number => [...text.matchAll(/evening|wheels|have to/gi)].length;
  expect(boiled(await said(`&trimId=${trim.id}`))).toBeLessThan(boiled(await said('')));
  await other.goto(`${server.url}/recordings/${id}/tracks/${tracks[0].id}/hand-over`);
  await expect(other.getByText('As recorded').first()).toBeAttached();
});

test('the server is killed while somebody speaks and comes back: nothing is missing', async () => {
  const page = await windowWith(spoken(MISTAKEN));
  await page.goto(`${server.url}/narrate`);
  await microphoneOn(page);
  await page.getByLabel('Title').fill('Through the storm');
  await record(page);
  const spokenMs = async (): Promise<number> => {
    const [minutes, seconds] = (await page.getByTestId('narrated').textContent())!.split(':').map(Number);
    return (minutes! * 60 + seconds!) * 1000;
  };
  await expect.poll(spokenMs).toBeGreaterThanOrEqual(2000);
  await server.stop('SIGKILL');
  const away = page.getByRole('alert').filter({ hasText: 'The server does not answer' });
  await expect(away).toBeVisible();
  const awayMs = await spokenMs();
  await expect.poll(spokenMs, { message: 'it goes on being recorded' }).toBeGreaterThanOrEqual(awayMs + 2000);
  server = await restart(server);
  await expect(away).toHaveCount(0);
  await expect(words(page)).toContainText(/clock|morning|evening/i);
  await page.keyboard.press('r');
  await expect(state(page)).toHaveText('Paused');
  const allMs = await spokenMs();
  await page.getByRole('button', { name: 'End it' }).click();
  await expect(page).toHaveURL(/hear$/);
  const recording = await until(
    async () => (await recordingsOf()).find(({ title }: { title: string }) => title === 'Through the storm'),
    (found) => found?.state === 'ready'
  );
  expect(Math.floor(recording.durationMs / 1000)).toBe(allMs / 1000);
});

test('that there is no microphone is told', async () => {
  const none = await windowWith(null);
  await none.goto(`${server.url}/narrate`);
  await none.context().clearPermissions();
  await none.getByRole('button', { name: 'Switch on the microphone' }).click();
  await expect(none.getByRole('alert')).toContainText(/There is no microphone|does not let this page/);
  await checkAccessible(none);
});

for (const way of ['off its track', 'by way of Web Audio'] as const)
  test(`what is wrong with a microphone that is read ${way} is told, and the sound is kept`, async () => {
    const loud = await windowWith(spoken(MISTAKEN, 'volume=40dB'));
    await loud.addInitScript((way) => {
      if (way !== 'off its track') Reflect.deleteProperty(globalThis, 'MediaStreamTrackProcessor');
      const devices = navigator.mediaDevices;
      const open = devices.getUserMedia.bind(devices);
      devices.getUserMedia = async (asked) => {
        const stream = await open(asked);
        (window as unknown as { microphone: MediaStreamTrack }).microphone = stream.getAudioTracks()[0]!;
        return stream;
      };
    }, way);
    await loud.goto(`${server.url}/narrate`);
    await microphoneOn(loud);
    await expect(loud.getByRole('alert')).toContainText('Too loud');
    await expect(loud.getByRole('alert')).toContainText('Nothing comes in');
    await loud.getByRole('button', { name: 'Record' }).click();
    await expect(state(loud)).toHaveText('Recording');
    await expect
      .poll(async () => (await ask(server, '/api/recordings/live')).body.narrations[0]?.storedBytes)
      .toBeGreaterThan(0);
    await loud.evaluate(() => {
      const { microphone } = window as unknown as { microphone: MediaStreamTrack };
      microphone.stop();
      microphone.dispatchEvent(new Event('ended'));
    });
    await expect(state(loud)).toHaveText('Paused');
    await expect(loud.getByRole('alert').filter({ hasText: 'The microphone is gone' })).toBeVisible();
    await checkAccessible(loud);
    await loud.getByRole('button', { name: 'Go on' }).click();
    await expect(state(loud)).toHaveText('Recording');
    await expect(loud.getByText('The microphone is gone')).toHaveCount(0);
    await expect(loud.getByTestId('narrated')).not.toHaveText('0:00');
    await loud.keyboard.press('e');
    await expect(loud).toHaveURL(/hear$/);
  });
