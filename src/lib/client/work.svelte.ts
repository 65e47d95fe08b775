/** Work that the server does in the background, as every page shows it: what, how far, what came of it. */
import { api, ServerProblem, type Job } from './api';
import { listenToServer } from './events';
import { isUnfinished } from './is-unfinished';

export interface Work {
  readonly job: Job;
  /** Of its recording. */
  readonly title: string;
}

/** So many that have ended are still shown. */
const MOST_ENDED = 5;

class ServerWork {
  list: readonly Work[] = $state.raw([]);
  readonly #titles = new Map<string, string>();

  readonly unfinished: readonly Work[] = $derived(this.list.filter(({ job }) => isUnfinished(job)));

  /** Begins to listen; returns a function that stops. What goes on already is looked up. */
  follow(): () => void {
    const look = (): void =>
      void this.#load().catch((error: unknown) => {
        // Every page tells by itself that the server does not answer; this looks again when it does.
        if (!(error instanceof ServerProblem)) console.error(error);
      });
    look();
    return listenToServer({ onJob: (job) => this.#take(job), onReconnect: look });
  }

  /** Takes an ended one from the list. */
  dismiss(jobId: string): void {
    this.list = this.list.filter(({ job }) => job.id !== jobId);
  }

  async #load(): Promise<void> {
    const jobs = await api.unfinishedJobs();
    const others = this.list.filter(({ job }) => !jobs.some((one) => one.id === job.id) && !isUnfinished(job));
    this.list = [...others, ...jobs.map((job) => this.#workOf(job))];
    for (const { recordingId } of jobs) await this.#findTitle(recordingId);
  }

  #take(job: Job): void {
    const isKnown = this.list.some((one) => one.job.id === job.id);
    // What has been ended or cancelled before it was seen is no news.
    if (!isKnown && (!isUnfinished(job) || job.kind === 'prepare')) return;
    const rest = this.list.filter((one) => one.job.id !== job.id);
    // Whoever waits for the light of a picture sees it where it was asked for.
    if (job.state === 'cancelled' || (job.kind === 'light' && !isUnfinished(job))) this.list = rest;
    else {
      const ended = rest.filter((one) => !isUnfinished(one.job)).slice(-MOST_ENDED);
      this.list = [...ended, ...rest.filter((one) => isUnfinished(one.job)), this.#workOf(job)];
    }
    void this.#findTitle(job.recordingId);
  }

  #workOf(job: Job): Work {
    return { job, title: this.#titles.get(job.recordingId) ?? 'A recording' };
  }

  async #findTitle(recordingId: string): Promise<void> {
    if (this.#titles.has(recordingId)) return;
    try {
      this.#titles.set(recordingId, (await api.recording(recordingId)).title);
    } catch {
      // It may be gone by now; the work is shown without its name.
      return;
    }
    this.list = this.list.map(({ job }) => this.#workOf(job));
  }
}

export const work = new ServerWork();
