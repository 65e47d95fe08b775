/** The server's parts, put together once: stores, jobs, open tracks, recognisers. */
import { randomUUID } from 'node:crypto';
import { copyFile } from 'node:fs/promises';
import { join } from 'node:path';
import { destinationSchema, type Destination } from '$lib/core/destinations';
import { readTerms, type Term } from '$lib/core/expecting';
import { asTrackId } from '$lib/core/id';
import { messageOf } from '$lib/core/message-of';
import { wholeMs } from '$lib/core/time';
import { lookSchema, sheetSchema, type Look, type Sheet } from '$lib/core/track';
import { trimTrack } from '$lib/core/trims';
import { dataFolder, meteredUrl, modelsFolder, siteAccount } from './config';
import { openRegister } from './children';
import { DoubtFinder } from './doubts/finder';
import { EventStream } from './events';
import { Faces } from './faces/faces';
import { Hearing } from './jobs/hear';
import { JobRunner } from './jobs/runner';
import { MediaFiles } from './media/files';
import { MeteredClient } from './metered/client';
import { Lighting } from './media/light';
import { ApiProblem, notFound } from './problem';
import { Preparing } from './recordings/preparing';
import { Rendering } from './rendering/rendering';
import { recordingAnswer } from './recordings/answer';
import { Narrations } from './recordings/narrations';
import { ResumableUploads } from './recordings/resumable';
import { takeArrived, takeUpload } from './recordings/uploads';
import { METERED_ENGINE_ID, MeteredService } from './recognisers/metered/recogniser';
import { Ears } from './recognisers/models/ears';
import { LOCAL_ENGINE_ID, PocketSphinx } from './recognisers/pocketsphinx/recogniser';
import { READING_ENGINE_ID, readingFacts } from './recognisers/reading/fitter';
import type { EngineFacts, LocalRecogniser, Recogniser } from './recognisers/recogniser';
import { TIMING_ENGINE } from './recognisers/timing';
import { Publishing } from './sites/publishing';
import { SimulatedSite } from './sites/simulated/adapter';
import { CutRemarkStore } from './store/cut-remarks';
import { DigestStore } from './store/digests';
import { openFolder } from './store/data-folder';
import type { Db } from './store/database';
import { LibraryStore } from './store/library';
import { NarrationStore } from './store/narrations';
import { LogStore } from './store/log';
import { JobStore, type Job } from './store/jobs';
import { AcceptedFindingStore } from './store/accepted-findings';
import { GlossaryStore } from './store/glossary';
import { HandedOverStore } from './store/handed-over';
import { JudgedDoubtStore } from './store/judged-doubts';
import { PublicationStore } from './store/publications';
import { ProjectStore } from './store/projects';
import { LastDestination } from './store/last-destination';
import { ProposalStore } from './store/proposals';
import { RememberedStore } from './store/remembered';
import { OwnFaceStore } from './store/own-faces';
import { KeptStore } from './store/kept';
import { RenderStore } from './store/renders';
import { RuleSetStore } from './store/rule-sets';
import { RecordingStore, type Recording } from './store/recordings';
import { TrackStore } from './store/tracks';
import { TrimStore } from './store/trims';
import { VocabularyStore } from './store/vocabulary';
import { Digesting } from './tracks/digesting';
import { OpenTracks } from './tracks/open-tracks';
import { Translating } from './translating/translating';
import { APERTIUM_ID, Apertium } from './translators/apertium/translator';
import { METERED_TRANSLATOR_ID, MeteredTranslator } from './translators/metered/translator';
import type { Translator } from './translators/translator';
import { OpenTrims } from './trims/open-trims';

export class App {
  readonly events = new EventStream();
  readonly recordings: RecordingStore;
  readonly library: LibraryStore;
  readonly projects: ProjectStore;
  readonly digests: DigestStore;
  readonly digesting: Digesting;
  readonly trackStore: TrackStore;
  readonly tracks: OpenTracks;
  readonly trimStore: TrimStore;
  readonly trims: OpenTrims;
  readonly jobStore: JobStore;
  readonly vocabulary: VocabularyStore;
  readonly proposals: ProposalStore;
  readonly ruleSets: RuleSetStore;
  readonly ownLooks: KeptStore<Look>;
  readonly ownSheets: KeptStore<Sheet>;
  readonly ownDestinations: KeptStore<Destination>;
  readonly lastDestination: LastDestination;
  readonly judgedDoubts: JudgedDoubtStore;
  readonly acceptedFindings: AcceptedFindingStore;
  readonly handedOver: HandedOverStore;
  readonly cutRemarks: CutRemarkStore;
  readonly faces: Faces;
  readonly doubtFinder = new DoubtFinder();
  readonly preparing: Preparing;
  readonly hearing: Hearing;
  readonly renders: RenderStore;
  readonly rendering: Rendering;
  readonly lighting: Lighting;
  readonly publications: PublicationStore;
  readonly publishing: Publishing;
  readonly glossary: GlossaryStore;
  readonly translating: Translating;
  readonly jobs: JobRunner;
  readonly files: MediaFiles;
  readonly resumable: ResumableUploads;
  readonly narrations: Narrations;
  readonly localRecogniser: LocalRecogniser = new PocketSphinx();
  readonly #recognisers: ReadonlyMap<string, Recogniser>;
  readonly ears = new Ears(modelsFolder());
  readonly #apertium = new Apertium();
  readonly #db: Db;
  readonly logs: LogStore;

