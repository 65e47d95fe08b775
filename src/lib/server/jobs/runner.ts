/**
 * Long work: queued in the database, run one at a time of each kind, told over the event stream, cancelled by id, and
 * taken up again after a restart where it stopped.
 */
import { randomUUID } from 'node:crypto';
import type { EventStream } from '../events';
import { ApiProblem, DISK_FULL, isDiskFull, notFound } from '../problem';
import type { Job, JobKind, JobStore } from '../store/jobs';

export interface JobContext {
  readonly job: Job;
  readonly signal: AbortSignal;
  /** `progress` 0 to 1. */
  readonly tell: (stage: string, progress: number) => void;
}

/** Does the work; what it returns stands in the job when it is done. */
export type JobHandler = (context: JobContext) => Promise<{ readonly trackId?: string }>;

/** A job as the API tells it. */
export interface JobAnswer {
  readonly id: string;
  readonly kind: JobKind;
  readonly recordingId: string;
  readonly state: Job['state'];
  readonly progress: number;
  readonly stage: string;
  /** About how long it still takes, once that can be told. */
  readonly leftMs?: number;
  readonly error?: string;
  readonly result?: { readonly trackId?: string };
}

export function jobAnswer(job: Job, leftMs?: number): JobAnswer {
  return {
    id: job.id,
    kind: job.kind,
    recordingId: job.recordingId,
    state: job.state,
    progress: job.progress,
    stage: job.stage,
    ...(job.state === 'running' && leftMs !== undefined && { leftMs }),
    ...(job.error !== null && { error: job.error }),
    // A hearing that was cancelled may have left a track of what it had heard.
    ...((job.state === 'done' || job.trackId !== null) && {
      result: job.trackId === null ? {} : { trackId: job.trackId }
    })
  };
}

/** Share of the work after which its pace says how long the rest takes. */
const LEAST_PACE = 0.04;

export class JobRunner {
  readonly #store: JobStore;
  readonly #events: EventStream;
  readonly #handlers: Readonly<Record<JobKind, JobHandler>>;
  readonly #running = new Map<string, AbortController>();
  readonly #waiting: Record<JobKind, string[]> = { prepare: [], hear: [] };
  readonly #leftMs = new Map<string, number>();
  readonly #ended = new Map<string, (() => void)[]>();
  #isClosing = false;

  constructor(store: JobStore, events: EventStream, handlers: Readonly<Record<JobKind, JobHandler>>) {
    this.#store = store;
    this.#events = events;
    this.#handlers = handlers;
  }

  /** Takes up what a former server left. */
  resume(): void {
    for (const job of this.#store.unfinished()) {
      this.#store.update(job.id, { state: 'queued' });
      this.#queue(job);
    }
  }

  add(kind: JobKind, recordingId: string, params: unknown): Job {
    const job = { id: randomUUID(), kind, recordingId, stage: 'waiting', params };
    this.#store.insert(job, Date.now());
    this.#queue(job);
    this.#tell(job.id);
    return this.get(job.id);
  }

  get(id: string): Job {
    const job = this.#store.find(id);
    if (job === null) throw notFound('job', id);
    return job;
  }

  /** A job as the API tells it. */
  answerOf(job: Job): JobAnswer {
    return jobAnswer(job, this.#leftMs.get(job.id));
  }

  /** Ends a job at once; one that has ended stays as it is. */
  cancel(id: string): Job {
    const job = this.get(id);
    if (job.state === 'queued' || job.state === 'running') {
      this.#store.update(id, { state: 'cancelled', stage: 'cancelled' });
      this.#waiting[job.kind] = this.#waiting[job.kind].filter((waiting) => waiting !== id);
      this.#running.get(id)?.abort();
      this.#finish(id);
    }
    return this.get(id);
  }

  /** Ends all jobs of a recording that goes. */
  cancelAllOf(recordingId: string): void {
    for (const job of this.#store.listOf(recordingId)) this.cancel(job.id);
  }

  /** Resolves when the job has ended, however. */
  async ended(id: string): Promise<Job> {
    const job = this.get(id);
    if (job.state === 'queued' || job.state === 'running') {
      await new Promise<void>((resolve) => this.#ended.set(id, [...(this.#ended.get(id) ?? []), resolve]));
    }
    return this.get(id);
  }

  /** Stops all work for the server's end; the jobs stay as they are and go on at the next start. */
  close(): void {
    this.#isClosing = true;
    for (const controller of this.#running.values()) controller.abort();
  }

  #queue(job: Pick<Job, 'id' | 'kind'>): void {
    this.#waiting[job.kind].push(job.id);
    this.#next(job.kind);
  }

  #next(kind: JobKind): void {
    const isBusy = [...this.#running.keys()].some((id) => this.#store.find(id)?.kind === kind);
    const id = isBusy || this.#isClosing ? undefined : this.#waiting[kind].shift();
    if (id !== undefined) void this.#run(id, kind);
  }

  async #run(id: string, kind: JobKind): Promise<void> {
    const controller = new AbortController();
    this.#running.set(id, controller);
    this.#store.update(id, { state: 'running' });
    let toldAtMs = 0;
    let toldStage = '';
    let pace = { stage: '', fromMs: 0, fromProgress: 0 };
    const tell = (stage: string, progress: number): void => {
      const nowMs = Date.now();
      if (controller.signal.aborted || (stage === toldStage && nowMs - toldAtMs < 200)) return;
      toldAtMs = nowMs;
      toldStage = stage;
      if (stage !== pace.stage) pace = { stage, fromMs: nowMs, fromProgress: progress };
      const done = progress - pace.fromProgress;
      if (done >= LEAST_PACE) this.#leftMs.set(id, Math.round(((nowMs - pace.fromMs) * (1 - progress)) / done));
      this.#store.update(id, { stage, progress: Math.min(1, Math.max(0, progress)) });
      this.#tell(id);
    };
    try {
      const result = await this.#handlers[kind]({ job: this.get(id), signal: controller.signal, tell });
      if (!controller.signal.aborted)
        this.#store.update(id, { state: 'done', stage: 'done', progress: 1, trackId: result.trackId ?? null });
    } catch (error) {
      if (!controller.signal.aborted) {
        if (!(error instanceof ApiProblem)) console.error(`job ${id} (${kind}) failed:`, error);
        this.#noteFailed(id, error);
      }
    } finally {
      this.#running.delete(id);
      this.#leftMs.delete(id);
      if (!this.#isClosing) {
        this.#finish(id);
        this.#next(kind);
      }
    }
  }

  /** On a full disk even that cannot be noted: then the job goes on when the server starts the next time. */
  #noteFailed(id: string, failure: unknown): void {
    const text = failure instanceof Error ? failure.message : String(failure);
    try {
      this.#store.update(id, { state: 'failed', stage: 'failed', error: isDiskFull(failure) ? DISK_FULL : text });
    } catch (error) {
      if (!isDiskFull(error)) throw error;
      console.error(`job ${id}: ${DISK_FULL}`);
    }
  }

  #finish(id: string): void {
    this.#tell(id);
    for (const resolve of this.#ended.get(id) ?? []) resolve();
    this.#ended.delete(id);
  }

  #tell(id: string): void {
    const job = this.#store.find(id);
    if (job !== null) this.#events.send({ name: 'job', jobId: id, data: { job: this.answerOf(job) } });
  }
}
