import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { makeOnnx, sourceOf } from '../testing/any-onnx';
import { toSpan, type Span } from '../time';
import {
  planModel,
  readEarSettings,
  readOnnx,
  readTokens,
  wordsOfStretch,
  type FolderFacts,
  type OnnxFacts,
  type ReadStretch
} from '.';

describe('what an ONNX file says of itself', () => {
  const anyNames = fc.array(fc.string({ minLength: 1, maxLength: 300 }), { minLength: 1, maxLength: 5 });

  test('is read whatever it holds, and its weights are not', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.dictionary(fc.string({ minLength: 1, maxLength: 30 }), fc.string({ maxLength: 3000 }), {
          noNullPrototype: true
        }),
        anyNames,
        anyNames,
        fc.constantFrom(0, 10, 70_000, 2_000_000),
        async (metadata, inputs, outputs, weightBytes) => {
          const source = sourceOf(makeOnnx({ metadata, inputs, outputs, weightBytes }));
          expect(await readOnnx(source)).toEqual({ ok: true, value: { metadata, inputs, outputs } });
          expect(source.readBytes()).toBeLessThan(1_000_000);
        }
      )
    );
  });

  test('a file that is cut short, or is none, says so', async () => {
    const whole = makeOnnx({ metadata: { model_type: 'x' }, weightBytes: 5000 });
    for (const length of [1, 3, 40, 3000, whole.length - 1]) {
      const read = await readOnnx(sourceOf(whole.slice(0, length)));
      expect(read.ok, `${length} bytes`).toBe(false);
    }
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 400 }), async (bytes) => {
        const read = await readOnnx(sourceOf(bytes));
        if (!read.ok) expect(read.problem).toMatch(/ONNX|cut short/);
      })
    );
  });
});

describe('a list of pieces', () => {
  test.each([
    ['<blk> 0\n▁the 1\nclock 2\n', { count: 3, writeText: false }],
    ['<blk> 0\n▁The 1\n. 2\nclock 3\n', { count: 4, writeText: true }],
    ['<blk> 0\n▁THE 1\n. 2\n', { count: 3, writeText: false }],
    ['<blk> 0\n  1\n。 2\n時 3\n', { count: 4, writeText: true }],
    ['<blk>\t0\r\nthe\t1\r\n', { count: 2, writeText: false }]
  ])('%j', (text, facts) => expect(readTokens(text)).toEqual(facts));

  test.each(['', 'the\nclock\n', 'the 0\nclock 5\n', 'the 0\n\ufffd\ufffd 1\n', '{"the": 0}'])('%j is none', (text) =>
    expect(readTokens(text)).toBe('unreadable')
  );
});

const graph = (metadata: Readonly<Record<string, string>> = {}): OnnxFacts => ({
  metadata,
  inputs: ['x'],
  outputs: ['y']
});
const folder = (graphs: Readonly<Record<string, OnnxFacts>>, over: Partial<FolderFacts> = {}): FolderFacts => ({
  files: [...Object.keys(graphs), 'tokens.txt', 'README.md'],
  graphs: new Map(Object.entries(graphs)),
  tokens: { count: 500, writeText: false },
  ...over
});

describe('what a folder holds', () => {
  test.each<[string, Readonly<Record<string, OnnxFacts>>, object]>([
    [
      'one file',
      { 'model.onnx': graph({ model_type: 'zipformer2_ctc', language: 'en' }) },
      { family: 'zipformerCtc', languages: ['en'] }
    ],
    [
      'the smaller of two of a kind',
      { 'model.onnx': graph({ model_type: 'wenet_ctc' }), 'model.int8.onnx': graph({ model_type: 'wenet_ctc' }) },
      { family: 'wenetCtc', files: { model: 'model.int8.onnx' } }
    ],
    ['NeMo', { 'm.onnx': graph({ model_type: 'EncDecCTCModelBPE', vocab_size: '499' }) }, { family: 'nemoCtc' }],
    [
      'one that tells its languages one by one',
      { 'model.onnx': graph({ lfr_window_size: '7', lang_auto: '0', lang_zh: '3', lang_yue: '7' }) },
      { family: 'senseVoice', languages: ['zh', 'yue'], choosesLanguage: true, writes: 'text' }
    ],
    [
      'an encoder, a decoder and a joiner',
      {
        'encoder-epoch-9.int8.onnx': graph({ model_type: 'EncDecRNNTBPEModel' }),
        'decoder-epoch-9.onnx': graph({ vocab_size: '500' }),
        'joiner-epoch-9.onnx': graph()
      },
      { family: 'transducer', modelType: 'nemo_transducer', can: { times: true, confidence: true, hotwords: true } }
    ],
    [
      'an encoder and a decoder of many languages',
      {
        'tiny-encoder.onnx': graph({ n_mels: '80', n_vocab: '500', all_language_codes: 'en,de,ja' }),
        'tiny-decoder.onnx': graph()
      },
      { family: 'whisper', languages: ['en', 'de', 'ja'], choosesLanguage: true, hearsBy: 'stretch', writes: 'text' }
    ],
    [
      'four files',
      {
        'preprocess.onnx': graph(),
        'encode.int8.onnx': graph(),
        'uncached_decode.onnx': graph(),
        'cached_decode.onnx': graph()
      },
      {
        family: 'moonshine',
        files: {
          ...{ preprocessor: 'preprocess.onnx', encoder: 'encode.int8.onnx' },
          ...{ uncachedDecoder: 'uncached_decode.onnx', cachedDecoder: 'cached_decode.onnx' }
        }
      }
    ],
    [
      'one that hears sound as it comes',
      { 'model.onnx': graph({ model_type: 'zipformer2_ctc', decode_chunk_len: '32' }) },
      { family: 'zipformerCtc', hearsBy: 'stream' }
    ]
  ])('%s', (_, graphs, plan) => {
    const planned = planModel(folder(graphs));
    expect(planned).toMatchObject({ ok: true, value: plan });
  });

  const known = { 'model.onnx': graph({ model_type: 'wenet_ctc', vocab_size: '500' }) };
  test.each<[string, FolderFacts, RegExp]>([
    ['nothing', { files: [], graphs: new Map(), tokens: null }, /It is empty/],
    ['no model', { files: ['a.bin'], graphs: new Map(), tokens: null }, /no “.onnx” file/],
    [
      'a model of another kind',
      folder({ 'voice.onnx': graph({ model_type: 'vits' }) }),
      /no speech model that is known.*“vits”/
    ],
    ['half of a model', folder({ 'encoder.onnx': graph(), 'joiner.onnx': graph() }), /no speech model that is known/],
    ['a model and another one', folder({ ...known, 'encoder.onnx': graph() }), /no speech model that is known/],
    ['no pieces', folder(known, { tokens: null }), /“tokens.txt” is missing/],
    ['pieces in another encoding', folder(known, { tokens: 'unreadable' }), /no list of pieces/],
    [
      'too few pieces',
      folder(known, { tokens: { count: 400, writeText: false } }),
      /400 pieces where the model has 500/
    ],
    ['sound of telephones', folder({ 'm.onnx': graph({ model_type: 'wenet_ctc', sample_rate: '8000' }) }), /8 kHz/]
  ])('%s is told', (_, facts, problem) => {
    const planned = planModel(facts);
    expect(planned.ok ? 'taken' : planned.problem).toMatch(problem);
  });

  test('its owner says what the model does not', () => {
    expect(readEarSettings('{"name":"Ours","languages":["de-AT"]}')).toEqual({
      ok: true,
      value: { name: 'Ours', languages: ['de-AT'] }
    });
    for (const text of ['', '[]', '{"languages":["?"]}', '{"colour":"red"}'])
      expect(readEarSettings(text).ok).toBe(false);
  });
});

