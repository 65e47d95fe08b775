import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import {
  ask,
  enginesOf,
  jobEnd,
  newFolder,
  removeFolders,
  send,
  speech,
  startServer,
  until,
  upload,
  uploadMapped,
  type Server
} from './harness';

const SENTENCES = [
  'The keeper climbs one hundred and twelve steps.',
  'First he cleans the pivots of the going train.',
  'Then he adds one small drop of oil.',
  'When the escapement is dirty, you can hear it.',
  'How many people still set their watches by it?',
  'The baker does, and the school by the bridge.'
];

let server: Server;
let recordingId: string;
beforeAll(async () => {
  server = await startServer();
  recordingId = (await upload(server, 'steps.wav', speech(SENTENCES))).body.recording.id;
  await ask(server, `/api/recordings/${recordingId}/speech`);
  plain = (await hear()).words;
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

interface WordAnswer {
  readonly text: string;
  readonly startMs: number;
  readonly endMs: number;
  readonly shown?: boolean;
}
const hear = async (more: object = {}): Promise<{ state: string; error?: string; words: WordAnswer[] }> => {
  const asked = await send(server, `/api/recordings/${recordingId}/transcriptions`, {
    engine: 'pocketsphinx-en-us',
    language: 'en',
    ...more
  });
  expect(asked.status, JSON.stringify(asked.body)).toBe(202);
  const job = await jobEnd(server, asked.body.job.id);
  if (job.state !== 'done') return { state: job.state, error: job.error, words: [] };
  const { track } = (await ask(server, `/api/tracks/${job.result.trackId}`)).body;
  return { state: job.state, words: track.words };
};
/** As it is heard with nothing said of it, once for all tests. */
let plain: WordAnswer[];
const textOf = (words: readonly WordAnswer[]): string => words.map((word) => word.text).join(' ');

describe('a script', () => {
  test('is fitted to the letter, figures and signs with it, each word where it is spoken', async () => {
    const script = [
      'The keeper – climbs 112 steps.',
      'First, he cleans the pivots of the “going train”.',
      ...SENTENCES.slice(2)
    ].join('\n');
    const { words } = await hear({ script });
    expect(textOf(words)).toBe(script.replaceAll('\n', ' '));
    for (const [at, word] of words.entries()) expect(word.startMs).toBeGreaterThanOrEqual(words[at - 1]?.startMs ?? 0);
    const startOf = (list: readonly WordAnswer[], text: string): number =>
      list.find((word) => word.text.toLowerCase().startsWith(text))!.startMs;
    for (const text of ['keeper', 'pivots', 'drop', 'people', 'school'])
      if (plain.some((word) => word.text.startsWith(text)))
        expect(Math.abs(startOf(words, text) - startOf(plain, text)), text).toBeLessThan(120);
  });

  test('that says more than is spoken, and less, shows both and leaves neither in the captions', async () => {
    const extra = 'Nobody knows why the ferry to Lowmere stopped running that winter or who paid for the lamps.';
    const { words } = await hear({ script: [SENTENCES[0], extra, ...SENTENCES.slice(2)].join(' ') });
    const hidden = words.filter((word) => word.shown === false);
    const hiddenText = textOf(hidden).toLowerCase();
    for (const text of ['ferry', 'winter']) expect(hiddenText).toContain(text);
    for (const text of ['first', 'cleans']) expect(hiddenText).toContain(text);
    const shown = textOf(words.filter((word) => word.shown !== false));
    for (const at of [0, 2, 3, 4, 5]) expect(shown).toContain(SENTENCES[at]);
  });

  test('in another language, or of nothing that can be said, is refused with a reason', async () => {
    const foreign = await hear({
      script: 'Die Uhr im Turm schlägt jede Stunde, und niemand weiß, wer sie gebaut hat. Am Morgen kommt der Bäcker.'
    });
    expect(foreign.state).toBe('failed');
    expect(foreign.error).toMatch(/script/);
    const empty = await send(server, `/api/recordings/${recordingId}/transcriptions`, {
      engine: 'pocketsphinx-en-us',
      language: 'en',
      script: ' – … '
    });
    expect([empty.status, empty.body.error.code]).toEqual([422, 'empty_script']);
  });
});

test('only a stretch is heard where one is chosen', async () => {
  const all = plain;
  const fromMs = all[Math.floor(all.length / 3)]!.startMs;
  const toMs = all[Math.floor((all.length * 2) / 3)]!.endMs;
  const { words } = await hear({ fromMs, toMs });
  expect(words.length).toBeGreaterThan(5);
  expect(words.length).toBeLessThan(all.length * 0.6);
  for (const word of words) {
    expect(word.startMs).toBeGreaterThan(fromMs - 400);
    expect(word.endMs).toBeLessThan(toMs + 400);
  }
});

test('numbers are figures, unless they are not wanted', async () => {
  expect(textOf(plain)).toMatch(/\b112\b/);
  const spoken = textOf((await hear({ figures: false })).words);
  expect(spoken).not.toMatch(/\d/);
  expect(spoken).toContain('hundred and twelve');
});

describe('a passage heard again', () => {
  const readings = async (fromMs: number, toMs: number, more: object = {}) =>
    send(server, `/api/recordings/${recordingId}/hear-again`, { fromMs, toMs, ...more });

  test('has at least three readings that differ, best first, each with words in the passage', async () => {
    for (const [from, to] of [
      [0, 4],
      [6, 6],
      [10, 20]
    ] as const) {
      const [fromMs, toMs] = [plain[from]!.startMs, plain[to]!.endMs];
      const { status, body } = await readings(fromMs, toMs);
      expect(status).toBe(200);
      expect(body.readings.length, `words ${from} to ${to}`).toBeGreaterThanOrEqual(3);
      expect(new Set(body.readings.map((one: { text: string }) => one.text)).size).toBe(body.readings.length);
      for (const reading of body.readings) {
        expect(textOf(reading.words)).toBe(reading.text);
        expect(reading.confidence).toBeGreaterThan(0);
        expect(reading.confidence).toBeLessThanOrEqual(1);
        for (const word of reading.words) {
          expect(word.endMs).toBeGreaterThan(fromMs - 300);
          expect(word.startMs).toBeLessThan(toMs + 300);
        }
      }
    }
  });

  test('hears the names that it is told', async () => {
    // Heard as "escape" and something else.
    const at = plain.findIndex((word) => word.text.startsWith('escape'));
    const passage = [plain[at - 1]!.startMs, plain[at + 1]!.endMs] as const;
    const { body } = await readings(...passage, { vocabulary: ['escapement'] });
    expect(body.readings.map((one: { text: string }) => one.text).join('; ')).toContain('escapement');
  });

  test('is within the recording and not endless', async () => {
    const codes = await Promise.all([readings(5000, 5000), readings(900_000, 901_000)]);
    expect(codes.map(({ status, body }) => [status, body.error?.code])).toEqual([
      [422, 'bad_times'],
      [422, 'bad_times']
    ]);
  });
});

describe('a script in a language that no engine hears', () => {
  const GERMAN = [
    'Guten Morgen und willkommen im Turm der kleinen Stadt.',
    'Mein Großvater hat diese Uhr vierzig Jahre lang jeden Tag aufgezogen.',
    'Die ganze Nacht will das schwere Gewicht nach unten fallen.',
    'Vielen Dank, dass Sie heute Abend ins Museum gekommen sind.'
  ];
  const OTHER =
    'Der Bäcker an der Ecke verkauft jeden Morgen frisches Brot und süße Kuchen. Seine Frau erzählt den Kindern gern Geschichten von früher. Wenn es regnet, bleiben alle im Laden stehen und reden über das Wetter.';
  /** By another voice and faster than the reading; where each sentence begins is known. */
  function spoken(sentences: readonly string[], voice: string): { wav: Buffer; startsMs: number[] } {
    const folder = newFolder();
    const startsMs: number[] = [];
    let nowMs = 400;
    const parts = sentences.map((text, at) => {
      const [raw, part] = [join(folder, `${at}-raw.wav`), join(folder, `${at}.wav`)];
      execFileSync('espeak-ng', ['-v', `${voice}+f3`, '-s', '200', '-p', '60', '-w', raw, text]);
      execFileSync('sox', [raw, '-r', '16000', '-c', '1', part, 'pad', '0', '0.5']);
      startsMs.push(nowMs);
      nowMs += Number(execFileSync('soxi', ['-D', part], { encoding: 'utf8' })) * 1000;
      return part;
    });
    const whole = join(folder, 'whole.wav');
    execFileSync('sox', [...parts, whole, 'pad', '0.4', '1']);
    return { wav: readFileSync(whole), startsMs };
  }

  test('is laid on the sound by a synthesised reading; another one is refused with the reason', async () => {
    const { engines } = (await ask(server, '/api/health')).body;
    const engine = engines.find((one: { id: string }) => one.id === 'script-by-reading');
    expect(engine).toMatchObject({ available: true, hears: false, fits: true });
    const primaries = (engine.languages as string[]).map((tag) => tag.split('-')[0]);
    expect(primaries).toEqual(expect.arrayContaining(['de', 'fr', 'es', 'pt']));
    const { wav, startsMs } = spoken(GERMAN, 'de');
    const id = await uploadMapped(server, 'german.wav', wav);
    const lay = async (script: string | undefined) =>
      send(server, `/api/recordings/${id}/transcriptions`, {
        ...{ engine: 'script-by-reading', language: 'de-AT' },
        ...(script !== undefined && { script })
      });
    expect((await lay(undefined)).body.error.code).toBe('script_missing');
    const job = await jobEnd(server, (await lay(GERMAN.join(' '))).body.job.id);
    expect(job.state).toBe('done');
    const { words } = (await ask(server, `/api/tracks/${job.result.trackId}`)).body.track as { words: WordAnswer[] };
    expect(textOf(words)).toBe(GERMAN.join(' '));
    words.forEach((word, at) => expect(word.startMs).toBeGreaterThanOrEqual(words[at - 1]?.startMs ?? 0));
    let first = 0;
    GERMAN.forEach((sentence, at) => {
      expect(Math.abs(words[first]!.startMs - startsMs[at]!), sentence).toBeLessThan(200);
      first += sentence.split(' ').length;
    });
    const strange = await jobEnd(server, (await lay(OTHER)).body.job.id);
    expect(strange).toMatchObject({ state: 'failed', error: expect.stringContaining('another') as string });
  });

  test.each([
    [
      'ru',
      'ru',
      ['Мы стоим за циферблатом башенных часов.', 'Сегодня утром очень холодно.', 'Мастер поднимается каждый день.']
    ],
    ['zh-Hans', 'cmn', ['我们站在钟楼的后面。', '今天早上很冷，风也很大。', '钟匠每天上来给钟上油。']],
    ['ja', 'ja', ['わたしたちは とけいだいの うしろに たっています。', 'けさは とても さむいです。']]
  ])('is written in any script, with spaces or without: %s', async (language, voice, sentences) => {
    const { wav, startsMs } = spoken(sentences, voice);
    const id = await uploadMapped(server, `${language}.wav`, wav);
    const script = sentences.join(' ');
    const asked = await send(server, `/api/recordings/${id}/transcriptions`, {
      ...{ engine: 'script-by-reading', language, script }
    });
    const job = await jobEnd(server, asked.body.job.id);
    expect(job.state).toBe('done');
    const srt = await ask(server, `/api/tracks/${job.result.trackId}/export?format=txt`);
    expect((srt.body as string).replace(/\s+/g, '')).toBe(script.replaceAll(' ', ''));
    const { words } = (await ask(server, `/api/tracks/${job.result.trackId}`)).body.track as { words: WordAnswer[] };
    sentences.forEach((sentence, at) => {
      const first = words.findIndex((_word, from) =>
        words
          .slice(from)
          .map(({ text }) => text)
          .join('')
          .startsWith(sentence.replaceAll(' ', ''))
      );
      expect(Math.abs(words[first]!.startMs - startsMs[at]!), sentence).toBeLessThan(250);
    });
  });
});

test('words stand there while the rest is heard; a hearing that is ended can leave what it had', async () => {
  const long = Array.from({ length: 6 }, () => SENTENCES).flat();
  const id = (await upload(server, 'long.wav', speech(long))).body.recording.id as string;
  await ask(server, `/api/recordings/${id}/speech`);
  const tooLong = await send(server, `/api/recordings/${id}/hear-again`, { fromMs: 0, toMs: 31_000 });
  expect([tooLong.status, tooLong.body.error.code]).toEqual([422, 'bad_times']);
  const asked = await send(server, `/api/recordings/${id}/transcriptions`, {
    engine: 'pocketsphinx-en-us',
    language: 'en'
  });
  const jobId = asked.body.job.id as string;
  const { body } = await until(
    () => ask(server, `/api/jobs/${jobId}/words`),
    ({ body: so }) => so.words.length > 0
  );
  expect(textOf(body.words)).toMatch(/steps/);
  expect((await ask(server, `/api/jobs/${jobId}`)).body.job.state).toBe('running');
  const ended = await ask(server, `/api/jobs/${jobId}?keep=heard`, { method: 'DELETE' });
  expect(ended.body.job).toMatchObject({ state: 'cancelled' });
  await until(
    () => enginesOf(server.pid),
    (engines) => engines.length === 0
  );
  const { track } = (await ask(server, `/api/tracks/${ended.body.job.result.trackId}`)).body;
  expect(textOf(track.words)).toContain('steps');
  expect(track.cues.length).toBeGreaterThan(0);
  const all = (await ask(server, `/api/recordings/${id}`)).body.recording.tracks;
  expect(all).toHaveLength(1);
});
