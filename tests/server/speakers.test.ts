import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { ask, jobEnd, newFolder, removeFolders, send, speech, startServer, upload, type Server } from './harness';

const DIALOGUE: readonly (readonly [voice: string, text: string])[] = [
  ['slt', 'We are standing behind the face of the clock.'],
  ['rms', 'Good morning, and welcome to the tower.'],
  ['rms', 'The pendulum swings once every two seconds.'],
  ['slt', 'How many people still set their watches by it?'],
  ['rms', 'The baker does, and the school by the bridge.'],
  ['slt', 'Thank you for taking us up here this morning.'],
  ['rms', 'Hold the rail on the way down, and mind the last step.']
];

let server: Server;
let recordingId: string;
/** Who speaks from when to when. */
let truth: { voice: string; startMs: number; endMs: number }[];
beforeAll(async () => {
  server = await startServer();
  const folder = newFolder();
  const paths = DIALOGUE.map(([voice, text], at) => {
    // Each with its pause; brought to one rate, as voices differ in theirs.
    const path = join(folder, `${at}.wav`);
    const raw = join(folder, `${at}-raw.wav`);
    execFileSync('flite', ['-voice', voice, '-t', text, '-o', raw]);
    execFileSync('sox', [raw, '-r', '16000', '-c', '1', path, 'pad', '0.2', '0.4']);
    return path;
  });
  let nowMs = 0;
  truth = paths.map((path, at) => {
    const lengthMs = Number(execFileSync('soxi', ['-D', path], { encoding: 'utf8' })) * 1000;
    const span = { voice: DIALOGUE[at]![0], startMs: nowMs, endMs: nowMs + lengthMs };
    nowMs += lengthMs;
    return span;
  });
  const whole = join(folder, 'dialogue.wav');
  execFileSync('sox', [...paths, whole]);
  recordingId = (await upload(server, 'dialogue.wav', readFileSync(whole))).body.recording.id;
  await ask(server, `/api/recordings/${recordingId}/speech`);
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

const hear = async (id: string, speakers: number | 'auto') => {
  const asked = await send(server, `/api/recordings/${id}/transcriptions`, { language: 'en', speakers });
  const job = await jobEnd(server, asked.body.job.id);
  expect(job.state, job.error).toBe('done');
  return (await ask(server, `/api/tracks/${job.result.trackId}`)).body.track;
};

test.each([2, 'auto'] as const)('two voices are told apart where their number is %s', async (count) => {
  const track = await hear(recordingId, count);
  expect(track.speakers.map(({ name }: { name: string }) => name)).toEqual(['Speaker 1', 'Speaker 2']);
  const voiceOf = new Map([
    [track.speakers[0].id, 'slt'],
    [track.speakers[1].id, 'rms']
  ]);
  let [rightMs, allMs] = [0, 0];
  for (const word of track.words) {
    const middleMs = (word.startMs + word.endMs) / 2;
    const spoken = truth.find(({ startMs, endMs }) => middleMs >= startMs && middleMs < endMs)!;
    allMs += word.endMs - word.startMs;
    if (voiceOf.get(word.speakerId) === spoken.voice) rightMs += word.endMs - word.startMs;
  }
  expect(rightMs / allMs).toBeGreaterThanOrEqual(0.9);
  // A cue holds one speaker.
  for (const cue of track.cues) expect(cue.speakerId).toBeTruthy();
});

test('one voice is not parted', async () => {
  const { body } = await upload(server, 'alone.wav', speech(DIALOGUE.map(([, text]) => text)));
  expect((await hear(body.recording.id, 'auto')).speakers).toEqual([]);
});