describe('words of a stretch', () => {
  const stretch = toSpan({ startMs: 10_000, endMs: 14_000 });
  const regions = [toSpan({ startMs: 10_200, endMs: 11_500 }), toSpan({ startMs: 12_800, endMs: 13_500 })];
  const words = (read: Partial<ReadStretch>, language = 'en') =>
    wordsOfStretch(
      { text: '', pieces: [], startsMs: [], logProbabilities: [], ...read },
      { stretch, regions, language }
    );
  const told = (read: Partial<ReadStretch>, language?: string) =>
    words(read, language).map(({ text, startMs, endMs }) => `${text} ${startMs}-${endMs}`);

  test('begin with their pieces, and end with the next one or with the speech', () => {
    expect(
      told({
        text: 'the clock stops',
        pieces: [' the', ' clo', 'ck', ' stop', 's'],
        startsMs: [300, 600, 800, 2900, 3100]
      })
    ).toEqual(['the 10300-10600', 'clock 10600-11500', 'stops 12900-13500']);
  });

  test('are as likely as their pieces together', () => {
    const [one] = words({
      text: 'clock',
      pieces: ['▁clo', 'ck'],
      startsMs: [300, 500],
      logProbabilities: [Math.log(0.9), Math.log(0.4)]
    });
    expect(one!.confidence).toBeCloseTo(0.6, 5);
  });

  test('without times share the speech by how long they are to say', () => {
    const spread = words({ text: 'The clock stops. Nobody hears it.' });
    expect(spread[0]!.startMs).toBe(10_200);
    expect(spread.at(-1)!.endMs).toBe(13_500);
    expect(spread.some(({ startMs, endMs }) => startMs >= 11_500 && endMs <= 12_800)).toBe(false);
  });

  test('of scripts without spaces are parted, with no space between', () => {
    const japanese = words(
      {
        text: '時計が止まる。',
        pieces: ['時', '計', 'が', '止', 'ま', 'る', '。'],
        startsMs: [300, 400, 500, 600, 700, 800, 900]
      },
      'ja'
    );
    expect(japanese.map(({ text }) => text).join('')).toBe('時計が止まる。');
    expect(japanese.slice(1).every(({ spaceBefore }) => spaceBefore === false)).toBe(true);
  });

  test('lie in order within their stretch, whatever a model says', () => {
    const anyPiece = fc.constantFrom(' the', ' clo', 'ck', ' stop', 's', '.', ' [bell]', ' ');
    fc.assert(
      fc.property(
        fc.array(fc.tuple(anyPiece, fc.integer({ min: -500, max: 6000 })), { maxLength: 20 }),
        fc.boolean(),
        (said, isTimed) => {
          const pieces = said.map(([piece]) => piece);
          const startsMs = isTimed ? said.map(([, ms]) => ms).sort((a, b) => a - b) : [];
          const found = words({ text: pieces.join('').trim(), pieces, startsMs });
          expect(
            found
              .map(({ text }) => text)
              .join('')
              .replace(/\s/g, '')
          ).toBe(pieces.join('').replace(/\s/g, ''));
          let lastMs = 0;
          for (const { startMs, endMs } of found as readonly Span[]) {
            expect(startMs).toBeGreaterThanOrEqual(Math.max(lastMs, stretch.startMs));
            expect(endMs).toBeGreaterThan(startMs);
            expect(endMs).toBeLessThanOrEqual(stretch.endMs);
            lastMs = startMs;
          }
        }
      )
    );
  });
});
