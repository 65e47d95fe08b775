/** What is rendered of a recording, and what has been. */
import type { RenderRequest } from '$lib/core/rendering';
import { api, type Job, type Render } from './api';
import { listenToServer } from './events';
import { isUnfinished } from './is-unfinished';

export class Renders {
  readonly #recordingId: string;
  readonly #ended = new Set<string>();
  list: readonly Render[] = $state.raw([]);
  /** Under way, or failed last. */
  jobs: readonly Job[] = $state.raw([]);
  /** Deleted, but not for good while the page is open. */
  gone: readonly Render[] = $state.raw([]);
  /** Video codecs that the server makes; `null` until that is known. */
  codecs: readonly string[] | null = $state.raw(null);

  constructor(recordingId: string) {
    this.#recordingId = recordingId;
  }

  /** Begins to follow them; returns a function that stops, and deletes for good what is to go. */
  follow(onProblem: (error: unknown) => void): () => void {
    const look = (): void => void this.#load().catch(onProblem);
    look();
    const stop = listenToServer({
      onJob: (job) => {
        if (job.kind !== 'render' || job.recordingId !== this.#recordingId) return;
        const others = this.jobs.filter(({ id }) => id !== job.id);
        this.jobs = isUnfinished(job) || job.state === 'failed' ? [...others, job] : others;
        if (!isUnfinished(job)) this.#ended.add(job.id);
        if (job.state === 'done') look();
      },
      onReconnect: look
    });
    const leave = (): void => {
      for (const { id } of this.gone) void api.removeRender(id).catch(onProblem);
      this.gone = [];
    };
    addEventListener('pagehide', leave);
    return () => {
      removeEventListener('pagehide', leave);
      stop();
      leave();
    };
  }

  async start(request: RenderRequest): Promise<void> {
    const job = await api.render(this.#recordingId, request);
    // It may have ended before the answer to the request came.
    if (this.#ended.has(job.id)) return;
    this.jobs = [...this.jobs.filter((one) => one.id !== job.id && isUnfinished(one)), job];
  }

  cancel(jobId: string): Promise<unknown> {
    return api.cancelJob(jobId);
  }

  remove(render: Render): void {
    this.list = this.list.filter(({ id }) => id !== render.id);
    this.gone = [...this.gone, render];
  }
  bringBack(render: Render): void {
    this.gone = this.gone.filter(({ id }) => id !== render.id);
    this.list = [...this.list, render].sort((a, b) => b.madeAtMs - a.madeAtMs);
  }

  async #load(): Promise<void> {
    const [renders, jobs] = await Promise.all([api.renders(this.#recordingId), api.unfinishedJobs()]);
    this.list = renders.filter(({ id }) => !this.gone.some((one) => one.id === id));
    const failed = this.jobs.filter(({ state }) => state === 'failed');
    const own = jobs.filter(({ kind, recordingId }) => kind === 'render' && recordingId === this.#recordingId);
    this.jobs = [...failed, ...own];
    this.codecs ??= await api.videoCodecs();
  }
}