  constructor(folder: string) {
    const url = meteredUrl();
    const metered = url === undefined ? null : new MeteredClient(url);
    this.#recognisers = new Map<string, Recogniser>([
      [LOCAL_ENGINE_ID, this.localRecogniser],
      ...(metered === null ? [] : [[METERED_ENGINE_ID, new MeteredService(metered)] as const])
    ]);
    this.#db = openFolder(folder);
    openRegister(folder);
    this.files = new MediaFiles(folder);
    this.faces = new Faces(join(folder, 'faces'), new OwnFaceStore(this.#db));
    this.recordings = new RecordingStore(this.#db);
    this.resumable = new ResumableUploads({
      folder: this.files.resumableFolder,
      refuseWithoutRoom: (bytes) => this.files.refuseWithoutRoom(bytes),
      getRecording: (id) => this.getRecording(id),
      find: (id) => this.recordings.find(id),
      take: async (arrived) => {
        // The cut before it may have gone while it was on its way.
        const cutOf = arrived.cutOf !== null && this.recordings.find(arrived.cutOf) === null ? null : arrived.cutOf;
        await takeArrived(this, { ...arrived, cutOf });
        const { recording, job } = this.#prepare(arrived.id);
        return { recording: recordingAnswer(this, recording), job: this.jobs.answerOf(job) };
      }
    });
    this.narrations = new Narrations({
      store: new NarrationStore(this.#db),
      files: this.files,
      recogniser: this.localRecogniser
    });
    this.library = new LibraryStore(this.#db);
    this.projects = new ProjectStore(this.#db);
    this.trackStore = new TrackStore(this.#db);
    this.jobStore = new JobStore(this.#db);
    this.vocabulary = new VocabularyStore(this.#db);
    this.proposals = new ProposalStore(this.#db);
    this.ruleSets = new RuleSetStore(this.#db);
    this.ownLooks = new KeptStore(this.#db, 'own_looks', lookSchema);
    this.ownSheets = new KeptStore(this.#db, 'own_sheets', sheetSchema);
    this.ownDestinations = new KeptStore(this.#db, 'own_destinations', destinationSchema);
    this.lastDestination = new LastDestination(this.#db);
    this.judgedDoubts = new JudgedDoubtStore(this.#db);
    this.acceptedFindings = new AcceptedFindingStore(this.#db);
    this.handedOver = new HandedOverStore(this.#db);
    this.cutRemarks = new CutRemarkStore(this.#db);
    this.logs = new LogStore(this.#db);
    this.tracks = new OpenTracks(this.trackStore, this.logs, this.events);
    this.trimStore = new TrimStore(this.#db);
    this.trims = new OpenTrims(this.trimStore, this.logs, this.events);
    this.digests = new DigestStore(this.#db);
    this.digesting = new Digesting({
      digests: this.digests,
      tracks: this.tracks,
      trackStore: this.trackStore,
      recordings: this.recordings,
      acceptedFindings: this.acceptedFindings,
      events: this.events
    });
    this.preparing = new Preparing({
      recordings: this.recordings,
      jobStore: this.jobStore,
      files: this.files,
      events: this.events,
      jobs: () => this.jobs,
      get: (id) => this.getRecording(id),
      onChange: (id) => this.changed(id)
    });
    this.hearing = new Hearing({
      db: this.#db,
      jobs: this.jobStore,
      tracks: this.trackStore,
      recordings: this.recordings,
      files: this.files,
      proposals: this.proposals,
      openTracks: this.tracks,
      findRecogniser: (id) => this.findRecogniser(id),
      localRecogniser: this.localRecogniser,
      speechMapped: (id, signal) => this.preparing.speechMapped(id, signal),
      onTrack: (id) => this.changed(id)
    });
    this.renders = new RenderStore(this.#db);
    this.rendering = new Rendering({
      recordings: this.recordings,
      renders: this.renders,
      trackStore: this.trackStore,
      tracks: this.tracks,
      trims: this.trims,
      digests: this.digests,
      handedOver: this.handedOver,
      getRecording: (id) => this.getRecording(id),
      changed: (id) => this.changed(id),
      files: this.files,
      faces: this.faces
    });
    this.lighting = new Lighting({
      recordings: this.recordings,
      jobStore: this.jobStore,
      files: this.files,
      jobs: () => this.jobs
    });
    this.publications = new PublicationStore(this.#db);
    const account = siteAccount();
    this.publishing = new Publishing(
      {
        tracks: this.tracks,
        trims: this.trims,
        digests: this.digests,
        handedOver: this.handedOver,
        publications: this.publications,
        getRecording: (id) => this.getRecording(id),
        changed: (id) => this.changed(id)
      },
      account === null ? null : new SimulatedSite(account)
    );
    this.glossary = new GlossaryStore(this.#db);
    this.translating = new Translating({
      tracks: this.tracks,
      trackStore: this.trackStore,
      translators: new Map<string, Translator>([
        [APERTIUM_ID, this.#apertium],
        ...(metered === null ? [] : [[METERED_TRANSLATOR_ID, new MeteredTranslator(metered)] as const])
      ]),
      jobs: () => this.jobs,
      remembered: new RememberedStore(this.#db),
      changed: (id) => this.changed(id)
    });
    this.jobs = new JobRunner(this.jobStore, this.events, [
      this.preparing.kind,
      this.hearing.kind,
      this.rendering.kind,
      this.lighting.kind,
      this.publishing.kind,
      this.translating.kind
    ]);
  }

  /** Continues the work that an earlier server left unfinished. */
  start(): void {
    this.jobs.resume();
    void this.#endForgotten();
  }

  async #endForgotten(): Promise<void> {
    for (const { id } of await this.narrations.forgotten())
      await this.endNarration(id).catch((error: unknown) => console.error(messageOf(error)));
  }

  /** Everything that can be chosen to hear with. */
  async engines(): Promise<EngineFacts[]> {
    // Where the folder of models cannot be read its own page says why; the others hear all the same.
    const ears = await this.ears.list().catch((error: unknown) => (console.error(messageOf(error)), []));
    const all = [...this.#recognisers.values(), ...ears];
    const recognisers = await Promise.all(all.map((recogniser) => recogniser.facts()));
    return [...recognisers, await readingFacts(), TIMING_ENGINE];
  }

  /** `null` for an engine that there is not; asks only the one that is meant. */
  async engineFacts(id: string): Promise<EngineFacts | null> {
    if (id === TIMING_ENGINE.id) return TIMING_ENGINE;
    if (id === READING_ENGINE_ID) return readingFacts();
    const own = this.#recognisers.get(id);
    if (own !== undefined) return own.facts();
    const ear = await this.ears.find(id);
    await ear?.tryOut();
    return ear?.facts() ?? null;
  }

  async findRecogniser(id: string): Promise<Recogniser | null> {
    return this.#recognisers.get(id) ?? (await this.ears.find(id));
  }

  /** Names and phrases for a hearing: those that are given, else the lists of the workspace and of the recording. */
  termsFor(recordingId: string, given: readonly string[] | undefined): readonly Term[] {
    return given === undefined
      ? [...this.vocabulary.list(null), ...this.vocabulary.list(recordingId)]
      : readTerms(given.join('\n')).terms;
  }

  close(): void {
    this.narrations.close();
    this.digesting.close();
    this.doubtFinder.close();
    this.jobs.close();
    this.#apertium.close();
    this.#db.close();
  }

  /** A recording that is not in the bin. Throws `unknown_recording`. */
  getRecording(id: string): Recording {
    const recording = this.recordings.find(id);
    if (recording === null || recording.binnedAtMs !== null) throw notFound('recording', id);
    return recording;
  }

  /** Into the bin, or out of it as they were. Those that cannot be used go for good: there is nothing to bring back. */
  async setBinned(recordings: readonly Recording[], isBinned: boolean): Promise<void> {
    const unusable = recordings.filter(({ state }) => isBinned && state !== 'ready');
    for (const { id } of unusable) await this.removeRecording(id);
    this.changeAll(
      recordings.filter((recording) => !unusable.includes(recording)),
      ({ id, hasSpeechMap }) => {
        if (isBinned) this.jobs.cancelAllOf(id);
        this.recordings.setBinned(id, isBinned ? Date.now() : null);
        if (!isBinned && !hasSpeechMap) this.preparing.begin(id);
      }
    );
  }

  /** Changes recordings in one write, and tells of each. */
  changeAll(recordings: readonly Recording[], change: (recording: Recording) => void): void {
    this.logs.atOnce(() => recordings.forEach(change));
    for (const { id } of recordings) this.changed(id);
  }

  /** Into the bin, or out of it. Throws `unknown_trim`. */
  setTrimBinned(id: string, isBinned: boolean): void {
    const { recordingId } = this.trims.get(id).trim;
    this.trimStore.setBinned(id, isBinned ? Date.now() : null);
    this.changed(recordingId);
  }

  /** Tells everyone that the list of recordings, or one of them, is no longer as it was. */
  changed(recordingId: string): void {
    this.events.send({ name: 'recordings', data: { recordingId } });
  }

  /** Takes an uploaded file, and begins to prepare it. `cutOf`: the recording that it is the next cut of. */
  async takeUpload(upload: Parameters<typeof takeUpload>[1]): Promise<{ recording: Recording; job: Job }> {
    if (upload.cutOf !== null) this.getRecording(upload.cutOf);
    return this.#prepare(await takeUpload(this, upload));
  }

  /** The sound or video of a trim that was rendered, as a recording of its own with all tracks of the old one. */
  async bringIn(renderId: string): Promise<{ recording: Recording; job: Job }> {
    const { id, recordingId, name, bytes, request } = this.rendering.get(renderId);
    const trim = this.rendering.trimOf(this.getRecording(recordingId), request);
    if (trim === null)
      throw new ApiProblem(422, 'does_not_fit', 'This file is not of a trim: render the trim, and bring that in.');
    const newId = randomUUID();
    await this.files.scratchFolder();
    await this.files.refuseWithoutRoom(bytes);
    await copyFile(this.files.renderPath(recordingId, id), this.files.uploadPath(newId));
    try {
      await takeArrived(this, {
        ...{ id: newId, path: this.files.uploadPath(newId), bytes, fileName: name, cutOf: null }
      });
    } catch (error) {
      await this.files.dropUpload(newId);
      throw error;
    }
    const atMs = Date.now();
    this.logs.atOnce(() => {
      for (const { id: trackId } of this.trackStore.listOf(recordingId)) {
        const { track } = trimTrack(this.tracks.get(trackId).track, trim);
        this.tracks.insert({ ...track, id: asTrackId(randomUUID()), recordingId: newId }, atMs);
      }
    });
    return this.#prepare(newId);
  }

  /** What was spoken, as a recording under the same id; what was said anew is taken out of a trim of it. */
  async endNarration(id: string): Promise<{ recording: Recording; job: Job }> {
    await this.narrations.end(id, async (path, bytes, { title, leftOut }) => {
      await takeArrived(this, { id, path, bytes, fileName: '', cutOf: null }, title);
      if (leftOut.length === 0) return;
      const recording = this.getRecording(id);
      const spans = leftOut
        .map(({ startMs, endMs }) => ({ fromMs: startMs, toMs: wholeMs(Math.min(endMs, recording.durationMs)) }))
        .filter(({ fromMs, toMs }) => fromMs < toMs);
      const trim = this.trims.create(recording, SPOKEN_TRIM);
      this.trims.apply(trim.id, { revision: 0, commands: [{ type: 'takeOut', spans, newId: randomUUID() }] });
    });
    return this.#prepare(id);
  }

  #prepare(id: string): { recording: Recording; job: Job } {
    const job = this.preparing.begin(id);
    this.changed(id);
    return { recording: this.getRecording(id), job };
  }

  /** Removes a recording with its files for good. */
  async removeRecording(id: string): Promise<void> {
    this.jobs.cancelAllOf(id);
    const tracks = [true, false].flatMap((isBinned) => this.trackStore.listOf(id, { isBinned }));
    this.tracks.close(tracks.map((track) => track.id));
    const trims = [true, false].flatMap((isBinned) => this.trimStore.listOf(id, { isBinned }));
    this.trims.close(trims.map((trim) => trim.id));
    await this.files.dropRecording(id, () => this.recordings.remove(id));
    this.changed(id);
  }
}

/** What lists call the trim without what was said anew. */
const SPOKEN_TRIM = 'Without what was said anew';

const held = globalThis as { vineTapApp?: App };

/** Opens the data folder; throws `FolderInUse` where another server has it, `FolderRefused` where it is not ours. */
export function openApp(): App {
  held.vineTapApp?.close();
  held.vineTapApp = new App(dataFolder());
  held.vineTapApp.start();
  return held.vineTapApp;
}

export function getApp(): App {
  if (held.vineTapApp === undefined) throw new Error('the app is not open');
  return held.vineTapApp;
}
