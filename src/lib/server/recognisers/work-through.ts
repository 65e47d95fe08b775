/** Engines in processes of their own, working through a list. */
import { availableParallelism } from 'node:os';
import { isDiskFull } from '../problem';

/** What is given to an engine is given this many times before it is left. */
const TRIES = 2;

/** An engine cannot work on this machine at all. */
export class EngineUnable extends Error {}

interface Engine {
  /** Resolves when it can be asked. Rejects with `EngineUnable` where no other one could either. */
  ready(): Promise<void>;
  end(): void;
}

export interface Work<E extends Engine, Item> {
  /** How many there are, at most. */
  readonly count: number;
  /** The next one that is to be done; `null` where there is none. */
  readonly next: () => Item | null;
  /** At most so many engines at once; left out: one a core. */
  readonly engines?: number;
  readonly start: (signal: AbortSignal) => E;
  readonly signal: AbortSignal;
  readonly run: (engine: E, item: Item) => Promise<void>;
  /** Called for an item that failed on every try. */
  readonly giveUp: (item: Item) => void;
}

/** Items that are all this work's own. */
export function inOrder<Item>(items: readonly Item[]): Pick<Work<Engine, Item>, 'count' | 'next'> {
  const left = items[Symbol.iterator]();
  return { count: items.length, next: () => left.next().value ?? null };
}

/**
 * Gives the items to engines. Resolves when each was done or given up; rejects when aborted, and where one
 * engine cannot work at all or what is done with its work fails: then the others stop with it.
 */
export async function workThrough<E extends Engine, Item>(asked: Work<E, Item>): Promise<void> {
  const { count, next, engines = availableParallelism(), start, signal, run, giveUp } = asked;
  signal.throwIfAborted();
  const stopping = new AbortController();
  const either = AbortSignal.any([signal, stopping.signal]);

  const work = async (): Promise<void> => {
    let engine: E | null = null;
    try {
      for (let item = next(); item !== null; item = next()) {
        for (let tries = 1; tries <= TRIES; tries++) {
          either.throwIfAborted();
          try {
            if (engine === null) {
              engine = start(either);
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

  await Promise.all(Array.from({ length: Math.min(engines, count) }, work));
  signal.throwIfAborted();
}
