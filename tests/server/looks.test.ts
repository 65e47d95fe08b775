import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { deflateSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { shippedFontPath } from '../../src/lib/server/faces/shipped';
import { contrastRatio } from '../../src/lib/core/light';
import { HOUSE_LOOK } from '../../src/lib/core/track';
import {
  ask,
  filesIn,
  jobEnd,
  media,
  removeFolders,
  send,
  startServer,
  tone,
  upload,
  type Answer,
  type Server
} from './harness';

const SRT = [1, 2, 3].map((at) => `${at}\n00:00:0${at},000 --> 00:00:0${at},900\nMind the step.\n`).join('\n');

let server: Server;
let recordingId: string;
beforeAll(async () => {
  server = await startServer();
  recordingId = (await upload(server, 'tone.wav', tone(6))).body.recording.id;
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

const put = (path: string, value: unknown): Promise<Answer> =>
  ask(server, path, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify(value) });

async function newTrack(of = recordingId): Promise<Answer['body']> {
  const { body } = await send(server, `/api/recordings/${of}/tracks`, { format: 'srt', language: 'en', content: SRT });
  return body.track;
}
const get = async (id: string): Promise<Answer['body']> => (await ask(server, `/api/tracks/${id}`)).body.track;

describe('looks of tracks', () => {
  test('are set for all, for a speaker, for cues; single values fall back; one undo takes back what 2,400 would be', async () => {
    const { id, cues } = await newTrack();
    const edit = async (edits: unknown[]): Promise<Answer> =>
      send(server, `/api/tracks/${id}/edits`, { revision: (await get(id)).revision, edits });
    await edit([
      { type: 'addSpeaker', name: 'Ines', newSpeakerId: 'ines' },
      { type: 'setLook', look: { face: 'zilla', sizePercent: 9, outline: { color: '#000000', widthEm: 0.1 } } },
      { type: 'setSpeakerLook', speakerId: 'ines', look: { color: '#FFCC00' } },
      {
        type: 'setCueLooks',
        cueIds: [cues[0].id, cues[1].id],
        look: { italic: true, placement: { xPercent: 30, yPercent: 20 } }
      }
    ]);
    const dressed = await get(id);
    expect(dressed.look).toMatchObject({ face: 'zilla', sizePercent: 9, outline: { widthEm: 0.1 }, color: '#ffffff' });
    expect(dressed.speakers[0]).toMatchObject({ look: { color: '#ffcc00' } });
    expect(dressed.cues.map((cue: { look?: unknown }) => cue.look)).toEqual([
      { italic: true },
      { italic: true },
      undefined
    ]);
    expect(dressed.cues[0].placement).toEqual({ xPercent: 30, yPercent: 20 });
    await edit([
      { type: 'setLook', look: { face: null, outline: null } },
      { type: 'setSpeakerLook', speakerId: 'ines', look: { color: null } },
      { type: 'setCueLooks', cueIds: [cues[0].id], look: null }
    ]);
    const back = await get(id);
    expect(back.look).toMatchObject({ face: HOUSE_LOOK.face, outline: null, sizePercent: 9 });
    expect([back.speakers[0].look, back.cues[0].look, back.cues[0].placement]).toEqual([null, undefined, undefined]);
    await send(server, `/api/tracks/${id}/undo`, { revision: back.revision });
    expect({ ...(await get(id)), revision: 0 }).toEqual({ ...dressed, revision: 0 });
  });

  test('are refused, with the field that is wrong, and the track stays as it is', async () => {
    const { id } = await newTrack();
    const wrong = [{ color: 'red' }, { sizePercent: 400 }, { sparkle: 1 }, { box: { kind: 'ribbon' } }, { weight: 50 }];
    for (const look of wrong) {
      const answer = await send(server, `/api/tracks/${id}/edits`, { revision: 0, edits: [{ type: 'setLook', look }] });
      expect([answer.status, answer.body.error.code], JSON.stringify(look)).toEqual([400, 'bad_request']);
    }
    const nobody = [
      { type: 'setSpeakerLook', speakerId: 'nobody', look: null },
      { type: 'setCueLooks', cueIds: ['none'], look: null }
    ];
    for (const one of nobody)
      expect((await send(server, `/api/tracks/${id}/edits`, { revision: 0, edits: [one] })).status).toBe(422);
    expect((await get(id)).revision).toBe(0);
  });

  test('reach WebVTT with the place of each cue, wherever it is', async () => {
    const { id, cues } = await newTrack();
    const look = { placement: { xPercent: 25, yPercent: 40 } };
    await send(server, `/api/tracks/${id}/edits`, {
      revision: 0,
      edits: [{ type: 'setCueLooks', cueIds: [cues[0].id], look }]
    });
    const vtt = (await ask(server, `/api/tracks/${id}/export?format=vtt`)).body as string;
    expect(vtt).toContain('00:01.900 line:37.1% position:25%,center\n');
  });
});

describe('kept looks', () => {
  const ours = { name: 'Our own', look: { ...HOUSE_LOOK, color: '#ffee00' } };

  test('six ship, a house keeps its own, and each change is a version that no look had before', async () => {
    const { looks } = (await ask(server, '/api/looks')).body;
    expect(looks.filter((one: { shipped: boolean }) => one.shipped)).toHaveLength(6);
    const versionOf = (answer: Answer, name: string): number =>
      answer.body.looks.find((one: { name: string }) => one.name === name).version;
    const first = versionOf(await put('/api/looks', { looks: [ours, { ...ours, name: 'Another' }] }), 'Our own');
    const unchanged = await put('/api/looks', { looks: [ours, { ...ours, name: 'Another', look: HOUSE_LOOK }] });
    expect(versionOf(unchanged, 'Our own')).toBe(first);
    const changed = versionOf(await put('/api/looks', { looks: [{ ...ours, look: HOUSE_LOOK }] }), 'Our own');
    await put('/api/looks', { looks: [] });
    expect(changed).toBeGreaterThan(first);
    expect(versionOf(await put('/api/looks', { looks: [ours] }), 'Our own')).toBeGreaterThan(changed);
  });

  test('names that are taken, and looks that are none, are refused; nothing of them is kept', async () => {
    await put('/api/looks', { looks: [ours] });
    const wrong: [unknown, number][] = [
      [[ours, ours], 422],
      [[{ ...ours, name: 'Bell tower' }], 422],
      [[{ ...ours, look: { ...HOUSE_LOOK, color: 'blue' } }], 400],
      [[{ ...ours, name: ' ' }], 400]
    ];
    for (const [looks, status] of wrong) expect((await put('/api/looks', { looks })).status).toBe(status);
    const { looks } = (await ask(server, '/api/looks')).body;
    expect(looks.filter((one: { shipped: boolean }) => !one.shipped)).toMatchObject([ours]);
  });
});

describe('typefaces', () => {
  const bring = (bytes: Uint8Array): Promise<Answer> =>
    ask(server, '/api/faces', {
      method: 'POST',
      body: bytes as BodyInit,
      headers: { 'content-type': 'application/octet-stream' }
    });
  const ttf = (): Buffer => readFileSync(shippedFontPath({ faceId: 'caveat', weight: 700, italic: false })!);
  const packed = (extension: string): Buffer =>
    readFileSync(
      `node_modules/@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.${extension}`
    );

  test('that ship are served whole, with the right type, by their keys alone', async () => {
    const { faces } = (await ask(server, '/api/faces')).body;
    expect(faces.length).toBeGreaterThan(19);
    for (const { id, weights } of faces) {
      const answer = await fetch(`${server.url}/api/faces/files/${id}-${weights[0]}`, { method: 'HEAD' });
      expect([answer.status, answer.headers.get('content-type')], id).toEqual([200, 'font/ttf']);
    }
    for (const key of ['atkinson-650', 'nobody-400', 'caveat-400i', '..%2F..%2Fpackage.json', 'atkinson'])
      expect((await fetch(`${server.url}/api/faces/files/${key}`)).status, key).toBe(404);
  });

  test('of the house are brought in as TTF, WOFF and WOFF2, once each, and taken from the list and back', async () => {
    const one = await bring(ttf());
    expect(one).toMatchObject({
      status: 201,
      body: { face: { name: 'Caveat Bold', weights: [700], character: 'our own' } }
    });
    expect((await bring(ttf())).body.face.id).toBe(one.body.face.id);
    for (const extension of ['woff', 'woff2']) {
      const { status, body } = await bring(packed(extension));
      expect(status, extension).toBe(201);
      const file = await fetch(`${server.url}/api/faces/files/${body.face.id}-700`);
      expect(new Uint8Array(await file.arrayBuffer()).slice(0, 4)).toEqual(new Uint8Array([0, 1, 0, 0]));
    }
    const ids = async (): Promise<string[]> =>
      (await ask(server, '/api/faces')).body.faces.map((face: { id: string }) => face.id);
    await ask(server, `/api/faces/${one.body.face.id}`, { method: 'DELETE' });
    expect(await ids()).not.toContain(one.body.face.id);
    await send(server, `/api/faces/${one.body.face.id}/restore`, {});
    expect(await ids()).toContain(one.body.face.id);
  });

  test('that are none are refused with a reason, and nothing of them is left', async () => {
    const restricted = Buffer.from(ttf());
    for (let at = 12; at < 12 + restricted.readUInt16BE(4) * 16; at += 16)
      if (restricted.toString('latin1', at, at + 4) === 'OS/2')
        restricted.writeUInt16BE(2, restricted.readUInt32BE(at + 8) + 8);
    /** Its one table says that it is small, and is not. */
    const bomb = Buffer.concat([Buffer.alloc(64), deflateSync(Buffer.alloc(30_000_000))]);
    bomb.write('wOFF', 0);
    bomb.writeUInt16BE(1, 12);
    bomb.writeUInt32BE(64, 48);
    bomb.writeUInt32BE(bomb.length - 64, 52);
    bomb.writeUInt32BE(1_000_000, 56);
    const claims = Buffer.from(packed('woff2'));
    claims.writeUInt32BE(900_000_000, 16);
    const cases: [string, Uint8Array, number, RegExp][] = [
      ['a text named .ttf', Buffer.from('Dear Tobin, the clock is late.'), 422, /no font/],
      ['nothing', new Uint8Array(), 422, /empty/],
      ['a font cut short', ttf().subarray(0, 900), 422, /damaged|not one letter/],
      ['a WOFF cut short', packed('woff').subarray(0, 2000), 422, /damaged/],
      ['a WOFF2 cut short', packed('woff2').subarray(0, 2000), 422, /damaged/],
      ['a WOFF bomb', bomb, 422, /damaged/],
      ['a WOFF2 that unpacks to 900 MB', claims, 422, /40 MB/],
      ['one that may not be embedded', restricted, 422, /does not let/],
      ['one of 21 MB', Buffer.alloc(21_000_000, 1), 413, /20 MB/]
    ];
    const before = filesIn(server.folder, 'faces');
    for (const [name, bytes, status, says] of cases) {
      const answer = await bring(bytes);
      expect([answer.status, answer.body.error?.message], name).toEqual([status, expect.stringMatching(says)]);
    }
    expect(filesIn(server.folder, 'faces')).toEqual(before);
  });
});

describe('contrast', () => {
  const film = (filters: string): Buffer =>
    media('mp4', [
      ...[
        '-f',
        'lavfi',
        '-i',
        `color=c=black:s=640x360:r=10:d=5,${filters}`,
        '-f',
        'lavfi',
        '-i',
        'sine=440:duration=5'
      ],
      ...['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-crf', '4', '-c:a', 'aac']
    ]);

  test('of white letters on grey is what the formula says, of a box what it says too; waits for the light map', async () => {
    const id = (await upload(server, 'grey.mp4', film('drawbox=color=0x808080:t=fill'))).body.recording.id;
    const track = await newTrack(id);
    const look = { box: { kind: 'none' }, color: '#ffffff' };
    await send(server, `/api/tracks/${track.id}/edits`, { revision: 0, edits: [{ type: 'setLook', look }] });
    const { status, body } = await ask(server, `/api/tracks/${track.id}/contrast`);
    expect(status).toBe(200);
    expect(body.cues).toHaveLength(3);
    for (const { worst, median } of body.cues) {
      expect(Math.abs(worst / contrastRatio('#ffffff', '#808080') - 1)).toBeLessThan(0.04);
      expect(Math.abs(median / contrastRatio('#ffffff', '#808080') - 1)).toBeLessThan(0.04);
    }
    const light = await fetch(`${server.url}/api/recordings/${id}/light`);
    expect((await light.arrayBuffer()).byteLength).toBe(10 * 32 * 18 * 4);
  });

  test('finds the cue behind which it is bright, and the map is a job that is told of', async () => {
    const flash = film("drawbox=color=white:t=fill:enable='between(t,2,2.95)'");
    const id = (await upload(server, 'flash.mp4', flash)).body.recording.id;
    const asked = await ask(server, `/api/recordings/${id}/light`);
    expect(asked).toMatchObject({ status: 202, body: { job: { kind: 'light', recordingId: id } } });
    expect(await jobEnd(server, asked.body.job.id)).toMatchObject({ state: 'done', progress: 1 });
    const track = await newTrack(id);
    await send(server, `/api/tracks/${track.id}/edits`, {
      revision: 0,
      edits: [{ type: 'setLook', look: { box: { kind: 'none' } } }]
    });
    const { body } = await ask(server, `/api/tracks/${track.id}/contrast`);
    const [before, bright, after] = body.cues;
    expect(bright.worst).toBeLessThan(1.2);
    expect(Math.min(before.worst, after.worst)).toBeGreaterThan(15);
    expect(filesIn(join(server.folder, 'recordings', id)).filter((name) => name.endsWith('.part'))).toEqual([]);
  });

  test('of what has no picture is refused in words', async () => {
    const { id } = await newTrack();
    expect(await ask(server, `/api/tracks/${id}/contrast`)).toMatchObject({
      status: 422,
      body: { error: { code: 'no_picture' } }
    });
  });
});
