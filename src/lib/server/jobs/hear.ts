/** The job that hears a recording: chunks at pauses, words from the recogniser, a drafted track. */
import { asTrackId, type TrackId, trackIdSchema } from '$lib/core/id';
import { createHash, randomUUID } from 'node:crypto';
import { z } from 'zod';
import { chunksBetweenPauses, speechRegions, type SpeechMap } from '$lib/core/audio';
import { fittedWords, planFit, readScript, type FitTask, type ScriptWord, type TaskTimes } from '$lib/core/fitting';
import {
  draftTrack,
  fittedTrack,
  timingTrack,
  wordsOfChunks,
  type DraftOptions,
  type HeardChunk,
  type HeardWord
} from '$lib/core/hearing';
import type { Turn } from '$lib/core/speakers';
import { msSchema, type Span, toSpan, wholeMs } from '$lib/core/time';
import { isSameLanguage, rulesSchema, type Track, type Word } from '$lib/core/track';
import type { WritingOptions } from '$lib/core/wording';
import { loadSpeech } from '../media/prepare';
import { prepareWanted, sourceSchema } from '../media/sources';
import { findTurns } from '../media/voices';
import type { MediaFiles } from '../media/files';
import { ApiProblem } from '../problem';
import type { HearRequest, LocalRecogniser, Recogniser, SoundRequest } from '../recognisers/recogniser';
import { fitByReading, READING_ENGINE_ID } from '../recognisers/reading/fitter';
import { TIMING_ENGINE } from '../recognisers/timing';
import { englishWords } from '../spelling';
import type { Db } from '../store/database';
import type { Job, JobChunk, JobStore } from '../store/jobs';
import type { ProposalStore } from '../store/proposals';
import type { RecordingStore } from '../store/recordings';
import type { TrackStore } from '../store/tracks';
import type { OpenTracks } from '../tracks/open-tracks';
import { GrowingTracks } from './growing-tracks';
import { heardChunks, hearResult } from './heard-chunks';
import { jobKind, type JobContext } from './kind';

const termsSchema = z.array(z.object({ text: z.string(), soundsLike: z.string().nullable() }));

export const hearParams = z.object({
  engine: z.string(),
  language: z.string(),
  title: z.string(),
  rules: rulesSchema,
  /** As they stood when the hearing was asked for. */
  terms: termsSchema.default([]),
  /** Numbers, years, times and money as figures. */
  figures: z.boolean().default(true),
  /** The words that are spoken, to be fitted. */
  script: z.string().nullable().default(null),
  /** How many voices there are, or `auto` to find out; `null`: they are not told apart. */
  speakers: z
    .union([z.int().min(1), z.literal('auto')])
    .nullable()
    .default(null),
  /** Only this stretch of the recording; `null` for all of it. */
  stretch: z.object({ startMs: msSchema, endMs: msSchema }).nullable().default(null),
  /** The stream and channel that hold the speech; `null`: the first stream, its channels together. */
  source: sourceSchema.nullable().default(null),
  /** What is taken from under the voices first. */
  background: z.enum(['music', 'noise']).nullable().default(null),
  /** What is heard is a proposal for this track; `null`: a new track. */
  proposeFor: trackIdSchema.nullable().default(null)
});
export type HearParams = z.infer<typeof hearParams>;

/** Long enough for the language model to help, short enough that every core has several and little is lost with one. */
const CHUNK = { targetMs: 14_000, maxMs: 26_000 };
/** A script of which less than this was heard is another recording's, or in another language. */
const LEAST_HEARD_SHARE = 0.15;

/** Who hears here, among all that may take chunks. */
const OWNER = randomUUID();
/** Longer than an engine takes for a chunk, or for both of its tries. */
const LEASE_MS = 30 * 60_000;
const MOST_TRIES = 3;

