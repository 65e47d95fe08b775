/**
 * Long work: queued in the database, so many at a time of each kind, told over the event stream, cancelled by id, and
 * taken up again after a restart where it stopped.
 */
import { randomUUID } from 'node:crypto';
import { messageOf } from '$lib/core/message-of';
import type { EventStream } from '../events';
import { ApiProblem, DISK_FULL, isDiskFull, notFound } from '../problem';
import type { Job, JobStore } from '../store/jobs';
import { jobAnswer, type JobAnswer } from './answer';
import type { JobKind } from './kind';

/** What a server ended over as often is not begun again. */
const MOST_CRASHES = 2;

/** Share of the work after which its pace says how long the rest takes. */
const LEAST_PACE = 0.04;

export class JobRunner {
  readonly #store: JobStore;
  readonly #events: EventStream;
  readonly #kinds: ReadonlyMap<string, JobKind>;
  readonly #running = new Map<string, { readonly kind: string; readonly controller: AbortController }>();
  /** Ids by kind, the next one first. */
  readonly #waiting = new Map<string, readonly string[]>();
  readonly #leftMs = new Map<string, number>();
  readonly #ended = new Map<string, (() => void)[]>();
  #isClosing = false;

  constructor(store: JobStore, events: EventStream, kinds: readonly JobKind[]) {
    this.#store = store;
    this.#events = events;
    this.#kinds = new Map(kinds.map((kind) => [kind.kind, kind]));
  }

  /** Takes up what a former server left; what servers have ended over again and again is failed. */
  resume(): void {
    this.#store.releaseAll();
    for (const job of this.#store.unfinished()) {
      // A job still marked as running was at work when the server was killed.
      const crashes = job.crashes + (job.state === 'running' ? 1 : 0);
      this.#store.update(job.id, { state: 'queued', crashes });
      if (!this.#kinds.has(job.kind)) this.#giveUp(job, `This version knows no work of the kind ${job.kind}.`);
      else if (crashes < MOST_CRASHES) this.#queue(job);
      else
        this.#giveUp(
          job,
          `The server ended ${crashes} times while it was at this (${job.stage}), so it is not begun again by itself. Try it once more, or with another file.`
        );
    }
  }

  add(kind: string, recordingId: string, params: unknown): Job {
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
      this.#waiting.set(
        job.kind,
        this.#waitingOf(job.kind).filter((waiting) => waiting !== id)
      );
      this.#store.update(id, { state: 'cancelled', stage: 'cancelled' });
      this.#running.get(id)?.controller.abort(new ApiProblem(409, 'cancelled', 'It was cancelled.'));
      this.#kinds.get(job.kind)?.onGivenUp?.(job, 'cancelled');
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

  /** Stops all work for the server's end; what was at work waits, and goes on at the next start. */
  close(): void {
    this.#isClosing = true;
    for (const [id, { controller }] of this.#running) {
      this.#store.update(id, { state: 'queued' });
      controller.abort(new ApiProblem(503, 'ending', 'The server is ending.'));
    }
  }

  #waitingOf(kind: string): readonly string[] {
    return this.#waiting.get(kind) ?? [];
  }

  #queue(job: Pick<Job, 'id' | 'kind'>): void {
    this.#waiting.set(job.kind, [...this.#waitingOf(job.kind), job.id]);
    this.#next(job.kind);
  }

  #next(name: string): void {
    const kind = this.#kinds.get(name);
    if (kind === undefined) throw new Error(`no kind of work is called ${name}`);
    const atWork = [...this.#running.values()].filter((one) => one.kind === name).length;
    const [id, ...others] = this.#waitingOf(name);
    if (id === undefined || atWork >= kind.concurrency || this.#isClosing) return;
    this.#waiting.set(name, others);
    void this.#run(id, kind);
    this.#next(name);
  }

  async #run(id: string, kind: JobKind): Promise<void> {
    const controller = new AbortController();
    this.#running.set(id, { kind: kind.kind, controller });
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
      const job = this.get(id);
      const made = await kind.run({ job, params: kind.params.parse(job.params), signal: controller.signal, tell });
      const result = { ...kind.result.parse(made) };
      if (!controller.signal.aborted) this.#store.update(id, { state: 'done', stage: 'done', progress: 1, result });
    } catch (error) {
      if (!controller.signal.aborted) {
        if (!(error instanceof ApiProblem)) console.error(`job ${id} (${kind.kind}) failed:`, error);
        this.#noteFailed(id, error);
      }
    } finally {
      this.#running.delete(id);
      this.#leftMs.delete(id);
      if (!this.#isClosing) {
        this.#finish(id);
        this.#next(kind.kind);
      }
    }
  }

  /** With a full disk even this cannot be written; the job then continues at the next start. */
  #noteFailed(id: string, failure: unknown): void {
    const job = this.#store.find(id);
    if (job === null) return;
    try {
      this.#giveUp(job, isDiskFull(failure) ? DISK_FULL : messageOf(failure));
    } catch (error) {
      if (!isDiskFull(error)) throw error;
      console.error(`job ${id}: ${DISK_FULL}`);
    }
  }

  #giveUp(job: Job, why: string): void {
    this.#store.update(job.id, { state: 'failed', stage: 'failed', error: why });
    this.#kinds.get(job.kind)?.onGivenUp?.(job, why);
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
