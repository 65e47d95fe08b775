/**
 * Which kind of speech model a folder holds, by its files and by what they say of themselves, and how it is to be loaded.
 * The library behind it ends its process on what does not fit, or hears nonsense: all that can be told before is told here.
 */
import { fail, ok, type Result } from '../result';
import type { OnnxFacts } from './onnx';

/** What is known of a folder without loading anything. */
export interface FolderFacts {
  /** Names of the files in it; folders in it do not count. */
  readonly files: readonly string[];
  /** Of each ONNX file. */
  readonly graphs: ReadonlyMap<string, OnnxFacts>;
  /** Of `tokens.txt`; `null` where it is not there, `unreadable` where it is no list of pieces. */
  readonly tokens: TokenFacts | 'unreadable' | null;
}

export interface TokenFacts {
  readonly count: number;
  /** Whether they hold the marks of sentences and, where the script has them, both cases. */
  readonly writeText: boolean;
}

/** The library's name of a family, as its settings have it. */
export type FamilyId = (typeof FAMILIES)[number]['id'];

/** How a model is loaded, and what it can. */
export interface ModelPlan {
  readonly family: FamilyId;
  /** Its files by their roles in the library's settings; one of a single file is `model`. */
  readonly files: Readonly<Record<string, string>>;
  /** Hears sound as it comes, or whole stretches. */
  readonly hearsBy: 'stretch' | 'stream';
  /** What the library has to be told besides. */
  readonly modelType: string | null;
  /** BCP 47; empty where the model does not say. */
  readonly languages: readonly string[];
  /** Whether the language can be chosen, where there are several. */
  readonly choosesLanguage: boolean;
  readonly writes: 'bare words' | 'text';
  readonly can: {
    /** Of each piece, where it begins. */
    readonly times: boolean;
    /** How likely each piece is. */
    readonly confidence: boolean;
    /** Phrases that are to be expected. */
    readonly hotwords: boolean;
  };
}

interface Family {
  readonly id: string;
  /** The roles of its files, each with what their names begin with, the longest first. */
  readonly roles: Readonly<Record<string, readonly string[]>>;
  /** Its main file, which says what it is. */
  readonly main: string;
  readonly isIt: (facts: OnnxFacts) => boolean;
  readonly can: ModelPlan['can'];
  /** It always writes with marks and capitals, whatever its pieces look like. */
  readonly writesText?: true;
  /** Which metadata tells how many pieces it has; tokens may be more by so many. */
  readonly vocabulary: { readonly role: string; readonly key: string; readonly more: number };
}

const says = (...types: readonly string[]) => {
  const known = new Set(types);
  return ({ metadata }: OnnxFacts): boolean => known.has(metadata.model_type ?? '');
};
const has =
  (key: string) =>
  ({ metadata }: OnnxFacts): boolean =>
    key in metadata;

const ONE = { model: [''] };
const TIMED = { times: true, confidence: false, hotwords: false };
const UNTIMED = { times: false, confidence: false, hotwords: false };
const vocabularyOf = (role: string, key = 'vocab_size', more = 0) => ({ role, key, more });

