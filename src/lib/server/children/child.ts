/**
 * The one way to a child process: a tool of the system, or a program that is built beside the app. Its end, its faults
 * and its messages are always heard, its life and its memory are bounded, and it is in the register while it lives.
 */
import { fork, spawn, type ChildProcess } from 'node:child_process';
import { PassThrough, Writable, type Readable, type Stream } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { z } from 'zod';
import { messageOf } from '$lib/core/message-of';
import { programFile } from './program-file';
import { forgetChild, noteChild, residentBytes } from './register';

/** How a child came to its end. */
export interface End {
  readonly code: number | null;
  readonly signal: string | null;
  /** Why it was ended, or could not begin; `null` where it ended by itself. */
  readonly problem: Error | null;
  /** The end of what it said on its error output. */
  readonly lastWords: string;
}

export interface ChildOptions<M> {
  readonly signal?: AbortSignal | undefined;
  /** It is ended after as long, and where it takes more memory. */
  readonly longestMs?: number;
  readonly mostBytes?: number;
  /** What it reads; where it ends before that does, the rest is let go. */
  readonly input?: Readable;
  /** The same, by its descriptor 3. */
  readonly secondInput?: Readable;
  /** What a program may say, and who hears it. Whatever goes wrong there ends the child, with that as its problem. */
  readonly said?: { readonly schema: z.ZodType<M>; readonly take: (message: M) => void };
}

/** More than any of our programs needs for a day of sound. */
const MOST_BYTES = 3_000_000_000;
const LONGEST_MS = 24 * 3_600_000;
const LOOK_MS = 2000;
const LAST_WORDS = 4000;
const HELD_BYTES = 1_000_000;

export class Child<M = never> {
  /** Resolves, never rejects, when the process and its outputs have ended. */
  readonly ended: Promise<End>;
  readonly #process: ChildProcess;
  readonly #said: PassThrough | null = null;
  #problem: Error | null = null;
  #lastWords = '';

  private constructor(process: ChildProcess, options: ChildOptions<M>) {
    this.#process = process;
    const { signal, longestMs = LONGEST_MS, mostBytes = MOST_BYTES, said } = options;
    const { pid } = process;
    if (pid !== undefined) noteChild(pid);
    const abort = (): void => this.end(signal?.reason as Error);
    signal?.addEventListener('abort', abort, { once: true });
    const tooLong = (): void => this.end(new Error(`it took longer than ${Math.round(longestMs / 1000)} s`));
    const timer = setTimeout(tooLong, longestMs);
    timer.unref();
    const look = setInterval(() => {
      if (pid !== undefined && residentBytes(pid) > mostBytes)
        this.end(new Error(`it took more than ${Math.round(mostBytes / 1e6)} MB of memory`));
    }, LOOK_MS);
    look.unref();
    process.stderr?.setEncoding('utf8').on('data', (text: string) => {
      this.#lastWords = (this.#lastWords + text).slice(-LAST_WORDS);
    });
    if (process.stdout !== null) {
      // What a process has said when it ends, and nobody reads yet, Node lets go: it is held from the start.
      this.#said = new PassThrough({ highWaterMark: HELD_BYTES });
      pipeline(process.stdout, this.#said).catch(() => undefined);
    }
    for (const output of [process.stdout, process.stderr])
      output?.on('error', (error: Error) => (this.#problem ??= error));
    process.on('message', (raw) => {
      if (said === undefined || this.#problem !== null) return;
      const message = said.schema.safeParse(raw);
      if (!message.success) return this.end(new Error('it said what was not expected', { cause: message.error }));
      try {
        said.take(message.data);
      } catch (error) {
        this.end(error instanceof Error ? error : new Error(messageOf(error)));
      }
    });
    // Sending to a process that has just ended is no error.
    process.on('error', (error) => (this.#problem ??= error));
    this.ended = new Promise((resolve) => {
      const finish = (code: number | null, by: string | null): void => {
        signal?.removeEventListener('abort', abort);
        clearTimeout(timer);
        clearInterval(look);
        if (pid !== undefined) forgetChild(pid);
        resolve({ code, signal: by, problem: this.#problem, lastWords: this.#lastWords.trim() });
      };
      process.once('close', finish);
      // A process that could not start never emits `close`.
      if (pid === undefined) process.once('error', () => finish(null, null));
    });
    if (signal?.aborted === true) abort();
  }

  /** A program of the system, by its name and an array of arguments. Its output comes as `stdout`. */
  static tool(name: string, args: readonly string[], options: ChildOptions<never> = {}): Child {
    const { input, secondInput } = options;
    const pipeFor = (given: Readable | undefined): 'pipe' | 'ignore' => (given === undefined ? 'ignore' : 'pipe');
    const process = spawn(name, args, { stdio: [pipeFor(input), 'pipe', 'pipe', pipeFor(secondInput)] });
    const child = new Child(process, options);
    // A pipe that breaks is one of the two processes' end, which says why.
    const feed = (given: Readable | undefined, into: Stream | null | undefined): void => {
      if (given !== undefined && into instanceof Writable) pipeline(given, into).catch(() => undefined);
    };
    feed(input, process.stdin);
    feed(secondInput, process.stdio[3]);
    return child;
  }

  /** A program that is built beside the app and talks by messages; what it `writes` comes as `stdout`. */
  static program<M>(name: string, options: ChildOptions<M> & { readonly writes?: true }): Child<M> {
    const stdio = ['ignore', options.writes === true ? 'pipe' : 'ignore', 'pipe', 'ipc'] as const;
    return new Child(fork(programFile(name), { stdio: [...stdio], execArgv: [] }), options);
  }

  get stdout(): Readable {
    return this.#said!;
  }

  send(message: object): void {
    this.#process.send(message, (error) => {
      if (error !== null) this.#problem ??= error;
    });
  }

  /** Ends it at once; `why` becomes its problem. */
  end(why: Error | null = null): void {
    if (why !== null) this.#problem ??= why;
    this.#process.kill('SIGKILL');
  }
}

/** Says how a child ended that should not have: its problem, else its code with its last words. */
export function failureOf(name: string, { code, signal, problem, lastWords }: End): Error {
  // Handling a message may fail as well, which is not the child's fault.
  if (problem !== null) return problem;
  return Object.assign(new Error(`${name} ended (${signal ?? code}): ${lastWords}`), {
    // A full disk is reported as a full disk.
    ...(/ENOSPC|No space left on device/.test(lastWords) && { code: 'ENOSPC' })
  });
}