export interface HearParts {
  readonly db: Db;
  readonly jobs: JobStore;
  readonly tracks: TrackStore;
  readonly recordings: RecordingStore;
  readonly files: MediaFiles;
  readonly proposals: ProposalStore;
  readonly openTracks: OpenTracks;
  /** `null`: it is no longer there. */
  readonly findRecogniser: (id: string) => Promise<Recogniser | null>;
  readonly localRecogniser: LocalRecogniser;
  /** Resolves when the speech map is there. */
  readonly speechMapped: (recordingId: string, signal: AbortSignal) => Promise<void>;
  readonly onTrack: (recordingId: string) => void;
}

/** How an engine's words become text: sentences are made of bare English words alone. */
async function writingFor(
  recogniser: Recogniser,
  { language, figures }: Pick<HearParams, 'language' | 'figures'>
): Promise<WritingOptions | null> {
  const isBare = recogniser.writes === 'bare words' && isSameLanguage(language, 'en');
  return isBare ? { figures, names: (await englishWords()).names } : null;
}

export class Hearing {
  readonly #parts: HearParts;
  /** Tracks that grow with hearings in work. */
  readonly growing: GrowingTracks;
  constructor(parts: HearParts) {
    this.#parts = parts;
    this.growing = new GrowingTracks(parts);
  }

  readonly kind = jobKind({
    kind: 'hear',
    params: hearParams,
    result: hearResult,
    concurrency: 1,
    run: (context) => this.#run(context)
  });

  async #run(context: JobContext<HearParams>): Promise<{ readonly trackId: TrackId }> {
    const { job, params, signal, tell } = context;
    const { recordings, files, jobs } = this.#parts;
    tell('finding speech', 0);
    await this.#parts.speechMapped(job.recordingId, signal);
    signal.throwIfAborted();
    const recording = recordings.find(job.recordingId)!;
    const { durationMs } = recording;
    const wanted = { source: params.source, background: params.background };
    const { soundPath, speechPath } = await prepareWanted(files, recording, wanted, { durationMs, signal, tell });
    const whole = await loadSpeech(speechPath);
    const asked = params.stretch ?? toSpan({ startMs: 0, endMs: durationMs });
    const speech = params.stretch === null ? whole : within(whole, params.stretch);
    const regions = speechRegions(speech, durationMs);
    if (regions.length === 0) throw noSpeech();
    const options = this.#options(job, params);
    if (params.engine === TIMING_ENGINE.id) return this.#keep(job, timingTrack(speech, durationMs, options));

