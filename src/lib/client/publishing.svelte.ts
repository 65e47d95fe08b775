/** A recording on the video site: which video, which captions stand there, what is under way, what viewers get. */
import { messageOf } from '$lib/core/message-of';
import type { PublishRequest } from '$lib/core/publishing';
import { api, type Job, type ShownComparison, type SiteFacts, type SiteVideoFacts } from './api';
import { listenToServer } from './events';
import { isUnfinished } from './is-unfinished';

export class Publishing {
  readonly #recordingId: string;
  /** What the server told last. */
  #heardOf: Job | null = null;
  site: SiteFacts | null = $state.raw(null);
  on: SiteVideoFacts | null = $state.raw(null);
  /** Under way, or failed last. */
  job: Job | null = $state.raw(null);
  /** Why the site cannot be asked. */
  failure: string | null = $state.raw(null);
  /** By the publication that it is of. */
  compared: { readonly id: string; readonly found: ShownComparison } | null = $state.raw(null);
  /** Changes whenever viewers may get something else. */
  shownCount = $state(0);

  constructor(recordingId: string) {
    this.#recordingId = recordingId;
  }

  follow(): () => void {
    void this.load();
    return listenToServer({
      onJob: (job) => {
        if (job.kind !== 'publish' || job.recordingId !== this.#recordingId) return;
        this.#heardOf = job;
        this.#show(job);
        if (!isUnfinished(job)) void this.load();
      },
      onReconnect: () => void this.load()
    });
  }

  async load(): Promise<void> {
    try {
      const [site, on, jobs] = await Promise.all([
        this.site ?? api.site(),
        api.siteVideo(this.#recordingId),
        api.unfinishedJobs()
      ]);
      [this.site, this.on] = [site, on];
      this.job =
        jobs.find((job) => job.kind === 'publish' && job.recordingId === this.#recordingId) ??
        (this.job?.state === 'failed' ? this.job : null);
      this.failure = null;
      this.shownCount++;
    } catch (error) {
      this.failure = messageOf(error);
    }
  }

  choose(videoId: string | null): Promise<void> {
    return this.#change(() => api.chooseSiteVideo(this.#recordingId, videoId));
  }
  setState(captionId: string, state: 'published' | 'draft'): Promise<void> {
    return this.#change(() => api.changeSiteCaption(this.#recordingId, captionId, { state }));
  }
  setDefault(captionId: string, isDefault: boolean): Promise<void> {
    return this.#change(() => api.changeSiteCaption(this.#recordingId, captionId, { isDefault }));
  }
  remove(captionId: string): Promise<void> {
    return this.#change(() => api.removeSiteCaption(this.#recordingId, captionId));
  }

  async publish(request: PublishRequest): Promise<void> {
    const job = await api.publish(this.#recordingId, request);
    // It may have ended before the answer to the request came.
    this.#show(this.#heardOf?.id === job.id ? this.#heardOf : job);
  }
  async cancel(): Promise<void> {
    if (this.job !== null) await api.cancelJob(this.job.id);
  }

  async compare(publicationId: string): Promise<void> {
    this.compared = { id: publicationId, found: await api.compareShown(publicationId) };
  }

  #show(job: Job): void {
    this.job = isUnfinished(job) || job.state === 'failed' ? job : null;
  }

  async #change(work: () => Promise<unknown>): Promise<void> {
    try {
      await work();
    } finally {
      await this.load();
    }
  }
}
