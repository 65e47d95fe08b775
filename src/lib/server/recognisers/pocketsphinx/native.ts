/**
 * CMU PocketSphinx by its C interface (pocketsphinx.h, cmd_ln.h, logmath.h of 0.8+5prealpha). Only engine processes
 * load this: a fault of the library ends the process it is in.
 */
import koffi from 'koffi';
import { withAlternatives, wordFromDictionary, type HeardWord, type WeighedWord } from '$lib/core/hearing';
import { placeInOrder } from '$lib/core/fitting';
import { type Span, toSpan } from '$lib/core/time';
import type { ExpectedFiles, Purpose } from './messages';
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
    firstOther: sphinx.func('void *ps_nbest(void *ps)') as (decoder: Pointer) => Pointer,
    nextOther: sphinx.func('void *ps_nbest_next(void *nbest)') as (nbest: Pointer) => Pointer,
    otherScore: sphinx.func('const char *ps_nbest_hyp(void *nbest, _Out_ int *score)') as (
      nbest: Pointer,
      score: number[]
    ) => string | null,
    otherSegments: sphinx.func('void *ps_nbest_seg(void *nbest)') as (nbest: Pointer) => Pointer,
    freeOthers: sphinx.func('void ps_nbest_free(void *nbest)') as (nbest: Pointer) => void,
    lattice: sphinx.func('void *ps_get_lattice(void *ps)') as (decoder: Pointer) => Pointer,
    firstNode: sphinx.func('void *ps_latnode_iter(void *dag)') as (lattice: Pointer) => Pointer,
    nextNode: sphinx.func('void *ps_latnode_iter_next(void *itor)') as (node: Pointer) => Pointer,
    nodeAt: sphinx.func('void *ps_latnode_iter_node(void *itor)') as (node: Pointer) => Pointer,
    nodeWord: sphinx.func('const char *ps_latnode_baseword(void *dag, void *node)') as (
      lattice: Pointer,
      node: Pointer
    ) => string,
    nodeStart: sphinx.func('int ps_latnode_times(void *node, _Out_ int16_t *fef, _Out_ int16_t *lef)') as (
      node: Pointer,
      ...ends: number[][]
    ) => number,
    nodePosterior: sphinx.func('int ps_latnode_prob(void *dag, void *node, _Out_ void **link)') as (
      lattice: Pointer,
      node: Pointer,
      link: Pointer[]
    ) => number,
    linkEnd: sphinx.func('int ps_latlink_times(void *link, _Out_ int16_t *sf)') as (
      link: Pointer,
      start: number[]
    ) => number,
    setGrammar: sphinx.func('int ps_set_jsgf_string(void *ps, const char *name, const char *grammar)') as (
      decoder: Pointer,
      name: string,
      grammar: string
    ) => number,
    model: sphinx.func('void *ps_get_lm(void *ps, const char *name)') as (decoder: Pointer, name: string) => Pointer,
    wordId: base.func('int ngram_wid(void *model, const char *word)') as (model: Pointer, word: string) => number,
    probability: base.func('int ngram_ng_prob(void *model, int wid, int *history, int n_hist, _Out_ int *n_used)') as (
      ...args: unknown[]
    ) => number,
    logmath: sphinx.func('void *ps_get_logmath(void *ps)') as (decoder: Pointer) => Pointer,
    ln: base.func('double logmath_log_to_ln(void *lmath, int p)') as (logmath: Pointer, value: number) => number,
    exp: base.func('double logmath_exp(void *lmath, int p)') as (logmath: Pointer, value: number) => number
  };
}

/** Another reading of the same sound. */
export interface OtherReading {
  readonly words: readonly HeardWord[];
  /** Natural logarithm of how likely it is against the best one: 0 and below. */
  readonly logLikelihood: number;
}

/** A word of the dictionary to be laid on the sound. */
export interface FitWord {
  readonly form: string;
  /** It may be missing in the sound. */
  readonly isOptional: boolean;
}

