/** Calls to the server, its answers checked. */
import { cueIdSchema, type TrackId, trackIdSchema, wordIdSchema } from '$lib/core/id';
import { z } from 'zod';
import { keptSheetSchema, type KeptSheet, type OwnSheet } from '$lib/core/checks';
import type { PublishRequest } from '$lib/core/publishing';
import { handedOverVersionSchema, lastHandedOverSchema, type HandedOverVersion } from '$lib/core/handed-over';
import {
  keptDestinationSchema,
  type Destination,
  type KeptDestination,
  type OwnDestination,
  destinationSchema
} from '$lib/core/destinations';
import { doubtSchema } from '$lib/core/doubts';
import { CodedError } from '$lib/core/coded-error';
import type { Command } from '$lib/core/commands';
import type { Term } from '$lib/core/expecting';
import { faceSchema, type Face } from '$lib/core/faces';
import type { FormatId } from '$lib/core/formats';
import { keptLookSchema, type KeptLook, type OwnLook } from '$lib/core/looks';
import { paperSchema, type Paper } from '$lib/core/paper';
import type { RenderRequest } from '$lib/core/rendering';
import type { Query } from '$lib/core/search';
import { type Ms, msSchema, type Span } from '$lib/core/time';
import {
  JOIN_FAULTS,
  trimChangesSchema,
  trimSchema,
  type JudgedJoin,
  type Trim,
  type TrimCommand
} from '$lib/core/trims';
import {
  type RuleSet,
  ruleSetSchema,
  type Track,
  trackChangesSchema,
  packedTrackSchema,
  trackSchema
} from '$lib/core/track';

/** What the server refused, and why. Status 0: it could not be reached, or something else answered, such as a proxy. */
export class ServerProblem extends CodedError {
  /** When the server wants to be asked again, in ms from now. */
  retryAfterMs: number | null = null;
}

const errorSchema = z.object({
  error: z.object({ code: z.string(), message: z.string(), details: z.unknown().optional() })
});

export function problemFrom(status: number, body: unknown): ServerProblem {
  const read = errorSchema.safeParse(body);
  return read.success
    ? new ServerProblem(status, read.data.error.code, read.data.error.message, read.data.error.details)
    : new ServerProblem(
        status,
        'unknown',
        `The server answered ${status}: try again, and look into its log if that does not help.`
      );
}

const unreachable = (cause: unknown): ServerProblem =>
  Object.assign(
    new ServerProblem(0, 'unreachable', 'The server cannot be reached: see whether it runs, and try again.'),
    { cause }
  );

export async function call<S extends z.ZodType>(schema: S, path: string, init: RequestInit = {}): Promise<z.output<S>> {
  let response: Response;
  let text: string;
  try {
    response = await fetch(path, init);
    text = await response.text();
  } catch (cause) {
    throw init.signal?.aborted === true ? cause : unreachable(cause);
  }
  let body: unknown = null;
  let strange: unknown = null;
  try {
    if (text !== '') body = JSON.parse(text);
  } catch (error) {
    strange = error;
  }
  if (!response.ok) {
    const seconds = Number(response.headers.get('retry-after') ?? Number.NaN);
    throw Object.assign(problemFrom(response.status, body), {
      retryAfterMs: Number.isFinite(seconds) ? seconds * 1000 : null
    });
  }
  const read = schema.safeParse(body);
  if (read.success && strange === null) return read.data;
  throw Object.assign(
    new ServerProblem(
      0,
      'strange_answer',
      'Something other than the server answered: load the page anew, and sign in if it asks.'
    ),
    {
      cause: strange ?? read.error
    }
  );
}

/** How a long call is followed, and given up. */
export interface Following {
  /** Called with the share that is done, 0 to 1. */
  readonly onProgress: (share: number) => void;
  readonly signal: AbortSignal;
}
const progressSchema = z.object({ progress: z.number() });

/** As `call`, of something that tells how far it is: a line for each step, the last one is the answer. */
async function callLong<S extends z.ZodType>(
  schema: S,
  path: string,
  init: RequestInit,
  { onProgress, signal }: Following
): Promise<z.output<S>> {
  const headers = { ...(init.headers as Record<string, string>), accept: 'application/x-ndjson' };
  const response = await fetch(path, { ...init, headers, signal }).catch((cause: unknown) => {
    throw signal.aborted ? cause : unreachable(cause);
  });
  if (!response.ok || response.body === null)
    throw problemFrom(response.status, await response.json().catch(() => null));
  let rest = '';
  let last: unknown = null;
  const take = (line: string): void => {
    if (line === '') return;
    last = JSON.parse(line);
    const step = progressSchema.safeParse(last);
    if (step.success) onProgress(step.data.progress);
  };
  for await (const text of response.body.pipeThrough(new TextDecoderStream())) {
    const lines = (rest + text).split('\n');
    rest = lines.pop()!;
    lines.forEach(take);
  }
  take(rest);
  if (errorSchema.safeParse(last).success) throw problemFrom(response.status, last);
  return schema.parse(last);
}

/** What is to be in a bundle, and what it is called. */
export interface BundleAsked {
  readonly destination: Destination;
  readonly trackIds?: readonly TrackId[];
  /** All the tracks of each. */
  readonly recordingIds?: readonly string[];
  /** As they are of a trim. */
  readonly trimId?: string;
  /** What the archive is called. */
  readonly title: string;
}

export const post = (value: unknown): RequestInit => ({
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(value)
});

