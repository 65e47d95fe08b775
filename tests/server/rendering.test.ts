import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { PictureSize } from '../../src/lib/core/layout';
import { DRESSED_CUES, paintCue } from '../../src/lib/core/testing/fonts';
import { trackSchema, type Track } from '../../src/lib/core/track';
import { frameAt, strayPixels, structuralSimilarity, withoutAlpha, type Picture } from './pictures';
import {
  ask,
  filesIn,
  jobEnd,
  media,
  newFolder,
  removeFolders,
  send,
  startServer,
  tone,
  until,
  upload,
  type Answer,
  type Server
} from './harness';

let server: Server;
beforeAll(async () => {
  server = await startServer();
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

const SRT = [
  '1\n00:00:01,000 --> 00:00:02,000\nGood evening, and welcome\nto the tower.\n',
  '2\n00:00:02,500 --> 00:00:03,500\nMind the step, שלום, 時計.\n'
].join('\n');

const SINE = ['-f', 'lavfi', '-i', 'sine=440:duration=4'];
const H264 = ['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-crf', '4', '-c:a', 'aac'];
const grey = (size: string, more = ''): string[] => ['-f', 'lavfi', '-i', `color=c=0x557766:s=${size}:r=25:d=4${more}`];
const film = (size = '640x360'): Buffer => media('mp4', [...grey(size), ...SINE, ...H264]);

interface Made {
  readonly recordingId: string;
  readonly track: Track;
}

async function bring(name: string, bytes: Uint8Array, look: object = {}, srt = SRT): Promise<Made> {
  const { body } = await upload(server, name, bytes);
  const recordingId = body.recording.id as string;
  const { track } = (
    await send(server, `/api/recordings/${recordingId}/tracks`, { format: 'srt', language: 'en', content: srt })
  ).body;
  await send(server, `/api/tracks/${track.id}/edits`, { revision: 0, edits: [{ type: 'setLook', look }] });
  return { recordingId, track: await documentOf(track.id as string) };
}

const documentOf = async (trackId: string): Promise<Track> =>
  trackSchema.parse((await ask(server, `/api/tracks/${trackId}/document`)).body.track);

const ask4 = ({ recordingId, track }: Made, request: object): Promise<Answer> =>
  send(server, `/api/recordings/${recordingId}/renders`, {
    ...{ trackId: track.id, captions: 'burned', container: 'mp4', video: { codec: 'h264', quality: 96 } },
    ...request
  });

/** Renders, and gives the path of a copy of the file. */
async function render(made: Made, request: object = {}): Promise<{ path: string; render: Answer['body'] }> {
  const asked = await ask4(made, request);
  expect(asked.status, JSON.stringify(asked.body)).toBe(202);
  const job = await jobEnd(server, asked.body.job.id);
  expect(job, JSON.stringify(job)).toMatchObject({ state: 'done' });
  const { render: about } = (await ask(server, `/api/renders/${job.result.renderId}`)).body;
  const file = await fetch(`${server.url}/api/renders/${about.id}/file`);
  expect(file.headers.get('content-type')).toBe(about.mime);
  const path = join(newFolder(), 'rendered');
  writeFileSync(path, Buffer.from(await file.arrayBuffer()));
  return { path, render: about };
}

/** What the preview draws of a cue, over a plain colour. */
function previewOf(track: Track, cueAt: number, { width, height }: PictureSize, over: string): Uint8Array {
  const context = paintCue(track, track.cues[cueAt]!, { width, height }, over);
  return withoutAlpha(context.getImageData(0, 0, width, height).data);
}

const probe = (path: string): { streams: Record<string, string>[]; format: Record<string, string> } =>
  JSON.parse(execFileSync('ffprobe', ['-v', 'error', '-show_streams', '-show_format', '-of', 'json', path]).toString());

/** Whether there are captions on the frame: something brighter than the plain picture. */
const hasText = ({ rgb }: Picture): boolean => rgb.some((value) => value > 170);

describe('captions burnt in', () => {
  test('look as the preview draws them: forty cues of six scripts, every box and place, three sizes', async () => {
    const clock = (at: number, ms: string): string => `00:00:${String(at).padStart(2, '0')},${ms}`;
    const srt = DRESSED_CUES.map(
      ({ lines }, at) => `${at + 1}\n${clock(at, '100')} --> ${clock(at, '900')}\n${lines.join('\n')}\n`
    ).join('\n');
    const seconds = DRESSED_CUES.length;
    const picture = ['-f', 'lavfi', '-i', `color=c=0x557766:s=640x360:r=10:d=${seconds}`];
    const bytes = media('mp4', [...picture, '-f', 'lavfi', '-i', `sine=440:duration=${seconds}`, ...H264]);
    const made = await bring('film.mp4', bytes, {}, srt);
    const edits = DRESSED_CUES.map(({ look, placement }, at) => ({
      ...{ type: 'setCueLooks', cueIds: [made.track.cues[at]!.id], look: { ...look, placement } }
    }));
    await send(server, `/api/tracks/${made.track.id}/edits`, { revision: 1, edits });
    const dressed = await documentOf(made.track.id);
    const { path } = await render(made);
    for (const at of DRESSED_CUES.keys()) {
      const frame = frameAt(path, at + 0.5);
      const preview = previewOf(dressed, at, frame, '#557766');
      expect(structuralSimilarity(frame.rgb, preview, frame), `cue ${at}`).toBeGreaterThan(0.99);
      expect(strayPixels(frame.rgb, preview, frame), `cue ${at}`).toBe(0);
    }
  });

  test('are there from the frame that they begin at to the one before they end, and the sound is left as it is', async () => {
    const made = await bring('film.mp4', film());
    const { path, render: about } = await render(made);
    const at = (seconds: number): boolean => hasText(frameAt(path, seconds));
    expect([0.9, 0.96, 1, 1.9, 1.96, 2, 2.46].map(at)).toEqual([false, false, true, true, true, false, false]);
    const hashOf = (file: string): string =>
      execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-map', '0:a', '-c', 'copy', '-f', 'md5', '-']).toString();
    const source = join(newFolder(), 'source.mp4');
    writeFileSync(source, film());
    expect(hashOf(path)).toBe(hashOf(source));
    expect(about).toMatchObject({
      state: 'done',
      name: 'film.en.mp4',
      mime: 'video/mp4',
      durationMs: expect.closeTo(4000, -2)
    });
  });

  test('in pictures of another shape, odd sizes, turned pictures, other rates, late pictures, and other formats', async () => {
    const turned = (): Buffer => {
      const [flat, path] = [join(newFolder(), 'flat.mp4'), join(newFolder(), 'turned.mp4')];
      writeFileSync(flat, film('320x180'));
      execFileSync('ffmpeg', ['-v', 'error', '-y', '-i', flat, '-c', 'copy', '-metadata:s:v', 'rotate=90', path]);
      return readFileSync(path);
    };
    const late = (): Buffer =>
      media('mp4', [...SINE, '-itsoffset', '0.5', ...grey('320x180'), ...H264, '-map', '0:a', '-map', '1:v']);
    const uneven = (): Buffer =>
      media('mkv', [...grey('322x182'), ...SINE, '-vf', "select='not(eq(mod(n,3),1))'", '-vsync', 'vfr', ...H264]);
    const cases: [string, Buffer, object, { width: number; height: number }][] = [
      [
        'upright.mp4',
        film('320x180'),
        { video: { codec: 'h264', aspect: '9:16', fit: 'crop' } },
        { width: 180, height: 320 }
      ],
      [
        'bars.mp4',
        film('320x180'),
        { video: { codec: 'h264', aspect: '1:1', fit: 'pad', height: 240 } },
        { width: 240, height: 240 }
      ],
      [
        'odd.mkv',
        media('mkv', [...grey('321x181'), ...SINE, '-c:v', 'ffv1', '-c:a', 'aac']),
        {},
        { width: 320, height: 180 }
      ],
      ['turned.mp4', turned(), {}, { width: 180, height: 320 }],
      ['uneven.mkv', uneven(), {}, { width: 322, height: 182 }],
      ['late.mp4', late(), {}, { width: 320, height: 180 }],
      [
        'web.mp4',
        film('320x180'),
        { container: 'webm', video: { codec: 'vp9', quality: 60 } },
        { width: 320, height: 180 }
      ],
      ['small.mp4', film('64x64'), { container: 'mkv' }, { width: 64, height: 64 }]
    ];
    for (const [name, bytes, request, size] of cases) {
      const made = await bring(name, bytes, { sizePercent: 9 });
      const { path } = await render(made, request);
      const { streams } = probe(path);
      const picture = streams.find(({ codec_type: kind }) => kind === 'video')!;
      expect([Number(picture.width), Number(picture.height)], name).toEqual([size.width, size.height]);
      expect(
        streams.some(({ codec_type: kind }) => kind === 'audio'),
        name
      ).toBe(true);
      expect(
        [0.8, 1.5, 2.2, 3].map((seconds) => hasText(frameAt(path, seconds))),
        name
      ).toEqual([false, true, false, true]);
    }
  });

  test('over a plain background where there is only sound, and a trial of a few seconds', async () => {
    const made = await bring('talk.wav', tone(4));
    const whole = await render(made, { background: '#204060', video: { codec: 'h264', quality: 90, height: 180 } });
    const plain = frameAt(whole.path, 0.5);
    expect([plain.width, plain.height]).toEqual([320, 180]);
    expect([...plain.rgb.subarray(0, 3)].map((value, at) => Math.abs(value - [0x20, 0x40, 0x60][at]!) < 6)).toEqual([
      true,
      true,
      true
    ]);
    expect([0.5, 1.5, 2.2].map((seconds) => hasText(frameAt(whole.path, seconds)))).toEqual([false, true, false]);
    const waved = await render(made, { background: '#204060', waveform: true, video: { codec: 'h264', quality: 90 } });
    const bright = (seconds: number): number => frameAt(waved.path, seconds).rgb.filter((value) => value > 170).length;
    // More of it has been played, and what has is brighter.
    expect(bright(3.9)).toBeGreaterThan(bright(2.2) * 1.3);
    const film4 = await bring('film.mp4', film('320x180'));
    const trial = await render(film4, { fromMs: 1500, toMs: 2500 });
    expect(Number(probe(trial.path).format.duration)).toBeCloseTo(1, 0);
    expect([0.1, 0.4, 0.6, 0.9].map((seconds) => hasText(frameAt(trial.path, seconds)))).toEqual([
      true,
      true,
      false,
      false
    ]);
  });

  test('words follow the voice', async () => {
    const made = await bring('film.mp4', film('320x180'), { box: { kind: 'none' }, motion: { follow: 'appear' } });
    const { path } = await render(made);
    const ink = (seconds: number): number => frameAt(path, seconds).rgb.filter((value) => value > 200).length;
    const [first, half, all] = [ink(1.02), ink(1.5), ink(1.95)];
    expect(first).toBeGreaterThan(0);
    expect(half).toBeGreaterThan(first);
    expect(all).toBeGreaterThan(half);
  });
});

describe('a render', () => {
  test('is listed, played by ranges, and deleted with its file', async () => {
    const made = await bring('film.mp4', film('320x180'));
    const { render: about } = await render(made);
    const list = async (): Promise<string[]> =>
      (await ask(server, `/api/recordings/${made.recordingId}/renders`)).body.renders.map(
        ({ id }: { id: string }) => id
      );
    expect(await list()).toEqual([about.id]);
    const part = await fetch(`${server.url}/api/renders/${about.id}/file`, { headers: { range: 'bytes=0-99' } });
    expect([part.status, (await part.arrayBuffer()).byteLength]).toEqual([206, 100]);
    expect((await ask(server, `/api/renders/${about.id}`, { method: 'DELETE' })).status).toBe(204);
    expect(await list()).toEqual([]);
    expect((await ask(server, `/api/renders/${about.id}/file`)).status).toBe(404);
    expect(filesIn(server.folder, 'recordings', made.recordingId, 'renders')).toEqual([]);
  });

  test('is refused in words for what cannot be, and nothing is begun', async () => {
    const made = await bring('film.mp4', film('320x180'));
    const other = await bring('talk.wav', tone(3));
    const cases: [object, number, string][] = [
      [{ captions: 'inside', trackIds: [], trackId: undefined }, 400, 'bad_request'],
      [{ captions: 'inside', container: 'wav' }, 422, 'does_not_fit'],
      [{ captions: 'inside', container: 'webm', video: { codec: 'copy' } }, 422, 'does_not_fit'],
      [{ trimId: 'one' }, 404, 'unknown_trim'],
      [{ trackIds: [made.track.id, other.track.id] }, 422, 'does_not_fit'],
      [{ container: 'webm' }, 422, 'does_not_fit'],
      [{ video: { codec: 'copy' } }, 422, 'does_not_fit'],
      [{ container: 'mp3', video: undefined }, 422, 'does_not_fit'],
      [{ fromMs: 3000, toMs: 2000 }, 422, 'does_not_fit'],
      [{ fromMs: 90_000 }, 422, 'does_not_fit'],
      [{ trackId: undefined }, 400, 'bad_request'],
      [{ trackId: other.track.id }, 422, 'unknown_track'],
      [{ video: { codec: 'h264', height: 3 } }, 400, 'bad_request']
    ];
    for (const [request, status, code] of cases) {
      const answer = await ask4(made, request);
      expect([answer.status, answer.body.error?.code], JSON.stringify(request)).toEqual([status, code]);
    }
    const { jobs } = (await ask(server, '/api/jobs')).body;
    expect(jobs.filter((job: { kind: string }) => job.kind === 'render')).toEqual([]);
  });

  test('of sound alone is made too', async () => {
    const made = await bring('film.mp4', film('320x180'));
    for (const container of ['wav', 'm4a', 'flac', 'mp3']) {
      const { path } = await render(made, { captions: 'none', container, video: undefined, trackId: undefined });
      expect(
        probe(path).streams.map(({ codec_type: kind }) => kind),
        container
      ).toEqual(['audio']);
    }
  });

  test('waits for the one before it; cancelled, or its server killed, it leaves nothing half made', async () => {
    const own = await startServer();
    try {
      const long = media('mp4', [
        ...['-f', 'lavfi', '-i', 'testsrc2=s=1280x720:r=25:d=60', '-f', 'lavfi', '-i', 'sine=440:duration=60'],
        ...['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-c:a', 'aac']
      ]);
      const recordingId = (await upload(own, 'long.mp4', long)).body.recording.id as string;
      const { track } = (
        await send(own, `/api/recordings/${recordingId}/tracks`, { format: 'srt', language: 'en', content: SRT })
      ).body;
      const begin = async (): Promise<string> =>
        (
          await send(own, `/api/recordings/${recordingId}/renders`, {
            ...{ trackId: track.id, captions: 'burned', container: 'mp4', video: { codec: 'h265', quality: 80 } }
          })
        ).body.job.id;
      const files = (): string[] => filesIn(own.folder, 'recordings', recordingId, 'renders');
      const [one, two] = [await begin(), await begin()];
      await until(files, (names) => names.length > 0);
      expect((await ask(own, `/api/jobs/${two}`)).body.job.state).toBe('queued');
      await ask(own, `/api/jobs/${two}`, { method: 'DELETE' });
      await ask(own, `/api/jobs/${one}`, { method: 'DELETE' });
      expect((await jobEnd(own, one)).state).toBe('cancelled');
      await until(files, (names) => names.length === 0);
      await begin();
      await until(files, (names) => names.length > 0);
      await own.stop('SIGKILL');
      const again = await startServer(own.folder);
      try {
        const before = (await ask(again, `/api/tracks/${track.id}`)).body.track;
        expect(before.revision).toBe(track.revision);
        const { jobs } = (await ask(again, '/api/jobs')).body;
        const [job] = jobs.filter((one: { kind: string }) => one.kind === 'render');
        await until(files, (names) => names.length === 1);
        await ask(again, `/api/jobs/${job.id}`, { method: 'DELETE' });
        await until(files, (names) => names.length === 0);
      } finally {
        await again.stop();
      }
    } finally {
      await own.stop();
    }
  });
});

const hashOf = (path: string): string => createHash('sha256').update(readFileSync(path)).digest('hex');

describe('captions inside', () => {
  const GERMAN =
    '1\n00:00:01,000 --> 00:00:02,500\nGuten Abend.\n\n2\n00:00:02,000 --> 00:00:03,000\nUnd willkommen.\n';
  /** What lies inside, by a reader that is not ffmpeg. */
  const textsOf = (path: string): Record<string, string>[] =>
    (
      JSON.parse(execFileSync('mediainfo', ['--Output=JSON', path]).toString()) as {
        media: { track: Record<string, string>[] };
      }
    ).media.track.filter((track) => track['@type'] === 'Text');
  const shownIn = (path: string, at: number): string =>
    execFileSync('ffmpeg', ['-v', 'error', '-copyts', '-i', path, '-map', `0:s:${at}`, '-f', 'srt', '-']).toString();
  const packetsOf = (path: string, stream: string): string =>
    execFileSync('ffmpeg', [
      '-v',
      'error',
      '-i',
      path,
      '-map',
      `0:${stream}`,
      '-c',
      'copy',
      '-f',
      'md5',
      '-'
    ]).toString();

  test.each([
    ['mp4', 'Timed Text'],
    ['mov', 'Timed Text'],
    ['mkv', 'UTF-8'],
    ['webm', 'D_WEBVTT/SUBTITLES']
  ] as const)('of an %s file: two languages, marked, and picture and sound as they were', async (container, format) => {
    const bytes =
      container === 'webm'
        ? media('webm', [...grey('320x180'), ...SINE, '-c:v', 'libvpx-vp9', '-c:a', 'libopus'])
        : film('320x180');
    const made = await bring(`film.${container === 'webm' ? 'webm' : 'mp4'}`, bytes, { color: '#ffee00' });
    const german = (
      await send(server, `/api/recordings/${made.recordingId}/tracks`, {
        ...{ format: 'srt', language: 'de', content: GERMAN }
      })
    ).body.track.id as string;
    const { path, render: about } = await render(made, {
      ...{ captions: 'inside', container, video: undefined, trackIds: [made.track.id, german] },
      marks: { defaultTrackId: german, forcedTrackIds: [german] }
    });
    expect(about.name).toBe(`film.captions.${container}`);
    const { versions } = (await ask(server, `/api/tracks/${german}/handed-over`)).body;
    expect(versions[0].files).toEqual([
      expect.objectContaining({
        name: about.name,
        format: container,
        bytes: readFileSync(path).length,
        sha256: hashOf(path)
      })
    ]);
    const texts = textsOf(path);
    expect(texts.map(({ Language, Format }) => [Language, Format])).toEqual([
      ['en', format],
      ['de', format]
    ]);
    const subtitles = probe(path).streams.filter((one) => one.codec_type === 'subtitle') as unknown as {
      disposition: Record<string, number>;
      tags: Record<string, string>;
    }[];
    expect(subtitles.map(({ disposition }) => disposition.default)).toEqual([0, 1]);
    if (container === 'mkv') {
      expect(texts.map(({ Default, Forced }) => [Default, Forced])).toEqual([
        ['No', 'No'],
        ['Yes', 'Yes']
      ]);
      expect(subtitles[0]!.disposition.hearing_impaired).toBe(1);
    }
    expect(subtitles.map(({ tags }) => tags.title ?? tags.handler_name)).toEqual(['English', 'German']);
    expect(shownIn(path, 0)).toContain('Mind the step, שלום, 時計.');
    expect(shownIn(path, 1)).toMatch(/00:00:01,00\d --> [^]*Guten Abend\.[^]*Und willkommen\./);
    const source = join(newFolder(), 'source');
    writeFileSync(source, bytes);
    for (const stream of ['v', 'a']) expect(packetsOf(path, stream)).toBe(packetsOf(source, stream));
  });
});
