/**
 * Files on their way to the server: a queue of the application, not of a page, that goes on while its user works
 * elsewhere, and where it broke off. One is sent at a time.
 */
import { messageOf } from '$lib/core/message-of';
import type { Recording } from './api';
import { dropInterrupted, findInterrupted, sendFile } from './sending';

export interface Upload {
  readonly key: number;
  readonly name: string;
  /** `broken`: the connection is lost and tried again; `interrupted`: it goes on when its file is chosen again. */
  readonly state: 'waiting' | 'sending' | 'broken' | 'interrupted' | 'done' | 'refused';
  /** 0 to 1; at 1 the server reads it. */
  readonly progress: number;
  /** Why it was refused. */
  readonly problem: string | null;
  /** What it has become. */
  readonly recording: Recording | null;
}

interface Waiting {
  readonly key: number;
  readonly file: File;
  readonly cutOf: string | null;
  readonly stop: AbortController;
}

class Uploads {
  list: readonly Upload[] = $state.raw([]);
  #keys = 0;
  #queue: readonly Waiting[] = [];
  /** Where the browser remembers those that were interrupted, and how large they are. */
  readonly #interrupted = new Map<number, { readonly stored: string; readonly bytes: number }>();
  #isSending = false;

  /** Lists what was begun in this browser before and is not whole. */
  async look(): Promise<void> {
    const known = new Set([...this.#interrupted.values()].map(({ stored }) => stored));
    for (const { key: stored, name, bytes, share } of await findInterrupted()) {
      if (known.has(stored)) continue;
      const key = this.#list(name, 'interrupted', share);
      this.#interrupted.set(key, { stored, bytes });
    }
  }

  /** `cutOf`: the recording that they are the next cut of. */
  add(files: Iterable<File>, cutOf: string | null = null): void {
    for (const file of files) {
      const before = this.list.find(
        ({ key, name }) => name === file.name && this.#interrupted.get(key)?.bytes === file.size
      );
      if (before !== undefined) this.dismiss(before.key);
      const key = this.#list(file.name, 'waiting', before?.progress ?? 0);
      this.#queue = [...this.#queue, { key, file, cutOf, stop: new AbortController() }];
    }
    void this.#send();
  }

  /** Stops one that waits, is being sent or was interrupted; nothing is left of it. */
  cancel(key: number): void {
    this.#queue.find((one) => one.key === key)?.stop.abort();
    this.#queue = this.#queue.filter((one) => one.key !== key);
    const interrupted = this.#interrupted.get(key);
    // A server that cannot be reached clears it away by itself.
    if (interrupted !== undefined) dropInterrupted(interrupted.stored).catch(() => undefined);
    this.dismiss(key);
  }

  dismiss(key: number): void {
    this.#interrupted.delete(key);
    this.list = this.list.filter((upload) => upload.key !== key);
  }

  readonly unfinished: readonly Upload[] = $derived(
    this.list.filter(({ state }) => state === 'waiting' || state === 'sending' || state === 'broken')
  );

  #list(name: string, state: Upload['state'], progress: number): number {
    const key = this.#keys++;
    this.list = [...this.list, { key, name, state, progress, problem: null, recording: null }];
    return key;
  }

  #change(key: number, to: Partial<Upload>): void {
    this.list = this.list.map((upload) => (upload.key === key ? { ...upload, ...to } : upload));
  }

  async #send(): Promise<void> {
    if (this.#isSending) return;
    this.#isSending = true;
    for (let next = this.#queue[0]; next !== undefined; next = this.#queue[0]) {
      const { key, file, cutOf, stop } = next;
      this.#change(key, { state: 'sending' });
      try {
        const recording = await sendFile(file, {
          cutOf,
          signal: stop.signal,
          onProgress: (progress) => this.#change(key, { state: 'sending', progress }),
          onBroken: () => this.#change(key, { state: 'broken' })
        });
        this.#change(key, { state: 'done', progress: 1, recording });
      } catch (error) {
        if (!stop.signal.aborted) this.#change(key, { state: 'refused', problem: messageOf(error) });
      }
      this.#queue = this.#queue.filter((one) => one.key !== key);
    }
    this.#isSending = false;
  }
}

export const uploads = new Uploads();