/** Those of several files before those of one, and the narrower before the wider. */
const FAMILIES = [
  {
    id: 'transducer',
    roles: { encoder: ['encoder'], decoder: ['decoder'], joiner: ['joiner'] },
    ...{ main: 'encoder', isIt: () => true },
    can: { times: true, confidence: true, hotwords: true },
    vocabulary: vocabularyOf('decoder')
  },
  {
    id: 'moonshine',
    roles: {
      preprocessor: ['preprocess'],
      encoder: ['encode'],
      uncachedDecoder: ['uncached_decode'],
      cachedDecoder: ['cached_decode']
    },
    ...{ main: 'encoder', isIt: () => true },
    ...{ can: UNTIMED, writesText: true, vocabulary: vocabularyOf('encoder') }
  },
  {
    id: 'whisper',
    roles: { encoder: ['encoder'], decoder: ['decoder'] },
    ...{ main: 'encoder', isIt: has('n_mels') },
    ...{ can: UNTIMED, writesText: true, vocabulary: vocabularyOf('encoder', 'n_vocab') }
  },
  {
    id: 'canary',
    roles: { encoder: ['encoder'], decoder: ['decoder'] },
    ...{ main: 'encoder', isIt: says('EncDecMultiTaskModel') },
    ...{ can: UNTIMED, writesText: true, vocabulary: vocabularyOf('encoder') }
  },
  {
    id: 'nemoCtc',
    ...{ roles: ONE, main: 'model' },
    isIt: says('EncDecCTCModel', 'EncDecCTCModelBPE', 'EncDecHybridRNNTCTCBPEModel'),
    ...{ can: TIMED, vocabulary: vocabularyOf('model', 'vocab_size', 1) }
  },
  {
    id: 'senseVoice',
    ...{ roles: ONE, main: 'model' },
    isIt: ({ metadata }: OnnxFacts) => 'lfr_window_size' in metadata && 'lang_auto' in metadata,
    ...{ can: TIMED, writesText: true, vocabulary: vocabularyOf('model') }
  },
  {
    id: 'paraformer',
    ...{ roles: ONE, main: 'model', isIt: has('lfr_window_size') },
    ...{ can: TIMED, vocabulary: vocabularyOf('model') }
  },
  {
    id: 'zipformerCtc',
    ...{ roles: ONE, main: 'model', isIt: says('zipformer2_ctc', 'zipformer_ctc') },
    ...{ can: TIMED, vocabulary: vocabularyOf('model') }
  },
  {
    id: 'wenetCtc',
    ...{ roles: ONE, main: 'model', isIt: says('wenet_ctc') },
    ...{ can: TIMED, vocabulary: vocabularyOf('model') }
  },
  {
    id: 'dolphin',
    ...{ roles: ONE, main: 'model', isIt: says('dolphin') },
    ...{ can: TIMED, vocabulary: vocabularyOf('model') }
  },
  {
    id: 'omnilingual',
    ...{ roles: ONE, main: 'model', isIt: says('omnilingual-asr') },
    ...{ can: TIMED, vocabulary: vocabularyOf('model') }
  }
] as const satisfies readonly Family[];

/** Sound is given to models at this rate. */
const RATE_HZ = 16_000;
const TOKENS = 'tokens.txt';
/** Smaller files of the same role, and as good. */
const SMALL = /\.int8\.onnx$/;
/** These hear sound as it comes: they say how much of it at once. */
const STREAMED = ['decode_chunk_len', 'window_size'];
const NEMO = /^EncDec(?:Hybrid)?RNNT/;

/** What a folder holds, or what is wrong with it and what to do. */
export function planModel(facts: FolderFacts): Result<ModelPlan, string> {
  const models = facts.files.filter((name) => name.endsWith('.onnx'));
  if (models.length === 0) return fail(noModel(facts.files));
  const found = FAMILIES.map((family) => ({ family, files: filesOf(family, models) })).find(
    ({ family, files }) => files !== null && family.isIt(facts.graphs.get(files[family.main]!)!)
  );
  if (found?.files == null) return fail(unknownModel(facts, models));
  const { family, files } = found;
  const { tokens } = facts;
  if (tokens === null) return fail(`“${TOKENS}” is missing: copy it from where the model came from.`);
  if (tokens === 'unreadable')
    return fail(
      `“${TOKENS}” is no list of pieces with their numbers in UTF-8: copy it anew from where the model came from.`
    );
  const graphs = Object.fromEntries(Object.entries(files).map(([role, name]) => [role, facts.graphs.get(name)!]));
  const wrong = wrongTokens(family, graphs, tokens);
  if (wrong !== null) return fail(wrong);
  const { metadata } = graphs[family.main]!;
  const rateHz = Number(metadata.sample_rate ?? RATE_HZ);
  if (rateHz !== RATE_HZ)
    return fail(
      `It was made for sound of ${rateHz / 1000} kHz, such as of telephones; only models for 16 kHz are heard with.`
    );
  const languages = languagesOf(metadata);
  return ok({
    ...{ family: family.id, files, languages },
    hearsBy: STREAMED.some((key) => key in metadata) && family.id !== 'whisper' ? 'stream' : 'stretch',
    modelType: family.id === 'transducer' && NEMO.test(metadata.model_type ?? '') ? 'nemo_transducer' : null,
    choosesLanguage: languages.length > 1 && (family.id === 'whisper' || family.id === 'senseVoice'),
    writes: 'writesText' in family || tokens.writeText ? 'text' : 'bare words',
    can: family.can
  });
}

