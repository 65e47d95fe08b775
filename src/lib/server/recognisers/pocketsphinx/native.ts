/**
 * CMU PocketSphinx by its C interface (pocketsphinx.h, cmd_ln.h, logmath.h of 0.8+5prealpha). Only engine processes
 * load this: a fault of the library ends the process it is in.
 */
import koffi from 'koffi';
import type { HeardWord } from '$lib/core/hearing';
import { wordFromDictionary } from '$lib/core/hearing';
import type { ExpectedFiles } from './messages';
import { ACOUSTIC_MODEL, DICTIONARY, LANGUAGE_MODEL } from './model';

const RATE_HZ = 16_000;
/** The engine counts in frames of 10 ms. */
const FRAME_MS = 10;
/** Fed in pieces of a second: progress can be told and a signal be taken between two. */
const PIECE_SAMPLES = RATE_HZ;

/** `NGRAM_AUTO` of ngram_model.h: the format is seen from the file. */
const ANY_FORMAT = 0;
/** Share of the phrases in the mixed language model: enough to win against words that sound alike, see docs/bench.md. */
const EXPECTED_SHARE = 0.1;

type Pointer = object | null;

function bind() {
  const sphinx = koffi.load('libpocketsphinx.so.3');
  const base = koffi.load('libsphinxbase.so.3');
  return {
    args: sphinx.func('void *ps_args()') as () => Pointer,
    parse: base.func('void *cmd_ln_parse_r(void *inout, void *defn, int argc, char **argv, int strict)') as (
      ...args: unknown[]
    ) => Pointer,
    init: sphinx.func('void *ps_init(void *config)') as (config: Pointer) => Pointer,
    startUtterance: sphinx.func('int ps_start_utt(void *ps)') as (decoder: Pointer) => number,
    process: sphinx.func('int ps_process_raw(void *ps, void *data, size_t n, int no_search, int full_utt)') as (
      ...args: unknown[]
    ) => number,
    endUtterance: sphinx.func('int ps_end_utt(void *ps)') as (decoder: Pointer) => number,
    firstSegment: sphinx.func('void *ps_seg_iter(void *ps)') as (decoder: Pointer) => Pointer,
    nextSegment: sphinx.func('void *ps_seg_next(void *seg)') as (segment: Pointer) => Pointer,
    segmentWord: sphinx.func('const char *ps_seg_word(void *seg)') as (segment: Pointer) => string,
    segmentFrames: sphinx.func('void ps_seg_frames(void *seg, _Out_ int *sf, _Out_ int *ef)') as (
      segment: Pointer,
      start: number[],
      end: number[]
    ) => void,
    segmentPosterior: sphinx.func('int ps_seg_prob(void *seg, _Out_ int *ascr, _Out_ int *lscr, _Out_ int *lback)') as (
      segment: Pointer,
      ...scores: number[][]
    ) => number,
    readModel: base.func('void *ngram_model_read(void *config, const char *path, int type, void *lmath)') as (
      ...args: unknown[]
    ) => Pointer,
    joinModels: base.func(
      'void *ngram_model_set_init(void *config, void **models, const char **names, const float *weights, int n)'
    ) as (...args: unknown[]) => Pointer,
    setModel: sphinx.func('int ps_set_lm(void *ps, const char *name, void *lm)') as (...args: unknown[]) => number,
    useSearch: sphinx.func('int ps_set_search(void *ps, const char *name)') as (...args: unknown[]) => number,
    logmath: sphinx.func('void *ps_get_logmath(void *ps)') as (decoder: Pointer) => Pointer,
    exp: base.func('double logmath_exp(void *lmath, int p)') as (logmath: Pointer, value: number) => number
  };
}

export class Decoder {
  readonly #native = bind();
  readonly #decoder: Pointer;
  readonly #logmath: Pointer;

  /** Throws where the library or its model is not there. */
  constructor(expected: ExpectedFiles | null) {
    const settings = {
      '-hmm': ACOUSTIC_MODEL,
      '-lm': LANGUAGE_MODEL,
      '-dict': expected?.dictionaryPath ?? DICTIONARY,
      // The flat second pass costs a fifth of the time and mends no words.
      '-fwdflat': 'no',
      // The lattice is searched for posteriors: they are the confidence.
      '-bestpath': 'yes',
      // The engine's own silence removal would shift every time behind it.
      '-remove_silence': 'no',
      '-logfn': '/dev/null'
    };
    const argv = ['vine-tap', ...Object.entries(settings).flat()];
    const config = this.#native.parse(null, this.#native.args(), argv.length, argv, 1);
    this.#decoder = config === null ? null : this.#native.init(config);
    if (this.#decoder === null)
      throw new Error(
        `PocketSphinx could not load its model from ${ACOUSTIC_MODEL}: install the package pocketsphinx-en-us.`
      );
    this.#logmath = this.#native.logmath(this.#decoder);
    if (expected !== null) this.#expect(config, expected.phraseModelPath);
  }

  /** Mixes the phrases into the general language model. */
  #expect(config: Pointer, phraseModelPath: string): void {
    const { readModel, joinModels, setModel, useSearch } = this.#native;
    const models = [LANGUAGE_MODEL, phraseModelPath].map((path) => readModel(config, path, ANY_FORMAT, this.#logmath));
    if (models.includes(null)) throw new Error('the language model of the phrases to expect cannot be read');
    const joined = joinModels(config, models, ['general', 'expected'], [1 - EXPECTED_SHARE, EXPECTED_SHARE], 2);
    if (
      joined === null ||
      setModel(this.#decoder, 'expecting', joined) !== 0 ||
      useSearch(this.#decoder, 'expecting') !== 0
    )
      throw new Error('the phrases to expect cannot be mixed into the language model');
  }

  /** The words of a stretch of sound, in ms from its start. `onHeard` is told the ms fed so far. */
  hear(samples: Int16Array, onHeard: (heardMs: number) => void): HeardWord[] {
    this.#native.startUtterance(this.#decoder);
    for (let at = 0; at < samples.length; at += PIECE_SAMPLES) {
      const piece = samples.subarray(at, at + PIECE_SAMPLES);
      this.#native.process(this.#decoder, piece, piece.length, 0, 0);
      onHeard(((at + piece.length) / RATE_HZ) * 1000);
    }
    this.#native.endUtterance(this.#decoder);
    const words: HeardWord[] = [];
    // Frames are counted on from utterance to utterance: the first segment's is the zero of this one.
    let zeroFrame: number | null = null;
    for (
      let segment = this.#native.firstSegment(this.#decoder);
      segment !== null;
      segment = this.#native.nextSegment(segment)
    ) {
      const start = [0];
      const end = [0];
      this.#native.segmentFrames(segment, start, end);
      zeroFrame ??= start[0]!;
      const text = wordFromDictionary(this.#native.segmentWord(segment));
      if (text === null) continue;
      const posterior = this.#native.segmentPosterior(segment, [0], [0], [0]);
      words.push({
        text,
        startMs: (start[0]! - zeroFrame) * FRAME_MS,
        endMs: (end[0]! + 1 - zeroFrame) * FRAME_MS,
        confidence: Math.min(1, Math.max(0, this.#native.exp(this.#logmath, posterior))),
        alternatives: []
      });
    }
    return words;
  }
}
