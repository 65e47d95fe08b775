/** 0 ms is `currentTime` 0 of the media as the browser plays it: one click, found by the server and heard in Chromium. */
import { expect, test, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { compand, LEVEL_BUCKET_MS } from '../src/lib/core/audio';
import { soundOf, startServer, upload, type Server } from './support';

let server: Server;
test.beforeAll(async () => {
  server = await startServer();
});
test.afterAll(() => server.stop());

const CLICK_MS = 1500;

/** Three seconds of silence with a click of 4 ms. */
function clickTrack(folder: string): string {
  const path = join(folder, 'click.wav');
  const at = CLICK_MS / 1000;
  writeFileSync(path, soundOf(`0.9*sin(2*PI*1800*t)*between(t,${at},${at + 0.004})`, 3, 44_100));
  return path;
}

const inFolder = (name: string, args: (click: string) => string[]) => (): Buffer => {
  const path = join(server.folder, name);
  execFileSync('ffmpeg', ['-nostdin', '-v', 'error', '-y', ...args(clickTrack(server.folder)), path]);
  return readFileSync(path);
};

/** Where the server found the click. */
async function onServer(id: string): Promise<number> {
  const levels = new Uint8Array(await (await fetch(`${server.url}/api/recordings/${id}/levels`)).arrayBuffer());
  for (let bucket = 0; bucket < levels.length / 3; bucket++)
    if (levels[bucket * 3 + 1]! > compand(0.25)) return bucket * LEVEL_BUCKET_MS;
  return -1;
}

/** A picture that turns from black to white after so many seconds. */
const flash = (seconds: number): string => `color=white:s=160x90:r=25:d=2.5,fade=in:st=${seconds}:d=0.02`;

const CASES: [name: string, file: string, make: () => Buffer][] = [
  ['WAV', 'zero.wav', inFolder('zero.wav', (click) => ['-i', click])],
  [
    'MP4/AAC with an edit list',
    'zero.mp4',
    inFolder('zero.mp4', (click) => ['-i', click, '-c:a', 'aac', '-b:a', '128k'])
  ],
  ['MP3', 'zero.mp3', inFolder('zero.mp3', (click) => ['-i', click, '-b:a', '128k'])],
  ['Ogg Opus', 'zero.opus', inFolder('zero.opus', (click) => ['-i', click, '-c:a', 'libopus'])],
  [
    'MPEG-TS, played as a copy',
    'zero.ts',
    inFolder('zero.ts', (click) => [
      ...['-f', 'lavfi', '-i', 'testsrc=duration=3:size=160x90:rate=25', '-i', click],
      ...['-c:v', 'mpeg2video', '-c:a', 'mp2', '-output_ts_offset', '600']
    ])
  ],
  [
    'MP4 video of a variable rate',
    'zero-vfr.mp4',
    inFolder('zero-vfr.mp4', (click) => [
      '-f',
      'lavfi',
      '-i',
      "testsrc=duration=3:size=160x90:rate=30,select='not(mod(n,7))+gt(random(1),0.6)'",
      '-i',
      click,
      '-vsync',
      'vfr',
      '-c:v',
      'libx264',
      '-pix_fmt',
      'yuv420p',
      '-bf',
      '2',
      '-c:a',
      'aac'
    ])
  ],
  [
    'MP4 video whose sound starts late',
    'zero-late.mp4',
    inFolder('zero-late.mp4', (click) => [
      '-f',
      'lavfi',
      '-i',
      'testsrc=duration=3:size=160x90:rate=25',
      '-ss',
      '0.4',
      '-i',
      click,
      '-itsoffset',
      '0.4',
      '-ss',
      '0.4',
      '-i',
      click,
      '-map',
      '0:v',
      '-map',
      '2:a',
      '-c:v',
      'libx264',
      '-pix_fmt',
      'yuv420p',
      '-c:a',
      'aac'
    ])
  ],
  [
    'M4A that starts half a second late',
    'late.m4a',
    inFolder('late.m4a', (click) => ['-itsoffset', '0.5', '-ss', '0.5', '-i', click, '-c:a', 'aac'])
  ],
  [
    'usual Opus in WebM, which begins before its zero',
    'opus.webm',
    inFolder('opus.webm', (click) => ['-i', click, '-c:a', 'libopus'])
  ],
  [
    'WebM with picture, whose streams start 1 s late',
    'late.webm',
    inFolder('late.webm', (click) => [
      ...['-f', 'lavfi', '-i', flash(0.5), '-ss', '1', '-i', click],
      ...['-c:v', 'libvpx', '-c:a', 'libopus', '-output_ts_offset', '1']
    ])
  ],
  [
    'MP4 whose picture starts late',
    'late-picture.mp4',
    inFolder('late-picture.mp4', (click) => [
      ...['-itsoffset', '0.4', '-f', 'lavfi', '-i', flash(1.1), '-i', click, '-map', '0:v', '-map', '1:a'],
      ...['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'aac']
    ])
  ]
];

/** Says at which second of the audio graph's clock a click begins: exact to the sample, however busy the page. */
const CLICK_FINDER = `
registerProcessor('click-finder', class extends AudioWorkletProcessor {
  process([[samples]]) {
    const at = samples ? samples.findIndex((sample) => Math.abs(sample) > 0.25) : -1;
    if (at >= 0) this.port.postMessage(currentTime + at / sampleRate);
    return true;
  }
});`;

/** Where the browser plays the click, in ms of the media. */
const inBrowser = (page: Page, path: string): Promise<number> =>
  page.evaluate(
    async ([url, clickFinder]) => {
      // The graph's clock and the media's run side by side: what lies between them says what a sample's time was.
      const context = new AudioContext();
      const module = URL.createObjectURL(new Blob([clickFinder], { type: 'text/javascript' }));
      await context.audioWorklet.addModule(module);
      const element = document.createElement('video');
      element.src = url;
      await new Promise((done) => (element.oncanplaythrough = done));
      const finder = new AudioWorkletNode(context, 'click-finder');
      const click = new Promise<number>((found) => (finder.port.onmessage = ({ data }) => found(data as number)));
      context.createMediaElementSource(element).connect(finder).connect(context.destination);
      const between: number[] = [];
      await element.play();
      await new Promise<void>((done) => {
        const look = (): void => {
          if (element.ended) return done();
          if (element.currentTime > 0.4) between.push(context.currentTime - element.currentTime);
          requestAnimationFrame(look);
        };
        look();
      });
      const clickAt = await click;
      await context.close();
      between.sort((one, other) => one - other);
      return (clickAt - between[Math.floor(between.length / 2)]!) * 1000;
    },
    [path, CLICK_FINDER] as const
  );

/** When the picture turns white in the browser, in ms of the media: looked for by halves. */
const whiteInBrowser = (page: Page, path: string): Promise<number> =>
  page.evaluate(async (url) => {
    const element = document.createElement('video');
    element.src = url;
    await new Promise((done) => (element.onloadeddata = done));
    const canvas = new OffscreenCanvas(16, 9);
    const context = canvas.getContext('2d', { willReadFrequently: true })!;
    const isWhite = async (seconds: number): Promise<boolean> => {
      const shown = new Promise((done) => (element.onseeked = done));
      element.currentTime = seconds;
      await shown;
      context.drawImage(element, 0, 0, 16, 9);
      return context.getImageData(8, 4, 1, 1).data[0]! > 128;
    };
    // A browser may still draw the picture from before a seek: what is found is looked at once more from both sides.
    for (;;) {
      let [from, to] = [0.05, element.duration - 0.1];
      while (to - from > 0.005) {
        const middle = (from + to) / 2;
        if (await isWhite(middle)) to = middle;
        else from = middle;
      }
      if ((await isWhite(to + 0.05)) && !(await isWhite(from - 0.05))) return to * 1000;
    }
  }, path);

// The application's own policy lets no script in that it did not ship; the click finder is such a one.
test.use({ bypassCSP: true });

test('the click is where it is played, in every kind of file', async ({ page }) => {
  await page.goto(server.url);
  const found: Record<string, { server: number; browser: number }> = {};
  for (const [name, file, make] of CASES) {
    const { body } = await upload(server, file, make());
    expect(body.recording, `${name}: ${JSON.stringify(body)}`).toBeTruthy();
    const id = body.recording.id as string;
    found[name] = { server: await onServer(id), browser: await inBrowser(page, `/api/recordings/${id}/media`) };
  }
  console.log(JSON.stringify(found));
  for (const [name, click] of Object.entries(found)) {
    expect(Math.abs(click.server - click.browser), `${name}: ${JSON.stringify(click)}`).toBeLessThanOrEqual(10);
    expect(Math.abs(click.server - CLICK_MS), `${name} on the server`).toBeLessThanOrEqual(10);
  }
});

test('a change of the picture is where it is shown, also where the streams start late', async ({ page }) => {
  await page.goto(server.url);
  for (const [name, file, make] of CASES.filter(([, file]) => ['late.webm', 'late-picture.mp4'].includes(file))) {
    const { body } = await upload(server, file, make());
    const id = body.recording.id as string;
    const { shotsMs } = (await (await fetch(`${server.url}/api/recordings/${id}/shots`)).json()) as {
      shotsMs: number[];
    };
    const browser = await whiteInBrowser(page, `/api/recordings/${id}/media`);
    const nearest = Math.min(...shotsMs.map((ms) => Math.abs(ms - browser)));
    expect(nearest, `${name}: ${JSON.stringify({ shotsMs, browser })}`).toBeLessThanOrEqual(45);
  }
});
