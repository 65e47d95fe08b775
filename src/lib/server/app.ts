/** The server's parts, put together once: stores, jobs, open tracks, recognisers. */
import { randomUUID } from 'node:crypto';
import { basename } from 'node:path';
import { LEVEL_BUCKET_MS } from '$lib/core/audio';
import { readTerms, type Term } from '$lib/core/expecting';
import { messageOf } from '$lib/core/message-of';
import { dataFolder, meteredUrl } from './config';
import { DoubtFinder } from './doubts/finder';
import { EventStream } from './events';
import { Hearing } from './jobs/hear';
import { JobRunner, type JobHandler } from './jobs/runner';
import { acceptMedia } from './media/accept';
import { probe, ToolFailed } from './media/ffmpeg';
import { MediaFiles } from './media/files';
import { makeProxy } from './media/proxy';
import { compareWithCut } from './media/cuts';
import { mapSpeech, prepareSound } from './media/prepare';
import { ApiProblem, notFound } from './problem';
import { METERED_ENGINE_ID, MeteredService } from './recognisers/metered/recogniser';
import { LOCAL_ENGINE_ID, PocketSphinx } from './recognisers/pocketsphinx/recogniser';
import { READING_ENGINE_ID, readingFacts } from './recognisers/reading/fitter';
import type { EngineFacts, LocalRecogniser, Recogniser } from './recognisers/recogniser';
import { TIMING_ENGINE } from './recognisers/timing';
import { CutRemarkStore } from './store/cut-remarks';
import { lockFolder, openDatabase, type Db } from './store/database';
import { LogStore } from './store/log';
import { JobStore, type Job } from './store/jobs';
import { JudgedDoubtStore } from './store/judged-doubts';
import { ProposalStore } from './store/proposals';
import { RuleSetStore } from './store/rule-sets';
import { RecordingStore, type Recording } from './store/recordings';
import { TrackStore } from './store/tracks';
import { VocabularyStore } from './store/vocabulary';
import { OpenTracks } from './tracks/open-tracks';

export class App {
  readonly events = new EventStream();
  readonly recordings: RecordingStore;
  readonly trackStore: TrackStore;
  readonly tracks: OpenTracks;
  readonly jobStore: JobStore;
  readonly vocabulary: VocabularyStore;
  readonly proposals: ProposalStore;
  readonly ruleSets: RuleSetStore;
  readonly judgedDoubts: JudgedDoubtStore;
  readonly cutRemarks: CutRemarkStore;
  readonly doubtFinder = new DoubtFinder();
  readonly hearing: Hearing;
  readonly jobs: JobRunner;
  readonly files: MediaFiles;
  readonly localRecogniser: LocalRecogniser = new PocketSphinx();
  readonly recognisers: ReadonlyMap<string, Recogniser>;
  readonly #db: Db;
  readonly #logs: LogStore;
  readonly #lock: { release(): void };

