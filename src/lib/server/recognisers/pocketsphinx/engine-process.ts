/** One engine in a process of its own, and many working through a list: a fault of the native library costs one try. */
import { availableParallelism } from 'node:os';
import type { Span } from '$lib/core/time';
import { isDiskFull } from '../../problem';
import { Child, failureOf } from '../../children';
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

interface Waiting {
  readonly take: (message: FromEngine) => void;
  readonly fail: (error: Error) => void;
}

export class EngineProcess {
  readonly #child: Child<FromEngine>;
  #waiting: Waiting | null = null;
  #failure: Error | null = null;

  constructor(purpose: Purpose, expected: ExpectedFiles | null, signal?: AbortSignal) {
    this.#child = Child.program('engine', {
      signal,
      said: { schema: fromEngine, take: (message) => this.#waiting?.take(message) }
    });
    void this.#child.ended.then((end) => {
      this.#failure = failureOf('the engine process', end);
      this.#waiting?.fail(this.#failure);
    });
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
    this.#child.end();
  }

  #send(message: ToEngine): void {
    this.#child.send(message);
  }

  /** Takes the engine's messages until one settles the promise; its end, or its silence for too long, rejects it. */
  #listen<T>(
    limitMs: number,
    onMessage: (message: FromEngine, resolve: (value: T) => void, reject: (error: Error) => void) => void
  ): Promise<T> {
    let timer: ReturnType<typeof setTimeout> | undefined;
    return new Promise<T>((resolve, reject) => {
      if (this.#failure !== null) return reject(this.#failure);
      timer = setTimeout(() => this.#child.end(new Error('the engine process no longer answers')), limitMs);
      this.#waiting = { take: (message) => onMessage(message, resolve, reject), fail: reject };
    }).finally(() => {
      clearTimeout(timer);
      this.#waiting = null;
    });
  }
}

const sent = ({ position, soundPath, startMs, endMs }: Stretch): Stretch => ({ position, soundPath, startMs, endMs });
const longestMs = (stretch: Span): number => 20_000 + (stretch.endMs - stretch.startMs) * SLOWEST;

export interface Work<Item> {
  /** How many there are, at most. */
  readonly count: number;
  /** The next one that is to be done; `null` where there is none. */
  readonly next: () => Item | null;
  readonly purpose: Purpose;
  readonly expected: ExpectedFiles | null;
  readonly signal: AbortSignal;
  readonly run: (engine: EngineProcess, item: Item) => Promise<void>;
  /** Called for an item that failed on every try. */
  readonly giveUp: (item: Item) => void;
}

/** Items that are all this work's own. */
export function inOrder<Item>(items: readonly Item[]): Pick<Work<Item>, 'count' | 'next'> {
  const left = items[Symbol.iterator]();
  return { count: items.length, next: () => left.next().value ?? null };
}

/**
 * Gives the items to engines, one a core. Resolves when each was done or given up; rejects when aborted, and where one
 * engine cannot work at all or what is done with its work fails: then the others stop with it.
 */
export async function workThrough<Item>(asked: Work<Item>): Promise<void> {
  const { count, next, purpose, expected, signal, run, giveUp } = asked;
  signal.throwIfAborted();
  const stopping = new AbortController();
  const either = AbortSignal.any([signal, stopping.signal]);

  const work = async (): Promise<void> => {
    let engine: EngineProcess | null = null;
    try {
      for (let item = next(); item !== null; item = next()) {
        for (let tries = 1; tries <= TRIES; tries++) {
          either.throwIfAborted();
          try {
            if (engine === null) {
              engine = new EngineProcess(purpose, expected, either);
              await engine.ready();
            }
            await run(engine, item);
            break;
          } catch (error) {
            either.throwIfAborted();
            if (error instanceof EngineUnable || isDiskFull(error)) throw error;
            engine?.end();
            engine = null;
            if (tries === TRIES) giveUp(item);
          }
        }
      }
    } catch (error) {
      stopping.abort(error);
      throw error;
    } finally {
      engine?.end();
    }
  };

  await Promise.all(Array.from({ length: Math.min(availableParallelism(), count) }, work));
  signal.throwIfAborted();
}
