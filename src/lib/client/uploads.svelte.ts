/**
 * Files on their way to the server: a queue of the application, not of a page, that goes on while its user works
 * elsewhere. One is sent at a time.
 */
import { messageOf } from '$lib/core/message-of';
import { uploadRecording, type Recording } from './api';

export interface Upload {
  readonly key: number;
  readonly name: string;
  readonly state: 'waiting' | 'sending' | 'done' | 'refused';
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
  #isSending = false;

  /** `cutOf`: the recording that they are the next cut of. */
  add(files: Iterable<File>, cutOf: string | null = null): void {
    for (const file of files) {
      const key = this.#keys++;
      this.#queue = [...this.#queue, { key, file, cutOf, stop: new AbortController() }];
      const upload = { key, name: file.name, state: 'waiting', progress: 0, problem: null, recording: null } as const;
      this.list = [...this.list, upload];
    }
    void this.#send();
  }

  /** Stops one that waits or is being sent; nothing is left of it. */
  cancel(key: number): void {
    this.#queue.find((one) => one.key === key)?.stop.abort();
    this.#queue = this.#queue.filter((one) => one.key !== key);
    this.dismiss(key);
  }

  dismiss(key: number): void {
    this.list = this.list.filter((upload) => upload.key !== key);
  }

  readonly unfinished: readonly Upload[] = $derived(
    this.list.filter(({ state }) => state === 'waiting' || state === 'sending')
  );

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
        const onProgress = (progress: number): void => this.#change(key, { progress });
        const recording = await uploadRecording(file, { onProgress, signal: stop.signal, cutOf });
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
