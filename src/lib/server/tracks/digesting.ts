/**
 * Reads off tracks, behind the edits, what lists show and search of them. An edit never waits for it: one that is
 * edited is read again when the hands rest, the others one by one with room between.
 */
import { checkCues } from '$lib/core/checks';
import { contentOf } from '$lib/core/handed-over';
import { messageOf } from '$lib/core/message-of';
import { joinWords } from '$lib/core/track';
import type { EventStream } from '../events';
import { ApiProblem } from '../problem';
import { sha256Of } from '../sha256';
import type { AcceptedFindingStore } from '../store/accepted-findings';
import type { DigestStore } from '../store/digests';
import type { RecordingStore } from '../store/recordings';
import type { TrackStore } from '../store/tracks';
import type { OpenTracks } from './open-tracks';

const REST_MS = 4000;
const ROOM_MS = 20;

interface Parts {
  readonly digests: DigestStore;
  readonly tracks: OpenTracks;
  readonly trackStore: TrackStore;
  readonly recordings: RecordingStore;
  readonly acceptedFindings: AcceptedFindingStore;
  readonly events: EventStream;
}

export class Digesting {
  readonly #parts: Parts;
  readonly #stopListening: () => void;
  #timer: ReturnType<typeof setTimeout> | undefined;

  constructor(parts: Parts) {
    this.#parts = parts;
    this.#stopListening = parts.events.listen(({ event }) => {
      if (event.name !== 'job') this.#wake(REST_MS);
    });
    this.#wake(ROOM_MS);
  }

  /** Reads what is behind, for so long at most; gives how many tracks are still behind. */
  catchUp(longestMs: number): number {
    const startedAt = performance.now();
    for (const id of this.#parts.digests.stale(1000)) {
      if (performance.now() - startedAt > longestMs) break;
      this.#read(id);
    }
    return this.#parts.digests.countStale();
  }

  /** Counts the findings of a track again: others stand now. */
  renew(trackId: string): void {
    this.#parts.digests.forget(trackId);
    this.#wake(REST_MS);
  }

  close(): void {
    this.#stopListening();
    clearTimeout(this.#timer);
  }

  #wake(inMs: number): void {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => {
      const [id] = this.#parts.digests.stale(1);
      if (id === undefined) return;
      try {
        this.#read(id);
      } catch (error) {
        console.error(`Track ${id} could not be read for lists and search: ${messageOf(error)}`);
        return;
      }
      this.#wake(ROOM_MS);
    }, inMs).unref();
  }

  #read(id: string): void {
    const { digests, tracks, trackStore, recordings, acceptedFindings } = this.#parts;
    try {
      const { track, revision } = tracks.get(id);
      const durationMs = recordings.find(track.recordingId)?.durationMs ?? 0;
      const text = joinWords(track.words);
      const stands = acceptedFindings.reasonsOf(track.id);
      const findingCount = checkCues(track, durationMs).filter(({ key }) => !stands.has(key)).length;
      digests.put(id, { revision, findingCount, text, content: sha256Of(contentOf(track)) });
    } catch (error) {
      // What of it cannot be read is told where it is opened; here it must not come up again and again.
      if (!(error instanceof ApiProblem)) throw error;
      digests.put(id, { revision: trackStore.findSummary(id)!.revision, findingCount: 0, text: null, content: null });
    }
  }
}
