import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { trimKind } from '../../src/lib/core/documents';
import { mapOf, trimSchema, type Trim } from '../../src/lib/core/trims';
import { CLICKS, CLICKS_MS, clicksIn, film, flashesIn, run, SECONDS, varying } from './clicks';
import {
  ask,
  jobEnd,
  media,
  newFolder,
  removeFolders,
  send,
  startServer,
  upload,
  uploadMapped,
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

interface Made {
  readonly recordingId: string;
  readonly trimId: string;
}
async function bring(name: string, bytes: Uint8Array, title = 'The long one'): Promise<Made> {
  const { body } = await upload(server, name, bytes);
  const recordingId = body.recording.id as string;
  const made = await send(server, `/api/recordings/${recordingId}/trims`, { title });
  expect(made.status, JSON.stringify(made.body)).toBe(201);
  return { recordingId, trimId: made.body.trim.id as string };
}
const edit = async ({ trimId }: Made, ...edits: readonly object[]): Promise<Answer> => {
  const { body } = await ask(server, `/api/trims/${trimId}`);
  return send(server, `/api/trims/${trimId}/edits`, { revision: body.trim.revision, edits });
};
const documentOf = async ({ trimId }: Made): Promise<Trim> =>
  trimSchema.parse((await ask(server, `/api/trims/${trimId}/document`)).body.trim);

async function render(
  { recordingId, trimId }: Made,
  request: object
): Promise<{ path: string; about: Answer['body'] }> {
  const asked = await send(server, `/api/recordings/${recordingId}/renders`, { captions: 'none', trimId, ...request });
  expect(asked.status, JSON.stringify(asked.body)).toBe(202);
  const job = await jobEnd(server, asked.body.job.id as string);
  expect(job, JSON.stringify(job)).toMatchObject({ state: 'done' });
  const { render: about } = (await ask(server, `/api/renders/${job.result.renderId}`)).body;
  const file = await fetch(`${server.url}/api/renders/${about.id}/file`);
  const path = join(newFolder(), 'rendered');
  writeFileSync(path, Buffer.from(await file.arrayBuffer()));
  return { path, about };
}

/** Away from clicks and white pictures: what lies in a crossfade is heard half, and a picture is white for a while. */
const away = (ms: number): number => (Math.abs((ms % 1000) - 340) < 110 ? ms + 220 : ms);
/** So many places of a recording taken out; a pause put in, and one passage moved to the front. */
const cutAt = (places: number) => [
  {
    type: 'takeOut',
    spans: Array.from({ length: places }, (_, at) => {
      const fromMs = away(Math.round(400 + (at * (SECONDS * 1000 - 1200)) / places) + 7);
      return { fromMs, toMs: away(fromMs + Math.round(Math.min(333, 9000 / places))) };
    })
  },
  { type: 'putInPause', atMs: 2000, lengthMs: 517 },
  { type: 'move', fromMs: 6011, toMs: 8023, beforeMs: 0 }
];

const wantedIn = (trim: Trim, instantsMs: readonly number[] = CLICKS_MS): number[] => {
  const { trimmedAt } = mapOf(trim);
  return instantsMs.flatMap((ms) => trimmedAt(ms)).sort((a, b) => a - b);
};
const eachNear = (found: readonly number[], wanted: readonly number[], mostMs: number): void => {
  expect(found, JSON.stringify({ found, wanted })).toHaveLength(wanted.length);
  found.forEach((ms, at) => expect(Math.abs(ms - wanted[at]!), `${ms} for ${wanted[at]}`).toBeLessThanOrEqual(mostMs));
};

describe('a trim rendered', () => {
  test('as WAV, FLAC, MP3 and M4A has every click where the map says, within 1 ms', async () => {
    const made = await bring('clicks.wav', media('wav', CLICKS));
    expect((await edit(made, ...cutAt(50))).status).toBe(200);
    const trim = await documentOf(made);
    const { lengthMs } = mapOf(trim);
    for (const container of ['wav', 'flac', 'mp3', 'm4a']) {
      const { path, about } = await render(made, { container });
      eachNear(clicksIn(path), wantedIn(trim), 1);
      expect(about.durationMs).toBe(lengthMs);
      expect(about.name).toBe(`clicks-the-long-one.${container}`);
    }
  });

  test.each([['24000/1001'], ['25'], ['30000/1001'], ['varying']])(
    'as video of %s frames a second has sound within 1 ms and picture within a frame, to the end',
    async (rate) => {
      const source = rate === 'varying' ? varying() : film(rate);
      const sourcePath = join(newFolder(), 'source');
      writeFileSync(sourcePath, source);
      const made = await bring(`film ${rate.replace('/', '-')}.mp4`, source);
      expect((await edit(made, ...cutAt(30))).status).toBe(200);
      const trim = await documentOf(made);
      const { path } = await render(made, { container: 'mp4', video: { codec: 'h264' } });
      eachNear(clicksIn(path), wantedIn(trim), 1);
      const { at, times } = flashesIn(path);
      // Within a frame, of those that stand longer within two.
      eachNear(at, wantedIn(trim, flashesIn(sourcePath).at), rate === 'varying' ? 80 : 42);
      expect(Math.abs(times.at(-1)! - mapOf(trim).lengthMs)).toBeLessThan(125);
    }
  );

  test('with its picture copied has the frames of the file itself, each with its sound, and hears nothing more', async () => {
    const source = film('25', ['-bf', '2', '-x264-params', 'keyint=12:min-keyint=12:scenecut=0:bframes=2']);
    const sourcePath = join(newFolder(), 'source');
    writeFileSync(sourcePath, source);
    const made = await bring('copied.mp4', source);
    const spans = [
      { fromMs: 1407, toMs: 4611 },
      { fromMs: 9011, toMs: 12_640 }
    ];
    await edit(
      made,
      { type: 'takeOut', spans },
      { type: 'silence', spans: [{ fromMs: 14_000, toMs: 15_000 }] },
      { type: 'move', fromMs: 8000, toMs: 10_000, beforeMs: 0 },
      { type: 'putInPause', atMs: 2000, lengthMs: 517 }
    );
    const trim = await documentOf(made);
    const told = await ask(server, `/api/trims/${made.trimId}/copying`);
    expect(told.body).toMatchObject({ passages: 5 });
    expect(told.body.mostEarlyMs).toBeGreaterThan(0);
    expect(told.body.mostEarlyMs).toBeLessThan(480);
    for (const container of ['mp4', 'mkv']) {
      const { path, about } = await render(made, { container, video: { codec: 'copy' } });
      const hashes = (from: string): string[] =>
        run('ffmpeg', ['-i', from, '-map', '0:v', '-f', 'framemd5', '-fps_mode', 'passthrough', '-'])
          .toString()
          .split('\n')
          .flatMap((line) => (line.startsWith('#') ? [] : [line.split(',').at(-1)!.trim()]));
      const known = new Set(hashes(sourcePath));
      expect(hashes(path).filter((hash) => !known.has(hash))).toEqual([]);
      const clicks = clicksIn(path);
      const { at, times } = flashesIn(path);
      expect(clicks).toHaveLength(wantedIn(trim).filter((ms) => mapOf(trim).recordedAt(ms) !== 14_300).length);
      const apartMs = flashesIn(sourcePath).at[0]! - CLICKS_MS[0]!;
      for (const ms of clicks) {
        const nearest = Math.min(...at.map((flash) => Math.abs(flash - ms - apartMs)));
        expect(nearest, `${container}: the picture of the click at ${ms}`).toBeLessThan(2);
      }
      expect(Math.abs(times.at(-1)! - about.durationMs)).toBeLessThan(125);
      expect(about.durationMs).toBeGreaterThan(mapOf(trim).lengthMs);
    }
    // A hesitation: no key frame is in it.
    await edit(made, { type: 'takeOut', spans: [{ fromMs: 17_000, toMs: 17_100 }] });
    const refused = await ask(server, `/api/trims/${made.trimId}/copying`);
    expect(refused.status).toBe(422);
    expect(refused.body.error).toMatchObject({
      code: 'does_not_fit',
      message: expect.stringContaining('no key frame in what is taken out')
    });
  });

  test('with captions burnt in and inside has those of what plays; a passage alone is a highlight', async () => {
    const made = await bring('captioned.mp4', film('25'));
    const srt = '1\n00:00:01,000 --> 00:00:02,000\nGone.\n\n2\n00:00:05,000 --> 00:00:07,000\nStays here.\n';
    const { body } = await send(server, `/api/recordings/${made.recordingId}/tracks`, {
      format: 'srt',
      language: 'en',
      content: srt
    });
    const trackId = body.track.id as string;
    await edit(made, { type: 'takeOut', spans: [{ fromMs: 0, toMs: 4000 }] });
    const { path } = await render(made, { container: 'mkv', captions: 'inside', trackIds: [trackId] });
    expect(run('ffmpeg', ['-copyts', '-i', path, '-map', '0:s:0', '-f', 'srt', '-']).toString()).toContain(
      '00:00:01,000 --> 00:00:03,000\nStays here.'
    );
    const burned = await render(made, {
      container: 'mp4',
      captions: 'burned',
      trackId,
      fromMs: 500,
      toMs: 4000,
      video: { codec: 'h264', aspect: '9:16' }
    });
    const inked = (seconds: number): number =>
      Math.max(
        ...run('ffmpeg', [
          '-ss',
          String(seconds),
          '-i',
          burned.path,
          '-frames:v',
          '1',
          '-f',
          'rawvideo',
          '-pix_fmt',
          'gray',
          '-'
        ])
      );
    expect(burned.about.durationMs).toBe(3500);
    // Between the white pictures.
    expect(inked(0.2)).toBeLessThan(60);
    expect(inked(1)).toBeGreaterThan(200);
    expect(inked(2.7)).toBeLessThan(60);
    const file = await ask(server, `/api/tracks/${trackId}/export?format=srt&trimId=${made.trimId}`);
    expect(file.body).toContain('1\n00:00:01,000 --> 00:00:03,000\nStays here.');
    expect(file.body).not.toContain('Gone');
    expect(file.headers.get('content-disposition')).toContain('captioned-the-long-one.en.srt');
  });

  test('is the trim as it was when it was asked for', async () => {
    const made = await bring('changing.wav', media('wav', CLICKS));
    await edit(made, { type: 'takeOut', spans: [{ fromMs: 0, toMs: 10_000 }] });
    const asked = await send(server, `/api/recordings/${made.recordingId}/renders`, {
      captions: 'none',
      container: 'wav',
      trimId: made.trimId
    });
    await edit(made, { type: 'putBack', spans: [{ fromMs: 0, toMs: 20_000 }] });
    const { result } = await jobEnd(server, asked.body.job.id as string);
    const { body } = await ask(server, `/api/renders/${result.renderId}`);
    expect(body.render.durationMs).toBe(10_000);
  });

  test('is brought in as a recording of its own, its tracks carried over exactly', async () => {
    const made = await bring('talk.wav', media('wav', CLICKS));
    const srt = '1\n00:00:01,000 --> 00:00:02,000\nOne.\n\n2\n00:00:12,000 --> 00:00:13,500\nTwo.\n';
    await send(server, `/api/recordings/${made.recordingId}/tracks`, { format: 'srt', language: 'en', content: srt });
    await edit(made, { type: 'takeOut', spans: [{ fromMs: 3000, toMs: 11_000 }] });
    const { about } = await render(made, { container: 'flac' });
    const own = await send(server, `/api/renders/${about.id}/recording`, {});
    expect(own.status).toBe(202);
    await jobEnd(server, own.body.job.id as string);
    const { recording } = (await ask(server, `/api/recordings/${own.body.recording.id}`)).body;
    expect(recording).toMatchObject({ durationMs: 12_000, state: 'ready', title: 'Talk the long one' });
    const { track } = (await ask(server, `/api/tracks/${recording.tracks[0].id}`)).body;
    expect(track.cues.map(({ startMs, endMs, lines }: Answer['body']) => [startMs, endMs, lines[0]])).toEqual([
      [1000, 2000, 'One.'],
      [4000, 5500, 'Two.']
    ]);
  });

  test('of nothing, or of another recording, is refused with a reason', async () => {
    const made = await bring('empty.wav', media('wav', CLICKS));
    const other = await bring('other.wav', media('wav', CLICKS));
    const refused = async (request: object): Promise<string> => {
      const { status, body } = await send(server, `/api/recordings/${made.recordingId}/renders`, {
        captions: 'none',
        container: 'wav',
        ...request
      });
      return `${status} ${body.error?.code}`;
    };
    expect(await refused({ trimId: other.trimId })).toBe('422 unknown_trim');
    expect(await refused({ trimId: 'nobody' })).toBe('404 unknown_trim');
    expect(await refused({ trimId: made.trimId, fromMs: 20_000 })).toBe('422 nothing_left');
    expect(await refused({ trimId: made.trimId, audio: { codec: 'copy' } })).toBe('422 does_not_fit');
    expect(await refused({ trimId: made.trimId, trimRevision: 9 })).toBe('404 unknown_revision');
    await edit(made, { type: 'takeOut', spans: [{ fromMs: 0, toMs: 20_000 }] });
    expect(await refused({ trimId: made.trimId })).toBe('422 nothing_left');
    expect((await ask(server, `/api/trims/${made.trimId}`)).body.trim).toMatchObject({ durationMs: 0, pieces: [] });
  });

  test('keeps the zero of a file whose sound starts late, and holds the picture where that is shorter', async () => {
    const late = media('mp4', [
      ...[
        '-f',
        'lavfi',
        '-i',
        `color=black:s=320x180:r=25:d=9,drawbox=t=fill:c=white:enable='lt(mod(t-0.3,1),0.05)*gte(t,0.29)'`
      ],
      ...[
        '-itsoffset',
        '0.5',
        '-f',
        'lavfi',
        '-i',
        `aevalsrc='if(lt(mod(t-0.8,1),0.0005)*gte(t,0.8),0.9,0)':d=15:s=48000`
      ],
      ...['-map', '0:v', '-map', '1:a', '-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'aac']
    ]);
    const made = await bring('late.mp4', late);
    await edit(made, { type: 'takeOut', spans: [{ fromMs: 2000, toMs: 2700 }] });
    const trim = await documentOf(made);
    const { path } = await render(made, { container: 'mp4', video: { codec: 'h264' } });
    const wanted = wantedIn(trim);
    // Of the sound from 1.3 s on, of the picture to 8.3 s.
    eachNear(
      clicksIn(path),
      wanted.filter((ms) => ms > 1200 && ms < 14_700),
      1.5
    );
    eachNear(
      flashesIn(path).at,
      wanted.filter((ms) => ms < 8000),
      43
    );
  });
});

describe('trims of a recording', () => {
  test('are listed, duplicated, deleted and brought back, each with a log of its own', async () => {
    const made = await bring('many.wav', media('wav', CLICKS));
    const first = await edit(made, { type: 'takeOut', spans: [{ fromMs: 1000, toMs: 2000 }] });
    expect(first.body).toMatchObject({ revision: 1, label: 'take out', history: { undo: 'take out', redo: null } });
    const { body } = await send(server, `/api/recordings/${made.recordingId}/trims`, {
      copyOf: made.trimId,
      title: 'Highlight'
    });
    const copy = { recordingId: made.recordingId, trimId: body.trim.id as string };
    await edit(copy, { type: 'takeOut', spans: [{ fromMs: 5000, toMs: 20_000 }] });
    const list = async (query = ''): Promise<unknown> =>
      (await ask(server, `/api/recordings/${made.recordingId}/trims${query}`)).body.trims.map(
        ({ title, durationMs }: Answer['body']) => `${title} ${durationMs}`
      );
    expect(await list()).toEqual(['The long one 19000', 'Highlight 4000']);
    expect((await ask(server, `/api/trims/${copy.trimId}`, { method: 'DELETE' })).status).toBe(204);
    expect([await list(), await list('?bin=1')]).toEqual([['The long one 19000'], ['Highlight 4000']]);
    await send(server, `/api/trims/${copy.trimId}/restore`, {});
    expect(await list()).toEqual(['The long one 19000', 'Highlight 4000']);
    const undone = await send(server, `/api/trims/${made.trimId}/undo`, { revision: 1 });
    expect(undone.body).toMatchObject({ revision: 2, label: 'take out' });
    expect((await ask(server, `/api/trims/${made.trimId}`)).body.trim).toMatchObject({
      durationMs: 20_000,
      pieces: [{ kind: 'keep', fromMs: 0, toMs: 20_000 }]
    });
    const { entries } = (await ask(server, `/api/trims/${made.trimId}/edits?after=0`)).body;
    expect(entries.map(({ kind, label }: Answer['body']) => `${kind} ${label}`)).toEqual([
      'edit take out',
      'undo take out'
    ]);
  });

  test('refuse a stale revision and what makes no sense, answer a batch once, and outlive a kill', async () => {
    const made = await bring('killed.wav', media('wav', CLICKS));
    const batch = {
      revision: 0,
      batchId: crypto.randomUUID(),
      edits: [{ type: 'takeOut', spans: [{ fromMs: 10, toMs: 15 }] }]
    };
    const path = `/api/trims/${made.trimId}/edits`;
    const first = await send(server, path, batch);
    expect((await send(server, path, batch)).body).toEqual(first.body);
    expect((await send(server, path, { ...batch, batchId: crypto.randomUUID() })).body.error).toMatchObject({
      code: 'stale_revision',
      details: { revision: 1 }
    });
    const codes = await Promise.all(
      [
        { type: 'takeOut', spans: [{ fromMs: 20, toMs: 10 }] },
        { type: 'silence', spans: [{ fromMs: 0, toMs: 20_001 }] },
        { type: 'move', fromMs: 0, toMs: 3000, beforeMs: 1000 },
        { type: 'setPieces', pieces: [{ kind: 'keep', fromMs: 5, toMs: 5 }] },
        { type: 'putInPause', atMs: 0, lengthMs: 0 },
        { type: 'keepAll' },
        { type: 'takeOut', spans: [] }
      ].map(async (one) => (await send(server, path, { revision: 1, edits: [one] })).body.error.code as string)
    );
    expect(codes).toEqual([
      ...['bad_times', 'beyond_recording', 'into_itself', 'bad_times'],
      ...['bad_request', 'bad_request', 'bad_request']
    ]);
    const before = await documentOf(made);
    await server.stop('SIGKILL');
    server = await startServer(server.folder);
    expect(await documentOf(made)).toEqual(before);
    expect(trimKind.sizeOf(before)).toBe(3);
  });

  test('go with their recording', async () => {
    const made = await bring('gone.wav', media('wav', CLICKS));
    await ask(server, `/api/recordings/${made.recordingId}`, { method: 'DELETE' });
    await ask(server, `/api/recordings/${made.recordingId}?forever=1`, { method: 'DELETE' });
    expect((await ask(server, `/api/trims/${made.trimId}`)).status).toBe(404);
  });

  test('are told of pauses, joins, hesitations and checks, and are taken away as cut lists', async () => {
    const quiet = `0.002*(random(0)-0.5)`;
    const said = `if(lt(mod(t,3),2),0.6*(random(1)-0.5)*(0.6+0.4*sin(40*t)),${quiet})`;
    const wav = media('wav', ['-f', 'lavfi', '-i', `aevalsrc='${said}':d=12:s=16000`]);
    const id = await uploadMapped(server, 'pauses.wav', wav);
    const { body } = await send(server, `/api/recordings/${id}/trims`, { title: 'Short' });
    const made = { recordingId: id, trimId: body.trim.id as string };
    const { pauses } = (await ask(server, `/api/trims/${made.trimId}/pauses?thresholdDb=20&leastMs=700&marginMs=100`))
      .body;
    expect(pauses).toHaveLength(4);
    pauses.slice(0, 3).forEach(({ startMs, endMs }: Answer['body'], at: number) => {
      expect(Math.abs(startMs - (at * 3000 + 2100))).toBeLessThanOrEqual(15);
      expect(Math.abs(endMs - (at * 3000 + 2900))).toBeLessThanOrEqual(15);
    });
    await edit(
      made,
      { type: 'takeOut', spans: [{ fromMs: 1000, toMs: 4000 }] },
      { type: 'silence', spans: [{ fromMs: 6000, toMs: 7000 }] }
    );
    const { joins } = (await ask(server, `/api/trims/${made.trimId}/joins`)).body;
    expect(joins[0]).toMatchObject({ atMs: 1000, faults: ['in a sound'] });
    const srt = '1\n00:00:00,500 --> 00:00:00,900\n-\n\n2\n00:00:04,200 --> 00:00:05,600\nAfter the the cut.\n';
    const track = (await send(server, `/api/recordings/${id}/tracks`, { format: 'srt', language: 'en', content: srt }))
      .body.track;
    const { hesitations, shapes } = (await ask(server, `/api/tracks/${track.id}/hesitations`)).body;
    expect(hesitations).toMatchObject([{ kind: 'repeat', text: 'the' }]);
    expect(shapes).toEqual([]);
    const { findings } = (await ask(server, `/api/tracks/${track.id}/checks?trimId=${made.trimId}`)).body;
    expect(findings.length).toBeGreaterThan(0);
    for (const { endMs } of findings) expect(endMs).toBeLessThanOrEqual(9000);
    const list = (format: string): Promise<Answer> =>
      ask(server, `/api/trims/${made.trimId}/export?format=${format}&trackId=${track.id}`);
    expect((await list('csv')).body).toContain('After the the cut.');
    expect((await list('otio')).body).toMatchObject({ OTIO_SCHEMA: 'Timeline.1', name: 'Short' });
    expect((await list('edl')).body).toContain('001  PAUSES   A     C        00:00:00:00 00:00:01:00');
    expect((await list('srt')).body.error.code).toBe('not_supported');
    const { remarks } = (await ask(server, `/api/trims/${made.trimId}/export/remarks?format=edl`)).body;
    expect(remarks.map(({ code }: Answer['body']) => code)).toContain('fades_left_out');
  });

  test('are heard by blocks of the recording that are its sound to the sample', async () => {
    const { recordingId } = await bring('blocks.wav', media('wav', CLICKS));
    const block = async (number: number): Promise<Int16Array> =>
      new Int16Array(
        await (await fetch(`${server.url}/api/recordings/${recordingId}/samples?block=${number}`)).arrayBuffer()
      );
    const [first, second, last, beyond] = [await block(0), await block(1), await block(2), await block(3)];
    expect([first.length, second.length, last.length, beyond.length]).toEqual([384_000, 384_000, 192_000, 0]);
    expect(first.findIndex((sample) => sample > 5000)).toBe(300 * 48);
    expect(second.findIndex((sample) => sample > 5000)).toBe(300 * 48);
  });
});