export const trackSummarySchema = z.object({
  id: trackIdSchema,
  language: z.string(),
  kind: z.string(),
  /** The track that it translates. */
  sourceTrackId: trackIdSchema.optional(),
  title: z.string(),
  revision: z.number(),
  wordCount: z.number(),
  correctedCount: z.number(),
  cueCount: z.number(),
  state: z.enum(['draft', 'ready', 'handed over']),
  /** Open doubts as they were counted last; absent until somebody asked for them. */
  doubtCount: z.number().optional(),
  /** What breaks its rules; absent while that is not known. */
  findingCount: z.number().optional(),
  /** Absent where nothing of it left the house. */
  handedOver: lastHandedOverSchema.optional()
});
export type TrackSummary = z.infer<typeof trackSummarySchema>;

export const recordingSchema = z.object({
  id: z.string(),
  title: z.string(),
  formerTitles: z.array(z.string()).optional(),
  durationMs: z.number(),
  state: z.enum(['preparing', 'ready', 'failed']),
  failure: z.string().optional(),
  /** Its preparation was stopped, and can be gone on with. */
  canGoOn: z.boolean().optional(),
  hasSpeechMap: z.boolean(),
  /** The recording that it is the next cut of. */
  cutOf: z.string().optional(),
  createdAtMs: z.number(),
  binnedAtMs: z.number().optional(),
  jobId: z.string().optional(),
  projectId: z.string().optional(),
  media: z.object({
    mime: z.string(),
    hasVideo: z.boolean(),
    width: z.number().optional(),
    height: z.number().optional(),
    frameRate: z.number().optional(),
    channels: z.number(),
    sampleRate: z.number(),
    bytes: z.number()
  }),
  tracks: z.array(trackSummarySchema)
});
export type Recording = z.infer<typeof recordingSchema>;

const workStateSchema = z.enum([
  'failed',
  'preparing',
  'unheard',
  'hearing',
  'draft',
  'ready',
  'handed over',
  'changed'
]);
/** How far the work on a recording is. */
export type WorkState = z.infer<typeof workStateSchema>;

const listedSchema = recordingSchema.extend({
  work: workStateSchema,
  /** Of the recording that it is the next cut of. */
  cutOfTitle: z.string().optional(),
  /** Words around what was looked for, where it was spoken. */
  spoken: z.string().optional()
});
/** A recording as the list of them shows it. */
export type ListedRecording = z.infer<typeof listedSchema>;

const libraryPageSchema = z.object({
  recordings: z.array(listedSchema),
  /** On all pages. */
  total: z.number(),
  languages: z.array(z.string()),
  /** Tracks that were edited and are not searched as they are now. */
  notSearchedYet: z.number()
});
export type LibraryPage = z.infer<typeof libraryPageSchema>;

const siteFactsSchema = z.object({
  channel: z.object({
    name: z.string(),
    languages: z.array(z.string()),
    mostNameLength: z.number(),
    mostBytes: z.number()
  }),
  videos: z.array(z.object({ id: z.string(), title: z.string(), durationMs: z.number() }))
});
/** The video site, what it takes, and its videos. */
export type SiteFacts = z.infer<typeof siteFactsSchema>;

const siteCaptionSchema = z.object({
  id: z.string(),
  language: z.string(),
  name: z.string(),
  kind: z.enum(['captions', 'subtitles']),
  state: z.enum(['automatic', 'replaced', 'processing', 'refused', 'draft', 'published']),
  isDefault: z.boolean()
});
export type SiteCaption = z.infer<typeof siteCaptionSchema>;
const publicationSchema = z.object({
  id: z.string(),
  trackId: trackIdSchema,
  captionId: z.string(),
  language: z.string(),
  name: z.string(),
  file: z.string(),
  version: z.number(),
  publishedAtMs: z.number()
});
export type Publication = z.infer<typeof publicationSchema>;
const siteVideoFactsSchema = z.object({
  /** `null` where none is chosen. */
  video: z
    .object({
      id: z.string(),
      title: z.string(),
      durationMs: z.number(),
      captions: z.array(siteCaptionSchema),
      watchUrl: z.url({ protocol: /^https?$/ })
    })
    .nullable(),
  /** What was sent from here, the newest first. */
  publications: z.array(publicationSchema)
});
export type SiteVideoFacts = z.infer<typeof siteVideoFactsSchema>;

const shownCueSchema = z.object({ startMs: z.number(), endMs: z.number(), lines: z.array(z.string()) }).nullable();
const shownComparisonSchema = z.object({
  cues: z.number(),
  otherwise: z.array(z.object({ handedOver: shownCueSchema, shown: shownCueSchema }))
});
/** Whether viewers get what was handed over, cue by cue. */
export type ShownComparison = z.infer<typeof shownComparisonSchema>;

/** What of the recordings is listed, and how. */
export interface LibraryQuery {
  /** In the title, or spoken. */
  readonly text: string;
  /** Empty: any. */
  readonly language: string;
  readonly work: WorkState | '';
  /** Of a project; `none`: of those in no project. */
  readonly project: string;
  readonly sort: 'added' | 'edited' | 'title' | 'length';
  readonly isReversed: boolean;
}

const libraryParameters = ({ isReversed, ...query }: LibraryQuery): URLSearchParams =>
  new URLSearchParams([
    ...Object.entries(query).filter(([, value]) => value !== ''),
    ...(isReversed ? [['reversed', '1']] : [])
  ]);

const projectSchema = z.object({ id: z.string(), name: z.string(), recordingCount: z.number() });
/** Recordings that belong together. */
export type Project = z.infer<typeof projectSchema>;

export const jobSchema = z.object({
  id: z.string(),
  kind: z.string(),
  recordingId: z.string(),
  state: z.enum(['queued', 'running', 'done', 'failed', 'cancelled']),
  progress: z.number(),
  stage: z.string(),
  /** About how long it still takes, once that can be told. */
  leftMs: z.number().optional(),
  error: z.string().optional(),
  result: z.object({ trackId: trackIdSchema.optional(), renderId: z.string().optional() }).optional()
});
export type Job = z.infer<typeof jobSchema>;

