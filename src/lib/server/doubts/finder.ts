/** Doubts are looked for in a process of its own, which keeps its dictionaries for the next time. */
import { fork, type ChildProcess } from 'node:child_process';
import type { Doubt } from '$lib/core/doubts';
import type { Term } from '$lib/core/expecting';
import type { Track } from '$lib/core/track';
import { processFile } from '../process-file';
import { fromFinder, type ToFinder } from './messages';

/** Nobody has asked for as long: its memory is given back. */
const IDLE_MS = 120_000;

export class DoubtFinder {
  #process: ChildProcess | null = null;
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
    this.#process?.kill('SIGKILL');
    this.#process = null;
  }

  #open(): ChildProcess {
    clearTimeout(this.#idle);
    if (this.#process !== null) return this.#process;
    const child = fork(processFile('doubts'), { stdio: ['ignore', 'ignore', 'ignore', 'ipc'], execArgv: [] });
    child.on('message', (raw) => {
      const said = fromFinder.parse(raw);
      const waiting = this.#waiting.get(said.id);
      this.#waiting.delete(said.id);
      if (said.type === 'found') waiting?.resolve(said.doubts);
      else waiting?.reject(new Error(said.reason));
      if (this.#waiting.size === 0) this.#idle = setTimeout(() => this.close(), IDLE_MS).unref();
    });
    child.once('exit', (code, signal) => {
      // One that was sent away has nobody waiting; another may be at work by now.
      if (this.#process !== child) return;
      this.#process = null;
      for (const { reject } of this.#waiting.values())
        reject(new Error(`the process that looks for doubts ended (${signal ?? code})`));
      this.#waiting.clear();
    });
    this.#process = child;
    return child;
  }
}
