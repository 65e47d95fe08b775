/** Doubts are looked for in a process of its own, which keeps its dictionaries for the next time. */
import type { Doubt } from '$lib/core/doubts';
import type { Term } from '$lib/core/expecting';
import type { Track } from '$lib/core/track';
import { Child, failureOf } from '../children';
import { fromFinder, type FromFinder, type ToFinder } from './messages';

/** After this long without a request the process ends and frees its memory. */
const IDLE_MS = 120_000;

interface Waiting {
  readonly resolve: (doubts: readonly Doubt[]) => void;
  readonly reject: (error: Error) => void;
  readonly onProgress: (share: number) => void;
}

export class DoubtFinder {
  #process: Child<FromFinder> | null = null;
  #idle: ReturnType<typeof setTimeout> | undefined;
  #asked = 0;
  readonly #waiting = new Map<number, Waiting>();

  /** Rejects when aborted, and where the process cannot work; the next call starts another. */
  async find(
    track: Track,
    terms: readonly Term[],
    { signal, onProgress }: { readonly signal: AbortSignal; readonly onProgress: (share: number) => void }
  ): Promise<readonly Doubt[]> {
    signal.throwIfAborted();
    const id = this.#asked++;
    const asked: ToFinder = { id, track, terms: [...terms] };
    const giveUp = (): void => {
      this.#waiting.get(id)?.reject(signal.reason as Error);
      this.#waiting.delete(id);
      // It cannot be stopped in the middle; nobody waits for what it would find.
      if (this.#waiting.size === 0) this.close();
    };
    signal.addEventListener('abort', giveUp, { once: true });
    try {
      return await new Promise<readonly Doubt[]>((resolve, reject) => {
        this.#waiting.set(id, { resolve, reject, onProgress });
        this.#open().send(asked);
      });
    } finally {
      signal.removeEventListener('abort', giveUp);
    }
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
          if (said.type === 'far') return waiting?.onProgress(said.share);
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