const healthSchema = z.object({
  engines: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      kind: z.string(),
      isOwn: z.literal(true).optional(),
      available: z.boolean(),
      languages: z.array(z.string()),
      hears: z.boolean(),
      fits: z.boolean(),
      sendsSound: z.boolean(),
      price: z.object({ centsPerMinute: z.number(), balanceCents: z.number(), currency: z.string() }).optional(),
      reason: z.string().optional()
    })
  ),
  tools: z.object({ ffmpeg: z.object({ available: z.boolean(), videoCodecs: z.array(z.string()) }) })
});
export type Engine = z.infer<typeof healthSchema>['engines'][number];

const quoteSchema = z.object({
  minutes: z.number(),
  costCents: z.number(),
  balanceCents: z.number(),
  balanceAfterCents: z.number(),
  currency: z.string()
});
/** What a hearing costs, before it is asked for. */
export type Quote = z.infer<typeof quoteSchema>;

const soundSourceSchema = z.object({ stream: z.number(), channel: z.number().nullable(), name: z.string() });
/** A stream of the recording's sound, or a channel of one. */
export type SoundSource = z.infer<typeof soundSourceSchema>;
const sourcePath = (id: string, { stream, channel }: Pick<SoundSource, 'stream' | 'channel'>): string =>
  `/api/recordings/${id}/sources/${stream}-${channel ?? 'all'}`;

const proposalsSchema = z.object({
  revision: z.number(),
  proposals: z.array(
    z.object({
      id: z.string(),
      madeAtMs: z.number(),
      passages: z.array(
        z.object({
          startMs: msSchema,
          endMs: msSchema,
          wordIds: z.array(wordIdSchema),
          now: z.string(),
          heard: z.string(),
          isCorrected: z.boolean()
        })
      )
    })
  )
});
/** A new hearing of a track, and where it differs from the track. */
export type Proposal = z.infer<typeof proposalsSchema>['proposals'][number];

/** What a hearing is asked for. */
export interface HearingRequest {
  readonly engine: string;
  readonly language: string;
  readonly rules?: { readonly oneWordPerCue: boolean };
  readonly figures?: boolean;
  readonly script?: string;
  readonly speakers?: number | 'auto';
  readonly fromMs?: number;
  readonly toMs?: number;
  readonly background?: 'none' | 'music' | 'noise';
  readonly source?: Pick<SoundSource, 'stream' | 'channel'>;
  readonly trackId?: TrackId;
  readonly spendCents?: number;
}

const historySchema = z.object({ undo: z.string().nullable(), redo: z.string().nullable() });
const entriesSchema = z.object({
  revision: z.number(),
  entries: z.array(z.object({ revision: z.number(), changes: trackChangesSchema, batchId: z.string().nullable() })),
  history: historySchema
});
const savedSchema = z.object({ revision: z.number(), changes: trackChangesSchema, history: historySchema });
const trimEntriesSchema = z.object({
  revision: z.number(),
  entries: z.array(z.object({ revision: z.number(), changes: trimChangesSchema, batchId: z.string().nullable() })),
  history: historySchema
});
const savedTrimSchema = z.object({ revision: z.number(), changes: trimChangesSchema, history: historySchema });
const trimmedFindingSchema = z.object({
  ...{ key: z.string(), message: z.string(), startMs: msSchema },
  cueId: cueIdSchema.optional()
});
export type TrimmedFinding = z.infer<typeof trimmedFindingSchema>;
const trimSummarySchema = z.object({
  ...{ id: z.string(), title: z.string(), durationMs: z.number(), revision: z.number() }
});
export type TrimSummary = z.infer<typeof trimSummarySchema>;
const copyingSchema = z.object({
  passages: z.number(),
  earlyCount: z.number(),
  mostEarlyMs: z.number(),
  mostLateMs: z.number()
});
export type Copying = z.infer<typeof copyingSchema>;
const judgedJoinSchema = z.object({
  ...{ atMs: msSchema, beforeId: z.string(), afterId: z.string(), fadeMs: z.number() },
  faults: z.array(z.enum(JOIN_FAULTS)),
  better: z.array(z.object({ pieceId: z.string(), edge: z.enum(['start', 'end']), atMs: msSchema }))
});
const breakSchema = z.object({
  fromRevision: z.number(),
  toRevision: z.number(),
  problem: z.string(),
  foundAtMs: z.number()
});
/** A stretch of a track's log that could not be read. */
export type LogBreak = z.infer<typeof breakSchema>;
const warningSchema = z.object({ line: z.number().optional(), message: z.string() });
export type ImportWarning = z.infer<typeof warningSchema>;

/** What the server made of a change: its revision, what it did, and what undo and redo would take now. */
export type SaveAnswer = z.infer<typeof savedSchema>;

const readingSchema = z.object({
  text: z.string(),
  confidence: z.number(),
  words: z.array(z.object({ text: z.string(), startMs: msSchema, endMs: msSchema }))
});
/** One of the things that a passage may say. */
export type Reading = z.infer<typeof readingSchema>;

const versionSchema = z.object({ id: z.string(), title: z.string(), revision: z.number(), madeAtMs: z.number() });
/** A named point of a track; the first is its draft. */
export type Version = z.infer<typeof versionSchema>;

const foundInTrackSchema = z.object({
  recordingId: z.string(),
  recordingTitle: z.string(),
  trackId: trackIdSchema,
  language: z.string(),
  count: z.number(),
  hits: z.array(
    z.object({
      wordId: wordIdSchema,
      startMs: msSchema,
      before: z.string(),
      found: z.string(),
      after: z.string()
    })
  )
});
export type FoundInTrack = z.infer<typeof foundInTrackSchema>;

