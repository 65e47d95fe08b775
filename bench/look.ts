/** Looks: what drawing, judging and rendering them costs, against ffmpeg alone on the same files in the same run. */
import { execFile } from 'node:child_process';
import { readFileSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { createCanvas } from '@napi-rs/canvas';
import { formatSrt } from '../src/lib/core/formats';
import { AT_REST, blockOf, compose, contrastOfCues, measureAdvances, paintDrawing } from '../src/lib/core/layout';
import { LightMeter } from '../src/lib/core/light';
import { newPath, shelf } from '../src/lib/core/testing/fonts';
import { ask, jobEnd, newFolder, send, startServer, upload, until, type Server } from '../tests/server/harness';
import { trackOf } from './core';
import { launch, scriptPerFrame } from './browser';
import { at95, median } from './figures';
import { makeTalk } from './material';
import type { Row } from './table';

const SECONDS = 60;
const run = promisify(execFile);

/** Something that moves, with sound: 720p, 25 frames a second. */
async function makeFilm(seconds: number): Promise<string> {
  const path = join(newFolder(), 'film.mp4');
  await run('ffmpeg', [
    ...['-nostdin', '-v', 'error', '-y', '-f', 'lavfi', '-i', 'testsrc2=s=1280x720:r=25,noise=alls=4:allf=t'],
    ...['-f', 'lavfi', '-i', 'sine=440', '-t', String(seconds)],
    ...['-c:v', 'libx264', '-preset', 'veryfast', '-pix_fmt', 'yuv420p', '-c:a', 'aac', path]
  ]);
  return path;
}

const timed = (work: () => void): number => {
  const from = performance.now();
  work();
  return performance.now() - from;
};

const timedRun = async (args: readonly string[]): Promise<number> => {
  const from = performance.now();
  await run('ffmpeg', ['-nostdin', '-v', 'error', '-y', ...args]);
  return performance.now() - from;
};

/** As the render encodes, without captions. */
const encodeAlone = (film: string): Promise<number> =>
  timedRun([
    ...['-i', film, '-map', '0:v', '-map', '0:a', '-c:v', 'libx264', '-preset', 'veryfast', '-crf', '20'],
    ...['-pix_fmt', 'yuv420p', '-c:a', 'copy', join(newFolder(), 'alone.mp4')]
  ]);

const decodeAlone = (film: string): Promise<number> => timedRun(['-i', film, '-map', '0:v', '-f', 'null', '-']);

/** The most memory of the painter and of ffmpeg, in MB, while a job goes on. */
async function watchMemory(server: Server, jobId: string): Promise<number> {
  let most = 0;
  await until(
    async () => {
      const ids = readdirSync(join(server.folder, 'children'));
      const sizes = ids.map((pid) => {
        try {
          return Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4096;
        } catch {
          return 0; // It has ended.
        }
      });
      most = Math.max(
        most,
        sizes.reduce((sum, one) => sum + one, 0)
      );
      return (await ask(server, `/api/jobs/${jobId}`)).body.job.state as string;
    },
    (state) => !['queued', 'running'].includes(state)
  );
  return most / 1e6;
}

export async function lookRows(): Promise<Row[]> {
  const rows: Row[] = [];
  const track = trackOf(makeTalk(18_000));
  const picture = { width: 1280, height: 720 };

  const some = track.cues.slice(0, 300);
  const composing = some.map((cue) => timed(() => compose(blockOf(track, cue), picture, shelf)));
  const context = createCanvas(picture.width, picture.height).getContext('2d');
  const drawings = some.map((cue) => compose(blockOf(track, cue), picture, shelf).drawing);
  const painting = drawings.map((drawing) =>
    timed(() => {
      context.clearRect(0, 0, picture.width, picture.height);
      paintDrawing(context, newPath, drawing, AT_REST);
    })
  );
  rows.push({ what: 'a cue laid out (Node)', value: median(composing), unit: 'ms' });
  rows.push({ what: 'a cue painted (Node)', value: median(painting), unit: 'ms', budget: 2 });

  const meter = new LightMeter();
  const frame = new Uint8Array(320 * 180 * 3).map((_, at) => (at * 7919) % 251);
  const measuring: number[] = [];
  for (let at = 0; at < 200; at++) measuring.push(timed(() => meter.push(frame)));
  rows.push({ what: 'a frame measured for the light map', value: median(measuring), unit: 'ms' });
  const map = { bytes: meter.finish() };
  const advances = measureAdvances(
    shelf.find('atkinson-600')!,
    track.words.map(({ text }) => text)
  );
  const judging = [0, 1, 2, 3, 4].map(() => timed(() => contrastOfCues(track, { picture, advances, map })));
  rows.push({ what: `contrast of ${track.cues.length} cues`, value: median(judging), unit: 'ms', budget: 200 });

  const film = await makeFilm(SECONDS);
  const server = await startServer();
  try {
    let recordingId = '';
    const ratios: number[] = [];
    for (let pair = 0; pair < 3; pair++) {
      const { body } = await upload(server, 'film.mp4', readFileSync(film));
      recordingId = body.recording.id as string;
      await jobEnd(server, body.recording.jobId as string);
      await ask(server, `/api/recordings/${recordingId}/speech`);
      const decoded = await decodeAlone(film);
      const from = performance.now();
      await jobEnd(server, (await ask(server, `/api/recordings/${recordingId}/light`)).body.job.id as string);
      ratios.push((performance.now() - from) / decoded);
    }
    rows.push({
      what: `light map of ${SECONDS} s of 720p, against decoding alone`,
      value: median(ratios),
      unit: '×',
      budget: 1.15
    });

    // A cue every three seconds, seven words each.
    const short = trackOf(makeTalk(140));
    const { track: made } = (
      await send(server, `/api/recordings/${recordingId}/tracks`, {
        format: 'srt',
        language: 'en',
        content: formatSrt(short)
      })
    ).body;
    let memory = 0;
    /** How fast it is against encoding the same film alone: in pairs, since the machine's own speed drifts. */
    const speedWith = async (look: object): Promise<number> => {
      const { revision } = (await ask(server, `/api/tracks/${made.id}`)).body.track;
      await send(server, `/api/tracks/${made.id}/edits`, { revision, edits: [{ type: 'setLook', look }] });
      const speeds: number[] = [];
      for (let pair = 0; pair < 3; pair++) {
        const alone = await encodeAlone(film);
        const from = performance.now();
        const { job } = (
          await send(server, `/api/recordings/${recordingId}/renders`, {
            ...{ trackId: made.id, captions: 'burned', container: 'mp4', video: { codec: 'h264', quality: 60 } }
          })
        ).body;
        memory = Math.max(memory, await watchMemory(server, job.id as string));
        speeds.push(alone / (performance.now() - from));
      }
      return median(speeds);
    };
    for (const [what, least, look] of [
      ['captions', 0.8, {}],
      ['words as they are spoken', 0.6, { motion: { follow: 'box' } }],
      ['captions that fade', 0.6, { motion: { follow: 'none', come: 'fade', go: 'fade' } }]
    ] as const)
      rows.push({
        what: `720p with ${what}, speed against encoding alone (at least ${least})`,
        value: await speedWith(look),
        unit: '×'
      });
    rows.push({ what: 'most memory of a render, painter and ffmpeg', value: memory, unit: 'MB', budget: 400 });
    const { track: long } = (
      await send(server, `/api/recordings/${recordingId}/tracks`, {
        ...{ format: 'srt', language: 'en', content: formatSrt(track) }
      })
    ).body;
    rows.push(
      ...(await previewRows(`${server.url}/recordings/${recordingId}/tracks`, { long: long.id, playing: made.id }))
    );
    const { renders } = (await ask(server, `/api/recordings/${recordingId}/renders`)).body;
    rows.push({
      what: 'size of the video, against the film',
      value: renders[0].bytes / statSync(film).size,
      unit: '×'
    });
  } finally {
    await server.stop();
  }
  return rows;
}

/** What the preview costs in Chromium: a value tried on a track of two hours, and playing with a box that follows the voice. */
async function previewRows(tracks: string, { long, playing }: { long: string; playing: string }): Promise<Row[]> {
  const browser = await launch([]);
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${tracks}/${long}/dress`);
    await page.getByTestId('picture').locator('canvas').waitFor();
    const changes: number[] = [];
    for (let at = 0; at < 20; at++)
      changes.push(
        await page.evaluate(
          async (value) => {
            const slider = document.querySelector<HTMLInputElement>('input[type=range][aria-label=Size]')!;
            const canvas = document.querySelector('[data-testid=picture] canvas')!;
            const painted = new Promise<void>((done) => {
              const watch = new MutationObserver(() => {
                watch.disconnect();
                requestAnimationFrame(() => done());
              });
              watch.observe(canvas, { attributes: true, attributeFilter: ['width', 'height', 'style'] });
            });
            const from = performance.now();
            slider.value = String(value);
            slider.dispatchEvent(new Event('input', { bubbles: true }));
            await painted;
            return performance.now() - from;
          },
          5 + (at % 7)
        )
      );
    const rows: Row[] = [
      {
        what: 'a value tried, seen on the picture, 2,250 cues: median',
        value: median(changes),
        unit: 'ms',
        budget: 50
      },
      { what: 'a value tried, seen on the picture, 2,250 cues: 95th percentile', value: at95(changes), unit: 'ms' }
    ];
    await page.goto(`${tracks}/${playing}/dress`);
    await page.getByTestId('picture').locator('canvas').waitFor();
    await page.getByRole('tab', { name: 'Motion' }).click();
    await page.getByRole('radio', { name: 'Box' }).click();
    const cdp = await page.context().newCDPSession(page);
    await cdp.send('Performance.enable');
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    rows.push({
      what: 'script a frame while playing in Dress, a box on the spoken word',
      value: await scriptPerFrame(page, cdp, () => page.waitForTimeout(6000)),
      unit: 'ms',
      budget: 2
    });
    const hasStopped = await page.locator('video').evaluate((video: HTMLVideoElement) => video.paused || video.ended);
    if (hasStopped) throw new Error('The film did not play while its preview was measured.');
    return rows;
  } finally {
    await browser.close();
  }
}
