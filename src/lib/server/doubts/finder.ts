/** Doubts are looked for in a process of its own, which keeps its dictionaries for the next time. */
import type { Doubt } from '$lib/core/doubts';
import type { Term } from '$lib/core/expecting';
import type { Track } from '$lib/core/track';
import { Child, failureOf } from '../children';
import { fromFinder, type FromFinder, type ToFinder } from './messages';

/** After this long without a request the process ends and frees its memory. */
const IDLE_MS = 120_000;

export class DoubtFinder {
  #process: Child<FromFinder> | null = null;
  #idle: ReturnType<typeof setTimeout> | undefined;
  #asked = 0;
  readonly #waiting = new Map<
    number,
    { resolve: (doubts: readonly Doubt[]) => void; reject: (error: Error) => void }
  >();

  /** Rejects where the process cannot work; the next call starts another. */
  find(track: Track, terms: readonly Term[]): Promise<readonly Doubt[]> {
    const id = this.#asked++;
    const asked: ToFinder = { id, track, terms: [...terms] };
    return new Promise((resolve, reject) => {
      this.#waiting.set(id, { resolve, reject });
      this.#open().send(asked);
    });
  }

  close(): void {
    clearTimeout(this.#idle);
    this.#process?.end();
    this.#process = null;
  }

  #open(): Child<FromFinder> {
    clearTimeout(this.#idle);
    if (this.#process !== null) return this.#process;
    const child: Child<FromFinder> = Child.program('doubts', {
      said: {
        schema: fromFinder,
        take: (said) => {
          const waiting = this.#waiting.get(said.id);
          this.#waiting.delete(said.id);
          if (said.type === 'found') waiting?.resolve(said.doubts);
          else waiting?.reject(new Error(said.reason));
          if (this.#waiting.size === 0) this.#idle = setTimeout(() => this.close(), IDLE_MS).unref();
        }
      }
    });
    void child.ended.then((end) => {
      // Nobody waits for a process that was ended, and another may have taken its place.
      if (this.#process !== child) return;
      this.#process = null;
      for (const { reject } of this.#waiting.values()) reject(failureOf('the process that looks for doubts', end));
      this.#waiting.clear();
    });
    this.#process = child;
    return child;
  }
}