const doubtsSchema = z.object({
  revision: z.number(),
  doubts: z.array(doubtSchema).readonly(),
  judged: z.number(),
  isSpelled: z.boolean()
});

const termsSchema = z.object({ terms: z.array(z.object({ text: z.string(), soundsLike: z.string().optional() })) });
const termsPath = (recordingId: string | null): string =>
  recordingId === null ? '/api/vocabulary' : `/api/recordings/${recordingId}/vocabulary`;
const termsFrom = ({ terms }: z.infer<typeof termsSchema>): Term[] =>
  terms.map(({ text, soundsLike }) => ({ text, soundsLike: soundsLike ?? null }));

async function bytes(path: string): Promise<Uint8Array> {
  return new Uint8Array(await (await fetchAnswer(path)).arrayBuffer());
}

async function fetchAnswer(path: string): Promise<Response> {
  const response = await fetch(path);
  if (!response.ok) throw problemFrom(response.status, await response.json());
  return response;
}

const spanSchema = z.object({ startMs: msSchema, endMs: msSchema });
const cutSchema = z.object({
  cutOf: z.string(),
  shared: z.array(z.object({ newMs: msSchema, oldMs: msSchema, lengthMs: msSchema, state: z.enum(['kept', 'moved']) })),
  removed: z.array(spanSchema),
  added: z.array(spanSchema)
});
export type Cut = z.infer<typeof cutSchema>;

const cutRemarkSchema = spanSchema
  .extend({
    position: z.number(),
    kind: z.enum(['left out', 'shortened', 'parted', 'new sound']),
    cueIds: z.array(cueIdSchema),
    text: z.string(),
    lookedAtMs: z.number().nullable()
  })
  .transform(({ lookedAtMs, ...remark }) => ({ ...remark, isLookedAt: lookedAtMs !== null }));
export type CutRemark = z.infer<typeof cutRemarkSchema>;

const recordingAnswer = z.object({ recording: recordingSchema });

const renderSchema = z.object({
  id: z.string(),
  recordingId: z.string(),
  name: z.string(),
  bytes: z.number(),
  mime: z.string(),
  durationMs: z.number(),
  madeAtMs: z.number(),
  captions: z.enum(['burned', 'inside', 'none']),
  trackId: z.string().nullable(),
  trimId: z.string().nullable()
});
export type Render = z.infer<typeof renderSchema>;

const acceptedSchema = z.object({ accepted: z.array(z.object({ key: z.string(), reason: z.string() })) });
const keptSheetsSchema = z.object({ sheets: z.array(keptSheetSchema) });
const destinationsSchema = z.object({
  destinations: z.array(keptDestinationSchema),
  /** What was handed over to last. */
  last: destinationSchema.nullable()
});
export type Destinations = z.infer<typeof destinationsSchema>;
const keptLooksSchema = z.object({ looks: z.array(keptLookSchema) });
const ruleSetsSchema = z.object({ sets: z.array(ruleSetSchema) });
const lineSchema = z.object({ shiftMs: z.number(), speed: z.number() });
const syncSchema = lineSchema.extend({
  segments: z.array(lineSchema.extend({ fromMs: msSchema, toMs: msSchema })).optional(),
  confidence: z.number()
});
export type SyncEstimate = z.infer<typeof syncSchema>;