  constructor(folder: string) {
    const metered = meteredUrl();
    this.recognisers = new Map<string, Recogniser>([
      [LOCAL_ENGINE_ID, this.localRecogniser],
      ...(metered === undefined ? [] : [[METERED_ENGINE_ID, new MeteredService(metered)] as const])
    ]);
    this.#lock = lockFolder(folder);
    this.#db = openDatabase(folder);
    this.files = new MediaFiles(folder);
    this.recordings = new RecordingStore(this.#db);
    this.trackStore = new TrackStore(this.#db);
    this.jobStore = new JobStore(this.#db);
    this.vocabulary = new VocabularyStore(this.#db);
    this.proposals = new ProposalStore(this.#db);
    this.ruleSets = new RuleSetStore(this.#db);
    this.judgedDoubts = new JudgedDoubtStore(this.#db);
    this.cutRemarks = new CutRemarkStore(this.#db);
    this.#logs = new LogStore(this.#db);
    this.tracks = new OpenTracks(this.trackStore, this.#logs, this.events);
    this.hearing = new Hearing({
      db: this.#db,
      jobs: this.jobStore,
      tracks: this.trackStore,
      recordings: this.recordings,
      files: this.files,
      proposals: this.proposals,
      openTracks: this.tracks,
      recognisers: this.recognisers,
      localRecogniser: this.localRecogniser,
      speechMapped: (id) => this.speechMapped(id),
      onTrack: (id) => this.changed(id)
    });
    this.jobs = new JobRunner(this.jobStore, this.events, {
      prepare: this.#prepare,
      hear: this.hearing.handler
    });
  }

  /** Clears up after a former server and goes on with its jobs. */
  async start(): Promise<void> {
    await this.files.sweep(new Set(this.recordings.allIds()));
    this.jobs.resume();
  }

  /** Everything that can be chosen to hear with. */
  async engines(): Promise<EngineFacts[]> {
    const recognisers = await Promise.all([...this.recognisers.values()].map((recogniser) => recogniser.facts()));
    return [...recognisers, await readingFacts(), TIMING_ENGINE];
  }

  /** `null` for an engine that there is not; asks only the one that is meant. */
  async engineFacts(id: string): Promise<EngineFacts | null> {
    if (id === TIMING_ENGINE.id) return TIMING_ENGINE;
    if (id === READING_ENGINE_ID) return readingFacts();
    return (await this.recognisers.get(id)?.facts()) ?? null;
  }

  /** Names and phrases for a hearing: those that are given, else the lists of the workspace and of the recording. */
  termsFor(recordingId: string, given: readonly string[] | undefined): readonly Term[] {
    return given === undefined
      ? [...this.vocabulary.list(null), ...this.vocabulary.list(recordingId)]
      : readTerms(given.join('\n')).terms;
  }

  close(): void {
    this.doubtFinder.close();
    this.jobs.close();
    this.#db.close();
    this.#lock.release();
  }

  /** Does all of it in the database, or nothing. */
  atOnce<T>(work: () => T): T {
    return this.#logs.atOnce(work);
  }

  /** A recording that is not in the bin. Throws `unknown_recording`. */
  getRecording(id: string): Recording {
    const recording = this.recordings.find(id);
    if (recording === null || recording.binnedAtMs !== null) throw notFound('recording', id);
    return recording;
  }

  /** Tells everyone that the list of recordings, or one of them, is no longer as it was. */
  changed(recordingId: string): void {
    this.events.send({ name: 'recordings', data: { recordingId } });
  }

  /**
   * Takes an uploaded file: stored, probed, and being prepared by the job that comes back. Throws `unsupported_media`
   * and keeps nothing where it cannot be used. `cutOf`: the recording that it is the next cut of.
   */
  async takeUpload(
    fileName: string,
    body: ReadableStream<Uint8Array> | null,
    { announcedBytes, cutOf }: { readonly announcedBytes: number | null; readonly cutOf: string | null }
  ): Promise<{ recording: Recording; job: Job }> {
    const id = randomUUID();
    if (cutOf !== null) this.getRecording(cutOf);
    const bytes = await this.files.receive(id, body, announcedBytes);
    try {
      const { durationMs, media, needsProxy } = acceptMedia(await probe(this.files.uploadPath(id)));
      await this.files.keepUpload(id);
      this.recordings.insert({
        id,
        title: titleFromFileName(fileName),
        state: 'preparing',
        durationMs,
        hasProxy: needsProxy,
        media: { ...media, bytes },
        cutOf,
        createdAtMs: Date.now()
      });
    } catch (error) {
      await this.files.dropUpload(id);
      if (error instanceof ToolFailed) {
        throw new ApiProblem(
          422,
          'unsupported_media',
          'This is no sound or video file that can be read. Send WAV, MP3, FLAC, MP4, MOV, MKV, WebM, Ogg, AVI or the like.'
        );
      }
      throw error;
    }
    const job = this.jobs.add('prepare', id, {});
    this.changed(id);
    return { recording: this.getRecording(id), job };
  }

  /** Removes a recording with its files for good. */
  async removeRecording(id: string): Promise<void> {
    this.jobs.cancelAllOf(id);
    this.tracks.close(this.trackStore.listOf(id).map((track) => track.id));
    this.recordings.remove(id);
    await this.files.dropRecording(id);
    this.changed(id);
  }

  /** Resolves when the recording's waveform is there. Throws what was wrong with it where it failed. */
  async prepared(id: string): Promise<Recording> {
    for (;;) {
      const recording = this.getRecording(id);
      if (recording.state === 'ready') return recording;
      if (recording.state === 'failed')
        throw new ApiProblem(422, 'unsupported_media', recording.failure ?? 'The recording could not be prepared.');
      await this.#change(id);
    }
  }

  /** Resolves when the recording's speech map is there; one that was cancelled or failed is tried once more. */
  speechMapped(id: string): Promise<void> {
    return this.#preparedTo(id, ({ hasSpeechMap }) => hasSpeechMap);
  }

  /** Resolves when the recording is compared with the cut before it. Throws `no_cut` where it is not the next cut of any. */
  async compared(id: string): Promise<string> {
    const { cutOf } = this.getRecording(id);
    if (cutOf === null) throw new ApiProblem(422, 'no_cut', 'This recording is not the next cut of one that is here.');
    await this.#preparedTo(id, ({ isCompared }) => isCompared);
    return cutOf;
  }

  async #preparedTo(id: string, isThere: (recording: Recording) => boolean): Promise<void> {
    for (let hasTried = false; ;) {
      const recording = this.getRecording(id);
      if (isThere(recording)) return;
      if (recording.state === 'failed')
        throw new ApiProblem(422, 'unsupported_media', recording.failure ?? 'The recording could not be prepared.');
      const job = this.jobStore.listOf(id).find((one) => one.kind === 'prepare');
      if (job === undefined || job.state === 'cancelled' || job.state === 'failed') {
        if (hasTried)
          throw new ApiProblem(
            409,
            'not_prepared',
            `This recording could not be prepared: ${job?.error ?? 'cancelled'}.`
          );
        hasTried = true;
        this.jobs.add('prepare', id, {});
      }
      await this.#change(id);
    }
  }

  /** Lays a new cut beside the one before, as soon as that one's sound is there; nothing where it is the cut of none. */
  async #compare(
    { id, cutOf, isCompared }: Recording,
    signal: AbortSignal,
    onProgress: (progress: number) => void
  ): Promise<void> {
    if (cutOf === null || isCompared) return;
    // Prepared one after the other: the earlier one is ready, or never will be.
    if (this.recordings.find(cutOf)?.state !== 'ready')
      throw new ApiProblem(409, 'cut_not_ready', 'The cut before this one is not prepared; prepare it and try again.');
    await compareWithCut(this.files, id, cutOf, { signal, onProgress });
    this.recordings.setCompared(id);
  }

  /** Resolves at the next change of a recording, or when one of its jobs has ended. */
  #change(recordingId: string): Promise<void> {
    return new Promise((resolve) => {
      const stop = this.events.listen(({ event }) => {
        const isOwn =
          event.name === 'recordings'
            ? event.data.recordingId === recordingId
            : event.name === 'job' && this.#isEndOf(event.jobId, recordingId);
        if (!isOwn) return;
        stop();
        resolve();
      });
    });
  }

  #isEndOf(jobId: string, recordingId: string): boolean {
    const job = this.jobStore.find(jobId);
    return job !== null && job.recordingId === recordingId && job.state !== 'queued' && job.state !== 'running';
  }

  readonly #prepare: JobHandler = async ({ job, signal, tell }) => {
    const id = job.recordingId;
    const recording = this.recordings.find(id)!;
    try {
      if (recording.state === 'preparing') {
        const durationMs = await prepareSound(this.files, id, {
          durationMs: recording.durationMs,
          signal,
          onProgress: (progress) => tell('drawing the waveform', progress * 0.2)
        });
        if (recording.hasProxy) {
          await makeProxy(this.files, id, {
            hasVideo: recording.media.hasVideo,
            durationMs,
            signal,
            onProgress: (progress) => tell('making a copy that plays here', 0.2 + progress * 0.2)
          });
        }
        this.recordings.setReady(id, durationMs);
        this.changed(id);
      }
      if (!recording.hasSpeechMap) {
        await mapSpeech(this.files.mainSound(id), {
          signal,
          onProgress: (progress) => tell('finding speech', 0.4 + progress * (recording.cutOf === null ? 0.6 : 0.4))
        });
        this.recordings.setSpeechMapped(id);
        this.changed(id);
      }
      await this.#compare(recording, signal, (progress) =>
        tell('finding what is in the cut before', 0.8 + progress * 0.2)
      );
    } catch (error) {
      if (!signal.aborted && this.recordings.find(id)?.state === 'preparing') {
        this.recordings.setFailed(id, messageOf(error));
        await this.files.dropRecording(id);
      }
      throw error;
    } finally {
      if (!signal.aborted) this.changed(id);
    }
    return {};
  };
}

/** `../My_talk-2.final.mp4` → `My talk 2.final`. Only ever a title, never a path. */
export function titleFromFileName(name: string): string {
  const stem = basename(name.replaceAll('\\', '/'))
    .replace(/\.[a-z0-9]{2,5}$/i, '')
    .replace(/[_\s-]+/g, ' ')
    .replace(/\p{Cc}/gu, '')
    .trim()
    .slice(0, 200);
  return stem === '' ? 'Untitled recording' : stem.replace(/^\p{Ll}/u, (letter) => letter.toUpperCase());
}

/** A recording as the API tells it. */
export function recordingAnswer(app: App, recording: Recording) {
  const { media } = recording;
  const job = app.jobStore.listOf(recording.id).find((one) => one.state === 'queued' || one.state === 'running');
  return {
    id: recording.id,
    title: recording.title,
    durationMs: recording.durationMs,
    state: recording.state,
    ...(recording.failure !== null && { failure: recording.failure }),
    hasSpeechMap: recording.hasSpeechMap,
    levelBucketMs: LEVEL_BUCKET_MS,
    createdAtMs: recording.createdAtMs,
    ...(recording.binnedAtMs !== null && { binnedAtMs: recording.binnedAtMs }),
    ...(job !== undefined && { jobId: job.id }),
    ...(recording.cutOf !== null && { cutOf: recording.cutOf, isCompared: recording.isCompared }),
    media: {
      mime: media.mime,
      hasVideo: media.hasVideo,
      ...(media.width !== null && { width: media.width, height: media.height }),
      ...(media.frameRate !== null && { frameRate: media.frameRate }),
      channels: media.channels,
      sampleRate: media.sampleRate,
      bytes: media.bytes
    },
    tracks: app.trackStore.listOf(recording.id).map((track) => ({
      id: track.id,
      language: track.language,
      kind: track.kind,
      title: track.title,
      revision: track.revision,
      wordCount: track.wordCount,
      correctedCount: track.correctedCount,
      cueCount: track.cueCount
    }))
  };
}

const held = globalThis as { vineTapApp?: App };

/** Opens the data folder; throws `FolderInUse` where another server has it. */
export async function openApp(): Promise<App> {
  held.vineTapApp?.close();
  held.vineTapApp = new App(dataFolder());
  await held.vineTapApp.start();
  return held.vineTapApp;
}

export function getApp(): App {
  if (held.vineTapApp === undefined) throw new Error('the app is not open');
  return held.vineTapApp;
}
