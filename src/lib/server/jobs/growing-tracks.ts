/** Tracks that are worked on while the rest of their recording is heard. */
import type { TrackId } from '$lib/core/id';
import { randomUUID } from 'node:crypto';
import { growDraft, NO_GROWTH, type DraftManner, type DraftOptions, type Growth } from '$lib/core/hearing';
import { speakersOf } from '$lib/core/speakers';
import { makeTrack } from '$lib/core/track';
import { ApiProblem } from '../problem';
import type { Db } from '../store/database';
import type { Job, JobStore } from '../store/jobs';
import type { TrackStore } from '../store/tracks';
import type { OpenTracks } from '../tracks/open-tracks';
import { hasBegun, heardInOrder, hearResult } from './heard-chunks';

/** A hearing at work, and the track that grows with it where somebody wants to begin. */
interface Live {
  readonly manner: DraftManner;
  readonly options: DraftOptions;
  growth: Growth;
  /** Position of the chunk that is put in next. */
  next: number;
  trackId: TrackId | null;
}

interface GrowingParts {
  readonly db: Db;
  readonly jobs: JobStore;
  readonly tracks: TrackStore;
  readonly openTracks: OpenTracks;
  readonly onTrack: (recordingId: string) => void;
}

export class GrowingTracks {
  readonly #parts: GrowingParts;
  readonly #live = new Map<string, Live>();
  constructor(parts: GrowingParts) {
    this.#parts = parts;
  }

  /** A hearing begins, or goes on after a restart: a track may be begun of it, or one that was begun grows on. */
  follow(job: Job, manner: Pick<DraftManner, 'writing' | 'turns'>, options: DraftOptions): void {
    const { tracks, jobs, openTracks } = this.#parts;
    const { trackId } = hearResult.parse(job.result);
    const track = trackId === undefined ? null : openTracks.get(trackId).track;
    const speakers = track === null ? speakersOf(manner.turns, randomUUID) : track.speakers;
    const live: Live = {
      manner: { ...manner, speakers },
      options: { ...options, trackId: track?.id ?? options.trackId },
      growth: NO_GROWTH,
      next: 0,
      trackId: track?.id ?? null
    };
    // What a former server put in is heard through once more, to go on behind it.
    const last = track === null ? -1 : tracks.lastHeardPart(track.id);
    for (const chunk of heardInOrder(jobs, job.id).slice(0, last + 1)) {
      live.growth = growDraft(live.growth, chunk, live.manner, options).growth;
      live.next++;
    }
    this.#live.set(job.id, live);
  }

  forget(jobId: string): void {
    this.#live.delete(jobId);
  }

  /** Whether `begin` has something to begin with. */
  canBegin(jobId: string): boolean {
    return this.#live.has(jobId) && hasBegun(this.#parts.jobs, jobId);
  }

  /** The track of a hearing in work, made of what is settled by now. Throws `not_growing` and `nothing_heard`. */
  begin(job: Job): { readonly trackId: TrackId } {
    const live = this.#live.get(job.id);
    if (live === undefined)
      throw new ApiProblem(
        409,
        'not_growing',
        'This work makes no words that could be read before it ends, or has ended.'
      );
    if (live.trackId === null) {
      if (!hasBegun(this.#parts.jobs, job.id))
        throw new ApiProblem(409, 'nothing_heard', 'Nothing is heard yet; ask again in a moment.');
      const { db, openTracks, jobs } = this.#parts;
      const { trackId: id, recordingId, language, title, rules, names } = live.options;
      db.transaction(() => {
        openTracks.insert(
          makeTrack({ id, recordingId, language, title, rules, names, words: [], cues: [] }),
          Date.now()
        );
        jobs.update(job.id, { result: { trackId: id } });
      })();
      live.trackId = id;
      this.grow(job.id);
      this.#parts.onTrack(job.recordingId);
    }
    return { trackId: live.trackId };
  }

  /** Puts what is settled into the track, where one was begun. */
  grow(jobId: string, isEnd = false): void {
    const live = this.#live.get(jobId);
    if (live === undefined || live.trackId === null) return;
    const chunks = heardInOrder(this.#parts.jobs, jobId, live.next);
    for (const chunk of isEnd ? [...chunks, 'end' as const] : chunks) {
      const { growth, parts } = growDraft(live.growth, chunk, live.manner, live.options);
      const { speakers } = live.manner;
      if (parts.length > 0)
        this.#parts.openTracks.addHeard(live.trackId, { type: 'addHeard', parts, speakers }, live.next);
      live.growth = growth;
      live.next++;
    }
  }

  /** All is heard: the rest goes in. `null` where no track was begun. */
  finish(job: Job): { readonly trackId: TrackId } | null {
    const trackId = this.#live.get(job.id)?.trackId ?? null;
    if (trackId === null) return null;
    this.grow(job.id, true);
    return { trackId };
  }
}