/** A file for each role, and no file that is of no role; `null` where the folder is of another family. */
function filesOf({ roles }: Family, models: readonly string[]): Readonly<Record<string, string>> | null {
  const files: Record<string, string> = {};
  const left = new Set(models);
  for (const [role, beginnings] of Object.entries(roles)) {
    const named = models.filter((name) => beginnings.some((beginning) => stem(name).startsWith(beginning)));
    const [first] = named.sort((a, b) => Number(SMALL.test(b)) - Number(SMALL.test(a)) || a.length - b.length);
    // Of each role there is one, in several precisions at most.
    if (first === undefined || named.some((name) => baseOf(name) !== baseOf(first))) return null;
    files[role] = first;
    for (const name of named) left.delete(name);
  }
  return left.size === 0 ? files : null;
}

const baseOf = (name: string): string => name.replace(/(?:\.(?:int8|fp16|fp32))?\.onnx$/, '');

/** Names have the model's own ahead of the role: `tiny.en-encoder.onnx`. */
const stem = (name: string): string =>
  /(?:uncached_decode|cached_decode|preprocess|encode|decode|joiner).*$/.exec(name)?.[0] ?? name;

function wrongTokens(
  { vocabulary: { role, key, more } }: Family,
  graphs: Readonly<Record<string, OnnxFacts>>,
  { count }: TokenFacts
): string | null {
  const wanted = Number(graphs[role]!.metadata[key] ?? Number.NaN);
  if (Number.isNaN(wanted) || (count >= wanted && count <= wanted + more)) return null;
  // Some models do not count the piece that says nothing.
  if (count === wanted + 1) return null;
  return `“${TOKENS}” has ${count} pieces where the model has ${wanted}: it belongs to another model, or is cut short.`;
}

/** BCP 47, as far as the model says: lists of codes, or a key for each language. */
function languagesOf(metadata: Readonly<Record<string, string>>): readonly string[] {
  const listed = metadata.all_language_codes ?? metadata.language ?? metadata.languages;
  if (metadata.is_multilingual === '0') return ['en'];
  if (listed !== undefined) return listed.split(/[\s,;]+/).filter((code) => /^[a-z]{2,3}(?:-[A-Za-z\d]+)*$/.test(code));
  return Object.keys(metadata).flatMap((key) => /^lang_([a-z]{2,3})$/.exec(key)?.[1] ?? []);
}

const noModel = (files: readonly string[]): string =>
  files.length === 0
    ? 'It is empty: put the files of one speech model into it.'
    : `It holds no “.onnx” file: a model is one or more of them and “${TOKENS}”.`;

function unknownModel({ graphs }: FolderFacts, models: readonly string[]): string {
  const types = new Set(
    models.map((name) => graphs.get(name)?.metadata.model_type).filter((type) => type !== undefined)
  );
  const about =
    types.size === 0 ? 'They do not say what they are' : `They say that they are “${[...types].join('”, “')}”`;
  return `Its files, ${models.map((name) => `“${name}”`).join(', ')}, make no speech model that is known here. ${about}.`;
}