const WIDE = { '-beam': '1e-80', '-pbeam': '1e-80', '-wbeam': '1e-60' };
const TUNING: Readonly<Record<Purpose, Readonly<Record<string, string>>>> = {
  // The flat second pass costs a fifth of the time and mends no words; the lattice gives posteriors, the confidence.
  hear: { '-fwdflat': 'no', '-bestpath': 'yes' },
  // It is a passage: time does not matter, what else it could be does.
  // The flat pass would leave only the words that the first one liked.
  search: { '-fwdflat': 'no', '-bestpath': 'yes', ...WIDE, '-lw': '5' },
  // A lattice would weigh what is not in question.
  fit: { '-fwdflat': 'no', '-bestpath': 'no', ...WIDE },
  // It has to keep up: 40 % of a core, with no more errors than the whole search.
  listen: { '-fwdflat': 'no', '-bestpath': 'no', '-maxhmmpf': '5000' }
};
/** What the language model calls the search that it was loaded with. */
const DEFAULT_SEARCH = '_default';
/** Path scores hold the language's weight on top; the engine's own posteriors divide by as much (`-ascale`). */
const SCORE_SCALE = 20;
/** That an optional word is not there has to be said by the sound. */
const SKIP_SHARE = 0.3;
/** Behind a stretch's last word nobody knows what follows: by as much is an ending likelier than its own share. */
const UNKNOWN_NEXT_ODDS = 2;

export class Decoder {
  readonly #native = bind();
  readonly #decoder: Pointer;
  readonly #logmath: Pointer;
  readonly #model: Pointer;

  /** Throws where the library or its model is not there. */
  constructor(purpose: Purpose, expected: ExpectedFiles | null) {
    const settings = {
      '-hmm': ACOUSTIC_MODEL,
      '-lm': LANGUAGE_MODEL,
      '-dict': expected?.dictionaryPath ?? DICTIONARY,
      // The engine's own silence removal would shift every time behind it.
      '-remove_silence': 'no',
      '-logfn': '/dev/null',
      ...TUNING[purpose]
    };
    const argv = ['vine-tap', ...Object.entries(settings).flat()];
    const config = this.#native.parse(null, this.#native.args(), argv.length, argv, 1);
    this.#decoder = config === null ? null : this.#native.init(config);
    if (this.#decoder === null)
      throw new Error(
        `PocketSphinx could not load its model from ${ACOUSTIC_MODEL}: install the package pocketsphinx-en-us.`
      );
    this.#logmath = this.#native.logmath(this.#decoder);
    this.#model = this.#native.model(this.#decoder, DEFAULT_SEARCH);
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
    this.#feed(samples, onHeard);
    const segments = this.#segments(this.#native.firstSegment(this.#decoder), (segment) =>
      this.#native.exp(this.#logmath, this.#native.segmentPosterior(segment, [0], [0], [0]))
    );
    return this.#withEndOdds(withAlternatives(segments, this.#nodes()));
  }

  /** Every word of the lattice with its posterior; those of the best path are weighed by having been walked. */
  #nodes(): WeighedWord[] {
    const { lattice, firstNode, nextNode, nodeAt, nodeWord, nodeStart, nodePosterior, linkEnd } = this.#native;
    const dag = lattice(this.#decoder);
    const found: { text: string; startFrame: number; endFrame: number; posterior: number }[] = [];
    let zeroFrame = Number.POSITIVE_INFINITY;
    for (let at = dag === null ? null : firstNode(dag); at !== null; at = nextNode(at)) {
      const node = nodeAt(at);
      const startFrame = nodeStart(node, [0], [0]);
      zeroFrame = Math.min(zeroFrame, startFrame);
      const text = wordFromDictionary(nodeWord(dag, node));
      const link: Pointer[] = [null];
      const posterior = this.#native.exp(this.#logmath, nodePosterior(dag, node, link));
      if (text === null || link[0] === null) continue;
      const endFrame = linkEnd(link[0]!, [0]);
      found.push({ text, startFrame, endFrame, posterior });
    }
    return found.map(({ startFrame, endFrame, ...word }) => ({
      ...word,
      ...toSpan({ startMs: (startFrame - zeroFrame) * FRAME_MS, endMs: (endFrame + 1 - zeroFrame) * FRAME_MS })
    }));
  }