export const api = {
  binnedRecordings: async (): Promise<Recording[]> =>
    (await call(z.object({ recordings: z.array(recordingSchema) }), '/api/recordings?bin=1')).recordings,
  /** A page of the list of recordings. */
  library: (query: LibraryQuery, page: { offset: number; limit: number }): Promise<LibraryPage> => {
    const asked = libraryParameters(query);
    asked.set('offset', String(page.offset));
    asked.set('limit', String(page.limit));
    return call(libraryPageSchema, `/api/recordings?${asked}`);
  },
  /** Of everything that is listed, on all pages. */
  libraryIds: async (query: LibraryQuery): Promise<string[]> =>
    (await call(z.object({ ids: z.array(z.string()) }), `/api/recordings?ids=1&${libraryParameters(query)}`)).ids,
  /** Changes many at once, or none of them; gives what they were. */
  changeRecordings: async (
    ids: readonly string[],
    change: { projectId?: string | null; isBinned?: boolean }
  ): Promise<{ id: string; projectId: string | null }[]> =>
    (
      await call(
        z.object({ were: z.array(z.object({ id: z.string(), projectId: z.string().nullable() })) }),
        '/api/recordings',
        { ...post({ ids, ...change }), method: 'PATCH' }
      )
    ).were,
  projects: async (): Promise<Project[]> =>
    (await call(z.object({ projects: z.array(projectSchema) }), '/api/projects')).projects,
  addProject: async (name: string): Promise<Project> =>
    (await call(z.object({ project: projectSchema }), '/api/projects', post({ name }))).project,
  renameProject: (id: string, name: string): Promise<unknown> =>
    call(z.unknown(), `/api/projects/${id}`, { ...post({ name }), method: 'PATCH' }),
  removeProject: (id: string): Promise<unknown> => call(z.unknown(), `/api/projects/${id}`, { method: 'DELETE' }),
  recording: async (id: string): Promise<Recording> => (await call(recordingAnswer, `/api/recordings/${id}`)).recording,
  renameRecording: async (id: string, title: string): Promise<Recording> =>
    (await call(recordingAnswer, `/api/recordings/${id}`, { ...post({ title }), method: 'PATCH' })).recording,
  binRecording: (id: string): Promise<unknown> => call(z.unknown(), `/api/recordings/${id}`, { method: 'DELETE' }),
  removeRecording: (id: string): Promise<unknown> =>
    call(z.unknown(), `/api/recordings/${id}?forever=1`, { method: 'DELETE' }),
  goOnPreparing: async (id: string): Promise<Job> =>
    (await call(z.object({ job: jobSchema }), `/api/recordings/${id}/prepare`, { method: 'POST' })).job,
  restoreRecording: (id: string): Promise<unknown> =>
    call(z.unknown(), `/api/recordings/${id}/restore`, { method: 'POST' }),
  engines: async (): Promise<Engine[]> => (await call(healthSchema, '/api/health')).engines,
  speech: (id: string) =>
    call(
      z.object({
        frameMs: z.number(),
        probabilities: z.array(z.number()),
        regions: z.array(z.object({ startMs: msSchema, endMs: msSchema }))
      }),
      `/api/recordings/${id}/speech`
    ),
  shots: async (id: string): Promise<Ms[]> =>
    (await call(z.object({ shotsMs: z.array(msSchema) }), `/api/recordings/${id}/shots`)).shotsMs,
  spectrum: (id: string, { startMs, endMs }: Span): Promise<Uint8Array> =>
    bytes(`/api/recordings/${id}/spectrum?fromMs=${startMs}&toMs=${endMs}`),
  levels: (id: string): Promise<Uint8Array> => bytes(`/api/recordings/${id}/levels`),
  renders: async (recordingId: string): Promise<readonly Render[]> =>
    (await call(z.object({ renders: z.array(renderSchema) }), `/api/recordings/${recordingId}/renders`)).renders,
  render: async (recordingId: string, request: RenderRequest): Promise<Job> =>
    (await call(z.object({ job: jobSchema }), `/api/recordings/${recordingId}/renders`, post(request))).job,
  removeRender: (id: string): Promise<unknown> =>
    call(z.unknown(), `/api/renders/${id}`, { method: 'DELETE', keepalive: true }),
  renderUrl: (id: string): string => `/api/renders/${id}/file`,
  /** The video codecs that the server's ffmpeg makes. */
  videoCodecs: async (): Promise<readonly string[]> =>
    (await call(healthSchema, '/api/health')).tools.ffmpeg.videoCodecs,
  looks: async (): Promise<readonly KeptLook[]> => (await call(keptLooksSchema, '/api/looks')).looks,
  /** The house's own looks, the whole list anew; gives all there are. */
  saveLooks: async (looks: readonly OwnLook[]): Promise<readonly KeptLook[]> =>
    (await call(keptLooksSchema, '/api/looks', { ...post({ looks }), method: 'PUT' })).looks,
  /** The light map, or the job that makes it. */
  light: async (recordingId: string): Promise<Uint8Array | Job> => {
    const response = await fetchAnswer(`/api/recordings/${recordingId}/light`);
    return response.status === 202
      ? z.object({ job: jobSchema }).parse(await response.json()).job
      : new Uint8Array(await response.arrayBuffer());
  },
  faces: async (): Promise<readonly Face[]> =>
    (await call(z.object({ faces: z.array(faceSchema) }), '/api/faces')).faces,
  /** Brings in a font file of the house's own. */
  bringInFace: (file: Blob): Promise<{ face: Face; embedding: string }> =>
    call(z.object({ face: faceSchema, embedding: z.string() }), '/api/faces', {
      method: 'POST',
      body: file,
      headers: { 'content-type': 'application/octet-stream' }
    }),
  removeFace: (id: string): Promise<unknown> => call(z.unknown(), `/api/faces/${id}`, { method: 'DELETE' }),
  restoreFace: (id: string): Promise<unknown> => call(z.unknown(), `/api/faces/${id}/restore`, { method: 'POST' }),
  /** A font file, by its key. */
  font: (key: string): Promise<Uint8Array> => bytes(`/api/faces/files/${key}`),
  hear: async (id: string, request: HearingRequest): Promise<Job> =>
    (await call(z.object({ job: jobSchema }), `/api/recordings/${id}/transcriptions`, post(request))).job,
  /** `null`: nothing is billed. */
  quote: async (id: string, engine: string, stretch: Span): Promise<Quote | null> =>
    (
      await call(
        z.object({ quote: quoteSchema.nullable() }),
        `/api/recordings/${id}/quote?engine=${encodeURIComponent(engine)}&fromMs=${stretch.startMs}&toMs=${stretch.endMs}`
      )
    ).quote,
  sources: async (id: string): Promise<SoundSource[]> =>
    (await call(z.object({ sources: z.array(soundSourceSchema) }), `/api/recordings/${id}/sources`)).sources,
  sourceLevels: (id: string, source: SoundSource): Promise<Uint8Array> => bytes(`${sourcePath(id, source)}/levels`),
  sourceSampleUrl: (id: string, source: SoundSource, fromMs: number): string =>
    `${sourcePath(id, source)}/sound?fromMs=${fromMs}`,
  /** Where the sound of the cut before is in this one; answers when it is known. */
  cut: (id: string): Promise<Cut> => call(cutSchema, `/api/recordings/${id}/cut`),
  /** Takes a track of the cut before over to this one; the id of the new track. */
  carryOver: async (id: string, fromTrackId: TrackId): Promise<TrackId> =>
    (
      await call(
        z.object({ track: z.object({ id: trackIdSchema }) }),
        `/api/recordings/${id}/tracks`,
        post({ fromTrackId })
      )
    ).track.id,
  cutRemarks: async (trackId: TrackId): Promise<CutRemark[]> =>
    (await call(z.object({ remarks: z.array(cutRemarkSchema) }), `/api/tracks/${trackId}/cut-remarks`)).remarks,
  lookAtCutRemark: (trackId: TrackId, position: number, isLookedAt: boolean): Promise<unknown> =>
    call(z.unknown(), `/api/tracks/${trackId}/cut-remarks/${position}`, { ...post({ isLookedAt }), method: 'PATCH' }),
  /** Tracks of a recording that are in the bin. */
  binnedTracks: async (recordingId: string): Promise<TrackSummary[]> =>
    (await call(z.object({ tracks: z.array(trackSummarySchema) }), `/api/recordings/${recordingId}/tracks?bin=1`))
      .tracks,
  duplicateTrack: (recordingId: string, trackId: TrackId, title: string): Promise<unknown> =>
    call(z.unknown(), `/api/recordings/${recordingId}/tracks`, post({ copyOf: trackId, title })),
  binTrack: (trackId: TrackId): Promise<unknown> => call(z.unknown(), `/api/tracks/${trackId}`, { method: 'DELETE' }),
  restoreTrack: (trackId: TrackId): Promise<unknown> =>
    call(z.unknown(), `/api/tracks/${trackId}/restore`, { method: 'POST' }),
  removeTrack: (trackId: TrackId): Promise<unknown> =>
    call(z.unknown(), `/api/tracks/${trackId}?forever=1`, { method: 'DELETE' }),
  proposals: async (trackId: TrackId): Promise<Proposal[]> =>
    (await call(proposalsSchema, `/api/tracks/${trackId}/proposals`)).proposals,
  takeProposed: (
    trackId: TrackId,
    proposalId: string,
    request: { revision: number; take: 'all' | readonly string[] }
  ): Promise<unknown> => call(z.unknown(), `/api/tracks/${trackId}/proposals/${proposalId}`, post(request)),
  putProposalAway: (trackId: TrackId, proposalId: string): Promise<unknown> =>
    call(z.unknown(), `/api/tracks/${trackId}/proposals/${proposalId}`, { method: 'DELETE' }),
  /** Names and phrases to expect: the workspace's where `recordingId` is `null`. */
  terms: async (recordingId: string | null): Promise<Term[]> =>
    termsFrom(await call(termsSchema, termsPath(recordingId))),
  /** Names and terms in notes, the most frequent first. */
  termsInNotes: async (notes: string): Promise<{ text: string; count: number }[]> =>
    (
      await call(
        z.object({ terms: z.array(z.object({ text: z.string(), count: z.number() })) }),
        '/api/vocabulary/suggestions',
        post({ notes })
      )
    ).terms,
  /** Answers what is kept of them. */
  versions: async (trackId: TrackId): Promise<Version[]> =>
    (await call(z.object({ versions: z.array(versionSchema) }), `/api/tracks/${trackId}/versions`)).versions,
  saveVersion: (trackId: TrackId, title: string): Promise<unknown> =>
    call(z.unknown(), `/api/tracks/${trackId}/versions`, post({ title })),
  versionTrack: async (trackId: TrackId, versionId: string): Promise<Track> =>
    (await call(z.object({ track: trackSchema }), `/api/tracks/${trackId}/versions/${versionId}`)).track,
  goBackTo: (trackId: TrackId, versionId: string, revision: number): Promise<unknown> =>
    call(z.unknown(), `/api/tracks/${trackId}/versions/${versionId}/restore`, post({ revision })),
  search: async (query: Query): Promise<FoundInTrack[]> => {
    const flags = (['matchCase', 'wholeWord', 'soundsLike'] as const).filter((flag) => query[flag]);
    const asked = new URLSearchParams([['text', query.text], ...flags.map((flag): [string, string] => [flag, '1'])]);
    return (await call(z.object({ tracks: z.array(foundInTrackSchema) }), `/api/search?${asked}`)).tracks;
  },
  replaceIn: async (
    trackIds: readonly TrackId[],
    request: { query: Query; replacement: string }
  ): Promise<{ trackId: TrackId; replaced: number }[]> =>
    (
      await call(
        z.object({ tracks: z.array(z.object({ trackId: trackIdSchema, replaced: z.number() })) }),
        '/api/search/replace',
        post({ ...request, trackIds })
      )
    ).tracks,
  ruleSets: async (): Promise<RuleSet[]> => (await call(ruleSetsSchema, '/api/rule-sets')).sets,
  saveRuleSets: async (sets: readonly RuleSet[]): Promise<RuleSet[]> =>
    (await call(ruleSetsSchema, '/api/rule-sets', { ...post({ sets }), method: 'PUT' })).sets,
  syncEstimate: (trackId: TrackId, signal: AbortSignal): Promise<SyncEstimate> =>
    call(syncSchema, `/api/tracks/${trackId}/sync-estimate`, { ...post({}), signal }),
  /** What deserves a look, in the order of the track; `judged`: how much of it was looked at and stands. */
  doubts: (trackId: TrackId, following: Following): Promise<z.infer<typeof doubtsSchema>> =>
    callLong(doubtsSchema, `/api/tracks/${trackId}/doubts`, {}, following),
  /** Why findings stand, by their keys. */
  acceptedFindings: async (trackId: TrackId): Promise<ReadonlyMap<string, string>> => {
    const { accepted } = await call(acceptedSchema, `/api/tracks/${trackId}/checks/accepted`);
    return new Map(accepted.map(({ key, reason }) => [key, reason]));
  },
  acceptFindings: (trackId: TrackId, keys: readonly string[], reason: string): Promise<unknown> =>
    call(z.unknown(), `/api/tracks/${trackId}/checks/accepted`, post({ keys, reason })),
  takeAcceptedBack: (trackId: TrackId, keys: readonly string[]): Promise<unknown> =>
    call(z.unknown(), `/api/tracks/${trackId}/checks/accepted`, { ...post({ keys }), method: 'DELETE' }),
  sheets: async (): Promise<readonly KeptSheet[]> => (await call(keptSheetsSchema, '/api/sheets')).sheets,
  /** The house's own sheets, the whole list anew; gives all there are. */
  saveSheets: async (sheets: readonly OwnSheet[]): Promise<readonly KeptSheet[]> =>
    (await call(keptSheetsSchema, '/api/sheets', { ...post({ sheets }), method: 'PUT' })).sheets,
  judgeDoubts: (trackId: TrackId, keys: readonly string[]): Promise<unknown> =>
    call(z.unknown(), `/api/tracks/${trackId}/doubts/judged`, post({ keys })),
  takeJudgementsBack: (trackId: TrackId, keys: readonly string[]): Promise<unknown> =>
    call(z.unknown(), `/api/tracks/${trackId}/doubts/judged`, { ...post({ keys }), method: 'DELETE' }),
  saveTerms: async (recordingId: string | null, terms: readonly Term[]): Promise<Term[]> => {
    const body = terms.map(({ text, soundsLike }) => ({ text, ...(soundsLike !== null && { soundsLike }) }));
    return termsFrom(await call(termsSchema, termsPath(recordingId), { ...post({ terms: body }), method: 'PUT' }));
  },
  /** What a passage may say, best first. */
  hearAgain: async (id: string, passage: Span, following: Following): Promise<Reading[]> =>
    (
      await callLong(
        z.object({ readings: z.array(readingSchema) }),
        `/api/recordings/${id}/hear-again`,
        post({ fromMs: passage.startMs, toMs: passage.endMs }),
        following
      )
    ).readings,
  /** Those that wait or run. */
  unfinishedJobs: async (): Promise<Job[]> => (await call(z.object({ jobs: z.array(jobSchema) }), '/api/jobs')).jobs,
  job: async (id: string): Promise<Job> => (await call(z.object({ job: jobSchema }), `/api/jobs/${id}`)).job,
  /** What a hearing has heard so far, as it will stand in the draft. */
  wordsSoFar: (
    id: string,
    fromMs: number
  ): Promise<{ words: { text: string; startMs: number }[]; canBegin: boolean }> =>
    call(
      z.object({ words: z.array(z.object({ text: z.string(), startMs: msSchema })), canBegin: z.boolean() }),
      `/api/jobs/${id}/words?fromMs=${fromMs}`
    ),
  /** The track of a hearing in work, which grows while it is corrected. */
  beginTrack: async (jobId: string): Promise<string> =>
    (await call(z.object({ trackId: trackIdSchema }), `/api/jobs/${jobId}/track`, { method: 'POST' })).trackId,
  /** `keep`: a hearing leaves a track of what it had heard. */
  cancelJob: (id: string, options: { keep: boolean } = { keep: false }): Promise<unknown> =>
    call(z.unknown(), `/api/jobs/${id}${options.keep ? '?keep=heard' : ''}`, { method: 'DELETE' }),
  importCaptions: (
    id: string,
    request: { format: FormatId; language: string; title?: string } & ({ content: string } | { contentBase64: string })
  ) =>
    call(
      z.object({ track: z.object({ id: trackIdSchema }), warnings: z.array(warningSchema) }),
      `/api/recordings/${id}/tracks`,
      post(request)
    ),
  document: (
    trackId: TrackId
  ): Promise<{ track: Track; revision: number; history: z.infer<typeof historySchema>; breaks: LogBreak[] }> =>
    call(
      z.object({
        ...{ track: packedTrackSchema, revision: z.number(), history: historySchema },
        breaks: z.array(breakSchema).default([])
      }),
      `/api/tracks/${trackId}/document?packed=1`
    ),
  entriesAfter: (trackId: TrackId, revision: number) =>
    call(entriesSchema, `/api/tracks/${trackId}/edits?after=${revision}`),
  edit: (
    trackId: TrackId,
    { commands, ...asked }: { revision: number; commands: readonly Command[]; batchId: string }
  ): Promise<SaveAnswer> => call(savedSchema, `/api/tracks/${trackId}/edits`, post({ ...asked, edits: commands })),
  step: (
    trackId: TrackId,
    kind: 'undo' | 'redo',
    request: { revision: number; batchId: string }
  ): Promise<SaveAnswer> => call(savedSchema, `/api/tracks/${trackId}/${kind}`, post(request)),
  recue: (trackId: TrackId, rules: unknown): Promise<unknown> =>
    call(z.unknown(), `/api/tracks/${trackId}/recue`, post({ rules })),
  destinations: (): Promise<Destinations> => call(destinationsSchema, '/api/destinations'),
  /** The house's own destinations, the whole list anew; gives all there are. */
  saveDestinations: async (destinations: readonly OwnDestination[]): Promise<readonly KeptDestination[]> =>
    (await call(destinationsSchema, '/api/destinations', { ...post({ destinations }), method: 'PUT' })).destinations,
  /** Files of tracks as one ZIP. */
  bundle: async (asked: BundleAsked, signal: AbortSignal): Promise<Blob> => {
    const response = await fetch('/api/bundles', { ...post(asked), signal }).catch((cause: unknown) => {
      throw signal.aborted ? cause : unreachable(cause);
    });
    if (!response.ok) throw problemFrom(response.status, await response.json().catch(() => null));
    return response.blob();
  },
  bundleNames: async (asked: BundleAsked): Promise<readonly string[]> =>
    (await call(z.object({ names: z.array(z.string()) }), '/api/bundles', post({ ...asked, dryRun: true }))).names,
  handedOver: async (trackId: TrackId): Promise<readonly HandedOverVersion[]> =>
    (await call(z.object({ versions: z.array(handedOverVersionSchema) }), `/api/tracks/${trackId}/handed-over`))
      .versions,
  /** The track as it was at a revision. */
  trackAt: async (trackId: TrackId, revision: number): Promise<Track> =>
    (await call(z.object({ track: trackSchema }), `/api/tracks/${trackId}/document?revision=${revision}`)).track,
  site: (): Promise<SiteFacts> => call(siteFactsSchema, '/api/site'),
  siteVideo: (recordingId: string): Promise<SiteVideoFacts> =>
    call(siteVideoFactsSchema, `/api/recordings/${recordingId}/site-video`),
  chooseSiteVideo: (recordingId: string, videoId: string | null): Promise<unknown> =>
    call(z.unknown(), `/api/recordings/${recordingId}/site-video`, { ...post({ videoId }), method: 'PUT' }),
  changeSiteCaption: (
    recordingId: string,
    captionId: string,
    change: { readonly state?: 'published' | 'draft'; readonly isDefault?: boolean }
  ): Promise<unknown> =>
    call(z.unknown(), `/api/recordings/${recordingId}/site-video/captions/${encodeURIComponent(captionId)}`, {
      ...post(change),
      method: 'PATCH'
    }),
  removeSiteCaption: (recordingId: string, captionId: string): Promise<unknown> =>
    call(z.unknown(), `/api/recordings/${recordingId}/site-video/captions/${encodeURIComponent(captionId)}`, {
      method: 'DELETE'
    }),
  publish: async (recordingId: string, request: PublishRequest): Promise<Job> =>
    (await call(z.object({ job: jobSchema }), `/api/recordings/${recordingId}/publications`, post(request))).job,
  compareShown: (publicationId: string): Promise<ShownComparison> =>
    call(shownComparisonSchema, `/api/publications/${publicationId}/comparison`),
  report: async (trackId: TrackId): Promise<Paper> =>
    (await call(z.object({ paper: paperSchema }), `/api/tracks/${trackId}/checks/report`)).paper,
  reportUrl: (trackId: TrackId, format: 'pdf' | 'html'): string =>
    `/api/tracks/${trackId}/checks/report?format=${format}`,
  /** What is not as it should be of a track as it is of a trim. */
  trimmedFindings: async (trackId: TrackId, trimId: string): Promise<readonly TrimmedFinding[]> =>
    (
      await call(
        z.object({ findings: z.array(trimmedFindingSchema) }),
        `/api/tracks/${trackId}/checks?${new URLSearchParams({ trimId }).toString()}`
      )
    ).findings,
  trims: async (recordingId: string): Promise<readonly TrimSummary[]> =>
    (await call(z.object({ trims: z.array(trimSummarySchema) }), `/api/recordings/${recordingId}/trims`)).trims,
  /** A new one that keeps everything, or one once more; gives its id. */
  addTrim: async (recordingId: string, asked: { title: string; copyOf?: string }): Promise<string> =>
    (await call(z.object({ trim: z.object({ id: z.string() }) }), `/api/recordings/${recordingId}/trims`, post(asked)))
      .trim.id,
  removeTrim: (id: string): Promise<unknown> => call(z.unknown(), `/api/trims/${id}`, { method: 'DELETE' }),
  restoreTrim: (id: string): Promise<unknown> => call(z.unknown(), `/api/trims/${id}/restore`, post({})),
  trimDocument: (
    id: string
  ): Promise<{ trim: Trim; revision: number; history: z.infer<typeof historySchema>; breaks: LogBreak[] }> =>
    call(
      z.object({ trim: trimSchema, revision: z.number(), history: historySchema, breaks: z.array(breakSchema) }),
      `/api/trims/${id}/document`
    ),
  trimEntriesAfter: (id: string, revision: number) =>
    call(trimEntriesSchema, `/api/trims/${id}/edits?after=${revision}`),
  editTrim: (
    id: string,
    { commands, ...asked }: { revision: number; commands: readonly TrimCommand[]; batchId: string }
  ) => call(savedTrimSchema, `/api/trims/${id}/edits`, post({ ...asked, edits: commands })),
  stepTrim: (id: string, kind: 'undo' | 'redo', request: { revision: number; batchId: string }) =>
    call(savedTrimSchema, `/api/trims/${id}/${kind}`, post(request)),
  trimJoins: (id: string): Promise<{ readonly revision: number; readonly joins: readonly JudgedJoin[] }> =>
    call(z.object({ revision: z.number(), joins: z.array(judgedJoinSchema) }), `/api/trims/${id}/joins`),
  /** How far pictures would begin and end beside their sound, were the picture of a trim copied. Throws where it cannot be. */
  copying: (id: string): Promise<Copying> => call(copyingSchema, `/api/trims/${id}/copying`),
  crossings: (recordingId: string): Promise<Uint8Array> => bytes(`/api/recordings/${recordingId}/crossings`),
  /** A block of the sound as it is heard, interleaved: see `core/trims/blocks`. */
  samples: async (recordingId: string, block: number): Promise<Int16Array> =>
    new Int16Array((await bytes(`/api/recordings/${recordingId}/samples?block=${block}`)).slice().buffer),
  /** Stretches that sound like a hesitation in which no word was heard. */
  hesitationShapes: async (trackId: TrackId): Promise<readonly Span[]> =>
    (
      await call(
        z.object({ shapes: z.array(z.object({ startMs: msSchema, endMs: msSchema })) }),
        `/api/tracks/${trackId}/hesitations`
      )
    ).shapes,
  cutListUrl: (trimId: string, format: string, options: Readonly<Record<string, string>>): string =>
    `/api/trims/${trimId}/export?${new URLSearchParams({ format, ...options }).toString()}`,
  /** What was rendered of a trim becomes a recording of its own; gives its id. */
  bringIn: async (renderId: string): Promise<string> =>
    (await call(z.object({ recording: z.object({ id: z.string() }) }), `/api/renders/${renderId}/recording`, post({})))
      .recording.id,
  exportUrl: (trackId: TrackId, format: string, options: ReadonlyMap<string, string> = new Map()): string =>
    `/api/tracks/${trackId}/export?${new URLSearchParams([['format', format], ...options]).toString()}`,
  mediaUrl: (recordingId: string): string => `/api/recordings/${recordingId}/media`
};