    const script = params.script === null ? null : readScript(params.script, params.language);
    if (script !== null && params.engine === READING_ENGINE_ID) {
      const onProgress = (progress: number): void => tell('laying a reading of the script on it', progress);
      const { language } = params;
      const fitted = await fitByReading(script, { soundPath, regions, language, signal, onProgress });
      const turns = await findTurnsOf(context, params, soundPath, regions);
      return this.#keep(job, fittedTrack(fitted, [], turns, options));
    }
    const recogniser = await this.#parts.findRecogniser(params.engine);
    if (recogniser === null) throw engineGone(params.engine);
    const turns = await findTurnsOf(context, params, soundPath, regions);
    const manner = { writing: await writingFor(recogniser, params), turns };
    // As it is said: figures in words, each sentence a phrase.
    const phrases = script === null ? [] : phrasesOf(script);
    const scratchFolder = await files.scratchFolder();
    const sound = { soundPath, scratchFolder, terms: params.terms, phrases, signal };
    if (script === null && params.proposeFor === null) this.growing.follow(job, manner, options);
    try {
      const request = { ...sound, asked, regions, language: params.language, key: keyOf(job, params, asked) };
      await this.#hear(context, recogniser, request, chunksBetweenPauses(regions, speech, CHUNK));
      const chunks = heardChunks(jobs, job.id);
      if (script !== null) return await this.#fit(context, script, chunks, sound, turns, options);
      tell('making cues', 0.99);
      if (params.proposeFor !== null) {
        const words = wordsOfChunks(chunks, manner.writing, randomUUID, turns);
        return this.#propose(job, params.proposeFor, words, asked);
      }
      return this.growing.finish(job) ?? this.#keep(job, draftTrack(chunks, manner, options));
    } finally {
      this.growing.forget(job.id);
    }
  }

  /** Lays a script on what was heard of it. */
  async #fit(
    { job, tell }: JobContext,
    script: readonly ScriptWord[],
    chunks: readonly HeardChunk[],
    sound: SoundRequest,
    turns: readonly Turn[],
    options: DraftOptions
  ): Promise<{ readonly trackId: TrackId }> {
    const { durationMs } = this.#parts.recordings.find(job.recordingId)!;
    const plan = planFit(script, chunks);
    if (plan.heardShare < LEAST_HEARD_SHARE)
      throw new ApiProblem(
        422,
        'script_not_spoken',
        `Of the script's words ${Math.round(plan.heardShare * 100)} % were heard: it seems to be of another recording, or in another language.`
      );
    const done: { task: FitTask; times: TaskTimes }[] = [];
    await this.#parts.localRecogniser.fit({
      ...sound,
      tasks: plan.tasks,
      onFitted: (task, times) => {
        done.push({ task, times });
        tell('fitting the script', 0.9 + 0.09 * (done.length / plan.tasks.length));
      }
    });
    tell('making cues', 0.99);
    return this.#keep(job, fittedTrack(fittedWords(script, done, wholeMs(durationMs)), plan.unwritten, turns, options));
  }

  #propose(job: Job, trackId: TrackId, words: readonly Word[], stretch: Span): { readonly trackId: TrackId } {
    const { proposals } = this.#parts;
    proposals.insert({ id: job.id, trackId, stretch, words, madeAtMs: Date.now() });
    this.#parts.onTrack(job.recordingId);
    return { trackId };
  }

  /** Makes a track of what a cancelled hearing had heard; `null` where that was nothing. */
  async keepHeard(job: Job): Promise<{ readonly trackId: TrackId } | null> {
    const params = hearParams.parse(job.params);
    const recogniser = await this.#parts.findRecogniser(params.engine);
    const chunks = heardChunks(this.#parts.jobs, job.id);
    const { trackId } = hearResult.parse(job.result);
    if (trackId !== undefined) return { trackId };
    if (recogniser === null || chunks.length === 0) return null;
    const writing = await writingFor(recogniser, params);
    const track = draftTrack(chunks, { writing, turns: [] }, this.#options(job, params));
    return this.#keep(job, track, { state: 'cancelled', stage: 'cancelled' });
  }

  /** What was heard so far from a time on, as it will stand in the draft; nothing for a job that hears no words. */
  async wordsSoFar(job: Job, fromMs: number): Promise<readonly Word[]> {
    if (job.kind !== 'hear') return [];
    const { engine, language, figures } = hearParams.parse(job.params);
    const recogniser = await this.#parts.findRecogniser(engine);
    if (recogniser === null) return [];
    const chunks = heardChunks(this.#parts.jobs, job.id, fromMs);
    return wordsOfChunks(chunks, await writingFor(recogniser, { language, figures }), randomUUID);
  }

  /** Hears the chunks that were not heard yet; `planned` where there are none so far. */
  async #hear(
    { job, tell }: JobContext,
    recogniser: Recogniser,
    sound: Omit<HearRequest, 'chunks' | 'takeChunk' | 'onChunk' | 'onHeard'>,
    planned: readonly Span[]
  ): Promise<void> {
    const { jobs } = this.#parts;
    if (jobs.chunksOf(job.id).length === 0) jobs.setChunks(job.id, planned);
    const chunks = jobs.chunksOf(job.id);
    const lengthOf = (some: readonly Span[]): number =>
      some.reduce((sum, chunk) => sum + chunk.endMs - chunk.startMs, 0);
    const open = chunks.filter((chunk) => chunk.result === null);
    const totalMs = lengthOf(chunks);
    const doneMs = totalMs - lengthOf(open);
    tell('hearing', doneMs / totalMs);
    try {
      await recogniser.hear({
        ...sound,
        chunks: open,
        takeChunk: () => this.#takeChunk(job.id),
        onChunk: (position, words) => this.#setChunk(job.id, position, words),
        onHeard: (heardMs) => tell('hearing', 0.99 * ((doneMs + heardMs) / totalMs))
      });
    } finally {
      // Chunks that are not done can be leased by others again.
      jobs.release(job.id, OWNER);
    }
  }

  #setChunk(jobId: string, position: number, words: readonly HeardWord[] | null): void {
    this.#parts.jobs.setChunkResult(jobId, position, JSON.stringify(words));
    this.growing.grow(jobId);
  }

  /** One that was begun again and again, and that servers ended over, becomes a hole. */
  #takeChunk(jobId: string): JobChunk | null {
    for (;;) {
      const chunk = this.#parts.jobs.lease(jobId, { owner: OWNER, nowMs: Date.now(), forMs: LEASE_MS });
      if (chunk === null || chunk.tries <= MOST_TRIES) return chunk;
      this.#setChunk(jobId, chunk.position, null);
    }
  }

  #options(job: Job, { language, title, rules, terms }: HearParams): DraftOptions {
    return {
      ...{ trackId: asTrackId(randomUUID()), recordingId: job.recordingId, language, title, rules, mint: randomUUID },
      names: terms.map(({ text }) => text),
      recordingDurationMs: this.#parts.recordings.find(job.recordingId)!.durationMs
    };
  }

  #keep(
    job: Job,
    track: Track,
    end: Pick<Job, 'state' | 'stage'> = { state: 'done', stage: 'done' }
  ): { readonly trackId: TrackId } {
    const { db, openTracks, jobs } = this.#parts;
    // The track and the job's end are one: a restart between them would hear it twice.
    db.transaction(() => {
      openTracks.insert(track, Date.now());
      jobs.update(job.id, { ...end, ...(end.state === 'done' && { progress: 1 }), result: { trackId: track.id } });
    })();
    this.#parts.onTrack(job.recordingId);
    return { trackId: track.id };
  }
}