  /** What else the stretch that was heard last could be: at most so many readings that differ in their words, best first. */
  others(most: number): OtherReading[] {
    const found: OtherReading[] = [];
    const texts = new Set<string>();
    let bestScore: number | null = null;
    let other = most === 0 ? null : this.#native.firstOther(this.#decoder);
    // Many paths differ in silences and pronunciations alone.
    for (let seen = 0; other !== null && found.length < most && seen < most * 20; seen++) {
      const score = [0];
      this.#native.otherScore(other, score);
      bestScore ??= score[0]!;
      const words = this.#segments(this.#native.otherSegments(other), () => 0);
      const text = words.map((word) => word.text).join(' ');
      if (!texts.has(text)) {
        texts.add(text);
        const logLikelihood = this.#native.ln(this.#logmath, score[0]! - bestScore) / SCORE_SCALE;
        found.push({ words: this.#withEndOdds(words), logLikelihood: Math.min(0, logLikelihood) });
      }
      other = this.#native.nextOther(other);
    }
    if (other !== null) this.#native.freeOthers(other);
    return found;
  }

  /** Begins to hear what is fed by and by. */
  beginUtterance(): void {
    this.#native.startUtterance(this.#decoder);
  }

  /** More of an utterance; its words so far, in ms from its start. */
  hearOn(samples: Int16Array): HeardWord[] {
    this.#native.process(this.#decoder, samples, samples.length, 0, 0);
    return this.#segments(this.#native.firstSegment(this.#decoder), () => 0);
  }

  /** The words of an utterance that has ended. */
  endUtterance(): HeardWord[] {
    this.#native.endUtterance(this.#decoder);
    return this.#segments(this.#native.firstSegment(this.#decoder), () => 0);
  }

  /** Where the words are spoken in a stretch, `null` for one that is not; nothing where they cannot be laid on it. */
  fit(samples: Int16Array, words: readonly FitWord[]): (Span | null)[] | null {
    const steps = words.map(({ form, isOptional }) =>
      isOptional ? `( /${1 - SKIP_SHARE}/ ${form} | /${SKIP_SHARE}/ <NULL> )` : form
    );
    const grammar = `#JSGF V1.0;\ngrammar script;\npublic <script> = ${steps.join(' ')};\n`;
    const { setGrammar, useSearch } = this.#native;
    if (setGrammar(this.#decoder, 'script', grammar) !== 0 || useSearch(this.#decoder, 'script') !== 0) return null;
    this.#feed(samples, () => undefined);
    return placeInOrder(
      words,
      this.#segments(this.#native.firstSegment(this.#decoder), () => 1)
    );
  }

  #feed(samples: Int16Array, onHeard: (heardMs: number) => void): void {
    this.#native.startUtterance(this.#decoder);
    for (let at = 0; at < samples.length; at += PIECE_SAMPLES) {
      const piece = samples.subarray(at, at + PIECE_SAMPLES);
      this.#native.process(this.#decoder, piece, piece.length, 0, 0);
      onHeard(((at + piece.length) / RATE_HZ) * 1000);
    }
    this.#native.endUtterance(this.#decoder);
  }

  #segments(first: Pointer, confidenceOf: (segment: Pointer) => number): HeardWord[] {
    const words: HeardWord[] = [];
    // Frames are counted on from utterance to utterance: the first segment's is the zero of this one.
    let zeroFrame: number | null = null;
    for (let segment = first; segment !== null; segment = this.#native.nextSegment(segment)) {
      const start = [0];
      const end = [0];
      this.#native.segmentFrames(segment, start, end);
      zeroFrame ??= start[0]!;
      const text = wordFromDictionary(this.#native.segmentWord(segment));
      if (text === null) continue;
      words.push({
        text,
        ...toSpan({ startMs: (start[0]! - zeroFrame) * FRAME_MS, endMs: (end[0]! + 1 - zeroFrame) * FRAME_MS }),
        confidence: Math.min(1, Math.max(0, confidenceOf(segment))),
        alternatives: [],
        endOdds: null
      });
    }
    return words;
  }

  /** The hidden-event model of sentence ends: is `a b </s> <s> c d` likelier than `a b c d`? */
  #withEndOdds(words: readonly HeardWord[]): HeardWord[] {
    const { wordId } = this.#native;
    const [begin, end] = [wordId(this.#model, '<s>'), wordId(this.#model, '</s>')];
    const ids = words.map((word) => wordId(this.#model, word.text.toLowerCase()));
    return words.map((word, at) => {
      const before = [ids[at]!, ids[at - 1] ?? begin];
      const [next, second] = [ids[at + 1], ids[at + 2]];
      const ending = this.#logShare(end, before);
      if (next === undefined) return { ...word, endOdds: ending + UNKNOWN_NEXT_ODDS };
      const anew = this.#logShare(next, [begin]) + (second === undefined ? 0 : this.#logShare(second, [next, begin]));
      const onward =
        this.#logShare(next, before) + (second === undefined ? 0 : this.#logShare(second, [next, ids[at]!]));
      return { ...word, endOdds: ending + anew - onward };
    });
  }

  /** Natural logarithm of a word's share after others, the nearest first. */
  #logShare(id: number, before: readonly number[]): number {
    const share = this.#native.probability(this.#model, id, before, before.length, [0]);
    return this.#native.ln(this.#logmath, share);
  }
}
