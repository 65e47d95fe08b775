/** Speech models of the user's own: listed, tried out, told what is wrong with them, and heard with. */
import { cpSync, mkdirSync, readFileSync, rmSync, symlinkSync, truncateSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { countWordErrors } from '../../src/lib/core/compare';
import { makeOnnx } from '../../src/lib/core/testing/any-onnx';
import { ask, jobEnd, newFolder, removeFolders, send, startServer, until, upload, type Server } from './harness';

const TOY = resolve('demo/models/tower-words');
/** What is said in the recording that ships with it; none of these sentences was learnt. */
const SAID = [
  ...['the clock stops', 'the bell strikes slowly', 'the weight falls', 'the rope turns the wheel'],
  ...['the pendulum swings the tooth', 'oil the wheel', 'the tower bell swings', 'the tooth stops the wheel']
].join(' ');

let server: Server;
let models: string;
beforeAll(async () => {
  models = join(newFolder(), 'models');
  server = await startServer(newFolder(), { VINETAP_MODELS: models });
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

const copyToy = (name: string): string => {
  cpSync(TOY, join(models, name), { recursive: true });
  return join(models, name);
};
interface Ear {
  readonly id: string;
  readonly state: 'trying' | 'ready' | 'unusable';
  readonly reason?: string;
}
const ears = async (): Promise<Ear[]> => (await ask(server, '/api/ears')).body.ears;
/** Of a folder, when it was tried. */
const tried = async (folder: string): Promise<Ear> =>
  (await until(
    async () => (await ears()).find(({ id }) => id === `model-${folder}`),
    (ear) => ear !== undefined && ear.state !== 'trying'
  ))!;
const engine = async (id: string) =>
  (await ask(server, '/api/health')).body.engines.find((one: { id: string }) => one.id === id);

test('a model that is put into the folder is an engine, and hears', async () => {
  expect(await ears()).toEqual([]);
  copyToy('tower-words');
  expect(await tried('tower-words')).toMatchObject({
    ...{ state: 'ready', name: 'Sixteen words of the tower', languages: ['en'], family: 'zipformerCtc' },
    can: { times: true, confidence: false, hotwords: false }
  });
  expect(await engine('model-tower-words')).toMatchObject({
    available: true,
    hears: true,
    sendsSound: false,
    languages: ['en']
  });

  const { recording } = (await upload(server, 'words.mp3', readFileSync('demo/media/sixteen-words.mp3'))).body;
  const asked = await send(server, `/api/recordings/${recording.id}/transcriptions`, {
    ...{ engine: 'model-tower-words', language: 'en', vocabulary: ['Clock'] }
  });
  expect(asked.status).toBe(202);
  const job = await jobEnd(server, asked.body.job.id);
  expect(job).toMatchObject({ state: 'done' });
  const { track } = (await ask(server, `/api/tracks/${job.result.trackId}/document`)).body;
  const heard = (track.words as { text: string }[]).map(({ text }) => text).join(' ');
  const { substitutions, insertions, deletions } = countWordErrors(SAID, heard);
  expect(substitutions + insertions + deletions, heard).toBeLessThanOrEqual(2);
  // Sentences are made of its bare words, and names are spelled as they are given.
  expect(heard).toMatch(/^The Clock/);
  expect(heard).toMatch(/\.$/);
  const { regions } = (await ask(server, `/api/recordings/${recording.id}/speech`)).body as {
    regions: { startMs: number; endMs: number }[];
  };
  for (const { text, startMs, endMs } of track.words)
    expect(
      regions.some((region) => endMs > region.startMs && startMs < region.endMs),
      `${text} is spoken`
    ).toBe(true);
  expect(
    (
      await send(server, `/api/recordings/${recording.id}/transcriptions`, {
        engine: 'model-tower-words',
        language: 'de'
      })
    ).body.error.code
  ).toBe('language_not_heard');
});

test('its owner says how it is called and what it hears', async () => {
  copyToy('renamed');
  await tried('renamed');
  const answer = await ask(server, '/api/ears/model-renamed', {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name: 'Ours', languages: ['en', 'cy'] })
  });
  expect(answer.body.ear).toMatchObject({ name: 'Ours', languages: ['en', 'cy'] });
  expect(await tried('renamed')).toMatchObject({ state: 'ready', name: 'Ours' });
  const wrong = await ask(server, '/api/ears/model-renamed', {
    ...{ method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ languages: ['??'] }) }
  });
  expect(wrong.status).toBe(400);
  rmSync(join(models, 'renamed'), { recursive: true });
  expect((await ears()).map(({ id }) => id)).not.toContain('model-renamed');
  expect((await ask(server, '/api/ears/model-renamed', { method: 'PUT', body: '{}' })).status).toBe(404);
});

