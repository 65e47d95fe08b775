/** One engine in a process of its own, and many working through a list: a fault of the native library costs one try. */
import { fork, type ChildProcess } from 'node:child_process';
import { availableParallelism } from 'node:os';
import type { Span } from '$lib/core/time';
import { processFile } from '../../process-file';
import { fromEngine, type ExpectedFiles, type FromEngine, type Purpose, type ToEngine } from './messages';

/** What is given to an engine is given this many times before it is left. */
const TRIES = 2;
/** A stretch that takes this many times its own length is taken for a hang. */
const SLOWEST = 12;

/** An engine cannot work on this machine at all. */
export class EngineUnable extends Error {}

/** A stretch of a file of 16-bit mono sound at 16 kHz. */
export interface Stretch extends Span {
  readonly position: number;
  readonly soundPath: string;
}

type Answer<T extends FromEngine['type']> = Extract<FromEngine, { type: T }>;

export class EngineProcess {
  readonly #process: ChildProcess;

  constructor(purpose: Purpose, expected: ExpectedFiles | null) {
    this.#process = fork(processFile('engine'), { stdio: ['ignore', 'ignore', 'ignore', 'ipc'], execArgv: [] });
    this.#send({ type: 'load', purpose, expected });
  }

  /** Resolves when the model is loaded. */
  ready(): Promise<void> {
    return this.#listen(60_000, (message, resolve, reject) => {
      if (message.type === 'ready') resolve(undefined);
      if (message.type === 'unable') reject(new EngineUnable(message.reason));
    });
  }

  hear(stretch: Stretch, others: number, onHeard: (heardMs: number) => void): Promise<Answer<'heard'>> {
    this.#send({ type: 'hear', ...sent(stretch), others });
    return this.#listen(longestMs(stretch), (message, resolve) => {
      if (message.type === 'progress') onHeard(message.heardMs);
      if (message.type === 'heard') resolve(message);
    });
  }

  fit(stretch: Stretch, words: Extract<ToEngine, { type: 'fit' }>['words']): Promise<Answer<'fitted'>> {
    this.#send({ type: 'fit', ...sent(stretch), words });
    return this.#listen(longestMs(stretch), (message, resolve) => {
      if (message.type === 'fitted') resolve(message);
    });
  }

  end(): void {
    this.#process.kill('SIGKILL');
  }

  #send(message: ToEngine): void {
    this.#process.send(message);
  }

  /** Takes the engine's messages until one settles the promise; its end, or its silence for too long, rejects it. */
  #listen<T>(
    limitMs: number,
    onMessage: (message: FromEngine, resolve: (value: T) => void, reject: (error: Error) => void) => void
  ): Promise<T> {
    const engine = this.#process;
    return new Promise((resolve, reject) => {
      const settle =
        <A>(finish: (value: A) => void) =>
        (value: A): void => {
          clearTimeout(timer);
          engine.off('message', take);
          engine.off('exit', ended);
          engine.off('error', failed);
          finish(value);
        };
      const done = settle<T>(resolve);
      const failed = settle<Error>(reject);
      const take = (raw: unknown): void => onMessage(fromEngine.parse(raw), done, failed);
      const ended = (code: number | null, signal: string | null): void =>
        failed(new Error(`the engine process ended (${signal ?? code})`));
      const timer = setTimeout(() => failed(new Error('the engine process no longer answers')), limitMs);
      engine.on('message', take);
      engine.once('exit', ended);
      engine.once('error', failed);
    });
  }
}

const sent = ({ position, soundPath, startMs, endMs }: Stretch): Stretch => ({ position, soundPath, startMs, endMs });
const longestMs = (stretch: Span): number => 20_000 + (stretch.endMs - stretch.startMs) * SLOWEST;

export interface Work<Item> {
  readonly items: readonly Item[];
  readonly purpose: Purpose;
  readonly expected: ExpectedFiles | null;
  readonly signal: AbortSignal;
  readonly run: (engine: EngineProcess, item: Item) => Promise<void>;
  /** Called for an item that failed on every try. */
  readonly giveUp: (item: Item) => void;
}

/** Gives the items to engines, one a core. Resolves when each was done or given up; rejects when aborted or unable. */
export async function workThrough<Item>({ items, purpose, expected, signal, run, giveUp }: Work<Item>): Promise<void> {
  const waiting = items.map((item) => ({ item, tries: 0 }));
  const engines = new Set<EngineProcess>();
  const stop = (): void => {
    for (const engine of engines) engine.end();
  };
  signal.addEventListener('abort', stop, { once: true });

  const work = async (): Promise<void> => {
    let engine: EngineProcess | null = null;
    for (let next = waiting.shift(); next !== undefined; next = waiting.shift()) {
      signal.throwIfAborted();
      try {
        if (engine === null) {
          engine = new EngineProcess(purpose, expected);
          engines.add(engine);
          await engine.ready();
        }
        await run(engine, next.item);
      } catch (error) {
        signal.throwIfAborted();
        if (error instanceof EngineUnable) throw error;
        engine?.end();
        engine = null;
        next.tries++;
        if (next.tries < TRIES) waiting.unshift(next);
        else giveUp(next.item);
      }
    }
  };

  try {
    const count = Math.min(availableParallelism(), items.length);
    await Promise.all(Array.from({ length: count }, work));
    signal.throwIfAborted();
  } finally {
    signal.removeEventListener('abort', stop);
    stop();
  }
}
