import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { SPECTRUM_BANDS } from '../../src/lib/core/audio';
import { HOUSE_RULES } from '../../src/lib/core/track';
import { ask, media, removeFolders, send, startServer, tone, upload, type Server } from './harness';

let server: Server;
beforeAll(async () => {
  server = await startServer();
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

test('shot changes are found where the picture changes, once, and none where there is no picture', async () => {
  const cut = '[0:v][1:v][2:v]concat=n=3:v=1[v]';
  const colors = ['red', 'blue', 'white'].flatMap((color) => [
    '-f',
    'lavfi',
    '-i',
    `color=${color}:s=320x180:r=25:d=2`
  ]);
  const bytes = media('shots.mp4', [
    ...colors,
    ...['-f', 'lavfi', '-i', 'sine=440:d=6', '-filter_complex', cut, '-map', '[v]', '-map', '3:a'],
    ...['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'aac']
  ]);
  const { body } = await upload(server, 'shots.mp4', bytes);
  const shots = async () => (await ask(server, `/api/recordings/${body.recording.id}/shots`)).body.shotsMs;
  const [first, again] = await Promise.all([shots(), shots()]);
  expect(first).toEqual([2000, 4000]);
  expect(again).toEqual(first);
  expect(await shots()).toEqual(first);
  const sound = await upload(server, 'tone.wav', tone(2));
  expect((await ask(server, `/api/recordings/${sound.body.recording.id}/shots`)).body.shotsMs).toEqual([]);
});

test('the spectrum of a stretch has a column each ten milliseconds', async () => {
  const { id } = (await upload(server, 'tone.wav', tone(4))).body.recording;
  const spectrum = (query: string) => fetch(`${server.url}/api/recordings/${id}/spectrum?${query}`);
  const bytes = new Uint8Array(await (await spectrum('fromMs=500&toMs=3500')).arrayBuffer());
  expect(bytes).toHaveLength(300 * SPECTRUM_BANDS);
  for (const query of ['fromMs=5&toMs=5', 'fromMs=0&toMs=3600000']) expect((await spectrum(query)).status).toBe(422);
  expect((await spectrum('fromMs=-1&toMs=x')).status).toBe(400);
});

describe('a house’s own rules', () => {
  const put = (sets: unknown[]) =>
    ask(server, '/api/rule-sets', {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ sets })
    });
  test('are kept by name for every track', async () => {
    const set = { name: 'Museum', rules: { ...HOUSE_RULES, maxCharsPerLine: 36 } };
    expect((await put([set])).body.sets).toEqual([set]);
    expect((await ask(server, '/api/rule-sets')).body.sets).toEqual([set]);
    expect((await put([set, set])).body.error.code).toBe('name_taken');
    expect((await put([{ name: '', rules: HOUSE_RULES }])).status).toBe(400);
    expect((await put([{ name: 'odd', rules: { ...HOUSE_RULES, maxLines: 0 } }])).status).toBe(400);
    expect((await ask(server, '/api/rule-sets')).body.sets).toEqual([set]);
  });
});

test('thousands of cues are timed in one edit, and bad captions stay within what can be edited', async () => {
  const { id } = (await upload(server, 'tone.wav', tone(30))).body.recording;
  const clock = (ms: number): string => new Date(ms).toISOString().slice(11, 23);
  const cues = Array.from({ length: 3000 }, (_, at) => `${clock(at * 20)} --> ${clock(at * 20 + 10)}\nw${at}\n`);
  const odd = [
    '00:00:05.000 --> 00:00:05.000\nno length\n',
    '00:00:09.000 --> 00:00:07.000\nbackwards\n',
    '00:00:01.000 --> 01:00:01.000\nan hour\n'
  ];
  const content = `WEBVTT\n\n${[...cues, ...odd].join('\n')}`;
  const { body } = await send(server, `/api/recordings/${id}/tracks`, { format: 'vtt', language: 'en', content });
  const { track } = body;
  expect(track.cues.length).toBeGreaterThanOrEqual(3002);
  const times = track.cues.map(({ id: cueId, startMs, endMs }: { id: string; startMs: number; endMs: number }) => ({
    ...{ cueId, startMs: startMs + 100, endMs: endMs + 100 }
  }));
  const { status } = await send(server, `/api/tracks/${track.id}/edits`, {
    revision: 0,
    edits: [{ type: 'timeCues', times }]
  });
  expect(status).toBe(200);
  const now = (await ask(server, `/api/tracks/${track.id}`)).body.track.cues;
  expect(now.map((cue: { startMs: number }) => cue.startMs)).toEqual(
    times.map((one: { startMs: number }) => one.startMs)
  );
  expect((await send(server, `/api/tracks/${track.id}/sync-estimate`, {})).body.confidence).toBeLessThan(0.3);
  const rules = (await ask(server, `/api/tracks/${track.id}/checks`)).body.findings.map(
    (one: { rule: string }) => one.rule
  );
  for (const rule of ['overlap', 'past_end', 'max_duration', 'min_duration']) expect(rules).toContain(rule);
  const first = { type: 'splitCue', cueId: track.cues[0].id, wordId: track.cues[0].wordIds[0] };
  expect((await send(server, `/api/tracks/${track.id}/edits`, { revision: 1, edits: [first] })).body.error.code).toBe(
    'first_word'
  );
});
