/** One stream of what happens to all jobs, tracks, trims and recordings, with a memory for those who come back. */
import type { TrackId } from '$lib/core/id';
import { randomUUID } from 'node:crypto';

export type ServerEvent =
  | { readonly name: 'job'; readonly data: unknown; readonly jobId: string }
  | { readonly name: 'track'; readonly data: { readonly trackId: TrackId; readonly revision: number } }
  | { readonly name: 'trim'; readonly data: { readonly trimId: string; readonly revision: number } }
  | { readonly name: 'recordings'; readonly data: { readonly recordingId: string } };

export interface NumberedEvent {
  /** `BOOT-NUMBER`: numbers of another start of the server mean nothing. */
  readonly id: string;
  readonly event: ServerEvent;
}

const REMEMBERED = 2000;

export class EventStream {
  readonly #boot = randomUUID().slice(0, 8);
  readonly #past: NumberedEvent[] = [];
  readonly #listeners = new Set<(event: NumberedEvent) => void>();
  #count = 0;

  send(event: ServerEvent): void {
    const numbered = { id: `${this.#boot}-${++this.#count}`, event };
    this.#past.push(numbered);
    if (this.#past.length > REMEMBERED) this.#past.shift();
    for (const listener of this.#listeners) {
      try {
        listener(numbered);
      } catch (error) {
        // The event has already happened, so a listener that throws must not fail the sender.
        console.error('a listener to events failed:', error);
      }
    }
  }

  listen(listener: (event: NumberedEvent) => void): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }

  /** What came after the event with this id; `null` where that cannot be known any more. */
  since(id: string): readonly NumberedEvent[] | null {
    if (id === `${this.#boot}-${this.#count}`) return [];
    const at = this.#past.findIndex((event) => event.id === id);
    return at < 0 ? null : this.#past.slice(at + 1);
  }
}