describe('what cannot be used is told, and the server stands', () => {
  const sound = {
    metadata: { model_type: 'zipformer2_ctc', vocab_size: '24' },
    inputs: ['x', 'x_lens'],
    outputs: ['log_probs']
  };
  test.each<[string, (folder: string) => void, RegExp]>([
    ['an empty folder', (folder) => mkdirSync(folder), /It is empty/],
    ['one of another kind', (folder) => writeFileSync(join(mkdirp(folder), 'model.bin'), 'x'), /no “.onnx” file/],
    ['a model half copied', (folder) => truncateSync(join(copyInto(folder), 'model.onnx'), 400_000), /cut short/],
    [
      'rubbish by the name of a model',
      (folder) => writeFileSync(join(copyInto(folder), 'model.onnx'), 'rubbish'),
      /no ONNX file|cut short/
    ],
    [
      'pieces of another model',
      (folder) => writeFileSync(join(copyInto(folder), 'tokens.txt'), 'a 0\nb 1\n'),
      /2 pieces where the model has 24/
    ],
    [
      'pieces in another encoding',
      (folder) =>
        writeFileSync(join(copyInto(folder), 'tokens.txt'), Buffer.from('<blk> 0\n\u00e9t\u00e9 1\n', 'latin1')),
      /no list of pieces/
    ],
    [
      'a link out of the folder',
      (folder) => {
        rmSync(join(copyInto(folder), 'model.onnx'));
        symlinkSync(join(TOY, 'model.onnx'), join(folder, 'model.onnx'));
      },
      /link to elsewhere/
    ],
    ['settings that are none', (folder) => writeFileSync(join(copyInto(folder), 'ear.json'), '{'), /no JSON/],
    [
      'a model that ends its process',
      (folder) => writeFileSync(join(copyInto(folder), 'model.onnx'), makeOnnx(sound)),
      /cannot be loaded/
    ],
    [
      'one larger than the memory',
      (folder) => {
        copyInto(folder);
        // No byte of it is written.
        truncateSync(mkfile(folder, 'weights.bin'), 300_000_000_000);
      },
      /MB of memory/
    ]
  ])('%s', async (name, make, reason) => {
    const folder = name.replaceAll(' ', '-');
    make(join(models, folder));
    const ear = await tried(folder);
    expect(ear.state).toBe('unusable');
    expect(ear.reason).toMatch(reason);
    expect(await engine(ear.id)).toMatchObject({ available: false, reason: ear.reason });
    rmSync(join(models, folder), { recursive: true });
  });

  test('put right, it is tried anew', async () => {
    const folder = copyToy('mended');
    writeFileSync(join(folder, 'tokens.txt'), 'a 0\n');
    expect((await tried('mended')).state).toBe('unusable');
    cpSync(join(TOY, 'tokens.txt'), join(folder, 'tokens.txt'));
    await until(
      async () => (await tried('mended')).state,
      (state) => state === 'ready'
    );
  });
});

function mkdirp(folder: string): string {
  mkdirSync(folder, { recursive: true });
  return folder;
}
function copyInto(folder: string): string {
  cpSync(TOY, folder, { recursive: true });
  return folder;
}
function mkfile(folder: string, name: string): string {
  const path = join(folder, name);
  writeFileSync(path, '');
  return path;
}