/** Who speaks when, where that was asked. */
async function findTurnsOf(
  { signal, tell }: JobContext,
  { speakers: count }: HearParams,
  soundPath: string,
  regions: readonly Span[]
): Promise<readonly Turn[]> {
  if (count === null || count === 1) return [];
  tell('telling the speakers apart', 0);
  return findTurns(soundPath, regions, { count, signal });
}

/** The same for the same sound, heard in the same way. */
function keyOf({ recordingId }: Job, { source, background, language, terms, engine }: HearParams, asked: Span): string {
  const said = JSON.stringify([engine, recordingId, asked.startMs, asked.endMs, source, background, language, terms]);
  return createHash('sha256').update(said).digest('hex');
}

/** The map with no speech outside a stretch. */
function within(speech: SpeechMap, stretch: Span): SpeechMap {
  const from = Math.floor(stretch.startMs / speech.frameMs);
  const to = Math.ceil(stretch.endMs / speech.frameMs);
  const probabilities = Array.from(speech.probabilities, (value, frame) => (frame >= from && frame < to ? value : 0));
  return { frameMs: speech.frameMs, probabilities };
}

/** A script in pieces that are said in one breath. */
function phrasesOf(script: readonly ScriptWord[]): string[] {
  const phrases: string[][] = [[]];
  for (const { text, forms } of script) {
    phrases.at(-1)!.push(...forms);
    if (/[.!?…:;]["'”’)]*$/.test(text)) phrases.push([]);
  }
  return phrases.filter((forms) => forms.length > 0).map((forms) => forms.join(' '));
}

const engineGone = (id: string): ApiProblem =>
  new ApiProblem(
    503,
    'engine_unavailable',
    `The engine “${id}” is no longer there: put its model back, or hear it with another one.`
  );

const noSpeech = (): ApiProblem =>
  new ApiProblem(422, 'no_speech', 'No speech was found in this recording, or in the stretch that was chosen.');
