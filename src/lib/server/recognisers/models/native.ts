/**
 * The library behind the models of a folder (sherpa-onnx by its Node addon, 1.13). Only processes of their own load it: on
 * what does not fit it ends the process it is in.
 */
import { createRequire } from 'node:module';
import { z } from 'zod';
import type { ReadStretch } from '$lib/core/ears';
import type { LoadedModel } from './messages';

const RATE_HZ = 16_000;
const FILTERS = 80;
/** Behind the end of a stream, so that what was said last is heard. */
const TAIL_SAMPLES = RATE_HZ * 0.7;

interface Stream {
  acceptWaveform(wave: { readonly samples: Float32Array; readonly sampleRate: number }): void;
  inputFinished?(): void;
}
interface Recogniser {
  createStream(): Stream;
  decode(stream: Stream): void;
  isReady?(stream: Stream): boolean;
  getResult(stream: Stream): unknown;
}
interface Library {
  readonly OfflineRecognizer: new (settings: object) => Recogniser;
  readonly OnlineRecognizer: new (settings: object) => Recogniser;
}

const resultSchema = z.object({
  text: z.string(),
  tokens: z.array(z.string()).default([]),
  timestamps: z.array(z.number()).default([]),
  ys_log_probs: z.array(z.number()).default([]),
  ys_probs: z.array(z.number()).default([])
});

/** What the library calls a family that hears sound as it comes, where it differs. */
const STREAMED: Readonly<Record<string, string>> = { zipformerCtc: 'zipformer2Ctc' };

export class Ear {
  readonly #recogniser: Recogniser;
  readonly #hearsBy: LoadedModel['hearsBy'];

  /** Throws where the library is not installed. */
  constructor({ family, files, tokensPath, hearsBy, modelType, language, threads }: LoadedModel) {
    const library = createRequire(import.meta.url)('sherpa-onnx-node') as Library;
    const name = hearsBy === 'stream' ? (STREAMED[family] ?? family) : family;
    const settings = {
      featConfig: { sampleRate: RATE_HZ, featureDim: FILTERS },
      modelConfig: {
        [name]: { ...files, ...(language !== null && { language }) },
        tokens: tokensPath,
        numThreads: threads,
        provider: 'cpu',
        ...(modelType !== null && { modelType })
      }
    };
    this.#hearsBy = hearsBy;
    this.#recogniser = new library[hearsBy === 'stream' ? 'OnlineRecognizer' : 'OfflineRecognizer'](settings);
  }

  /** What a stretch says; nothing of no samples, on which the library would end. */
  hear(samples: Float32Array): ReadStretch {
    if (samples.length === 0) return { text: '', pieces: [], startsMs: [], logProbabilities: [] };
    const recogniser = this.#recogniser;
    const stream = recogniser.createStream();
    stream.acceptWaveform({ samples, sampleRate: RATE_HZ });
    if (this.#hearsBy === 'stretch') recogniser.decode(stream);
    else {
      stream.acceptWaveform({ samples: new Float32Array(TAIL_SAMPLES), sampleRate: RATE_HZ });
      stream.inputFinished?.();
      while (recogniser.isReady?.(stream) === true) recogniser.decode(stream);
    }
    const result = resultSchema.parse(recogniser.getResult(stream));
    return {
      text: result.text.trim(),
      pieces: result.tokens,
      startsMs: result.timestamps.map((seconds) => seconds * 1000),
      logProbabilities: result.ys_log_probs.length > 0 ? result.ys_log_probs : result.ys_probs
    };
  }
}
