/** PocketSphinx in processes of its own, one a core: a fault of the native library costs one chunk. */
import { fork, type ChildProcess } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { spellTerms } from '$lib/core/expecting';
import { processFile } from '../../process-file';
import type { EngineFacts, HearRequest, Recogniser } from '../recogniser';
import { writeExpected, type Expected } from './expect';
import { fromEngine, type ToEngine } from './messages';

/** A chunk is given to an engine this many times before it is left as a hole. */
const TRIES = 2;
/** A chunk that takes this many times its own length is taken for a hang. */
const SLOWEST = 12;

export class EngineUnable extends Error {}

interface Waiting {
  readonly chunk: HearRequest['chunks'][number];
  tries: number;
}

export class PocketSphinx implements Recogniser {
  #facts: Promise<EngineFacts> | undefined;

  facts(): Promise<EngineFacts> {
    this.#facts ??= this.#look();
    return this.#facts;
  }

  async #look(): Promise<EngineFacts> {
    const about = {
      id: 'pocketsphinx-en-us',
      name: 'PocketSphinx, US English, on this machine',
      kind: 'local',
      languages: ['en-US']
    } as const;
    const engine = startEngine(null);
    try {
      await whenReady(engine);
      return { ...about, available: true };
    } catch (error) {
      this.#facts = undefined;
      return { ...about, available: false, reason: error instanceof Error ? error.message : String(error) };
    } finally {
      engine.kill('SIGKILL');
    }
  }

  async hear(request: HearRequest): Promise<void> {
    const expected = request.terms.length === 0 ? null : await writeExpected(request.terms, request.scratchFolder);
    try {
      await this.#hear(request, expected);
    } finally {
      await expected?.remove();
    }
  }

  async #hear(request: HearRequest, expected: Expected | null): Promise<void> {
    const waiting: Waiting[] = request.chunks.map((chunk) => ({ chunk, tries: 0 }));
    const engines = new Set<ChildProcess>();
    const heardMs = new Map<number, number>();
    const stop = (): void => {
      for (const engine of engines) engine.kill('SIGKILL');
    };
    request.signal.addEventListener('abort', stop, { once: true });

    const work = async (): Promise<void> => {
      let engine: ChildProcess | null = null;
      try {
        for (let next = waiting.shift(); next !== undefined; next = waiting.shift()) {
          request.signal.throwIfAborted();
          try {
            if (engine === null) {
              engine = startEngine(expected);
              engines.add(engine);
              await whenReady(engine);
            }
            const words = await hearChunk(engine, request.soundPath, next.chunk, (ms) => {
              heardMs.set(next.chunk.position, ms);
              request.onHeard([...heardMs.values()].reduce((sum, one) => sum + one, 0));
            });
            request.onChunk(next.chunk.position, spellTerms(words, request.terms));
          } catch (error) {
            request.signal.throwIfAborted();
            if (error instanceof EngineUnable) throw error;
            engine?.kill('SIGKILL');
            if (engine !== null) engines.delete(engine);
            engine = null;
            next.tries++;
            if (next.tries < TRIES) waiting.unshift(next);
            else request.onChunk(next.chunk.position, null);
          }
        }
      } finally {
        engine?.kill('SIGKILL');
      }
    };

    try {
      const count = Math.min(availableParallelism(), request.chunks.length);
      await Promise.all(Array.from({ length: count }, work));
      request.signal.throwIfAborted();
    } finally {
      request.signal.removeEventListener('abort', stop);
      stop();
    }
  }
}

function startEngine(expected: Expected | null): ChildProcess {
  const engine = fork(processFile('engine'), { stdio: ['ignore', 'ignore', 'ignore', 'ipc'], execArgv: [] });
  engine.send({ type: 'load', expected: expected?.files ?? null } satisfies ToEngine);
  return engine;
}

/** Resolves when the engine has loaded its model. */
function whenReady(engine: ChildProcess): Promise<void> {
  return listen(engine, 60_000, (message, resolve, reject) => {
    if (message.type === 'ready') resolve(undefined);
    if (message.type === 'unable') reject(new EngineUnable(message.reason));
  });
}

function hearChunk(
  engine: ChildProcess,
  soundPath: string,
  chunk: HearRequest['chunks'][number],
  onHeard: (ms: number) => void
) {
  const ask: ToEngine = {
    type: 'hear',
    position: chunk.position,
    soundPath,
    startMs: chunk.startMs,
    endMs: chunk.endMs
  };
  engine.send(ask);
  const limitMs = 20_000 + (chunk.endMs - chunk.startMs) * SLOWEST;
  return listen<Extract<ReturnType<typeof fromEngine.parse>, { type: 'heard' }>['words']>(
    engine,
    limitMs,
    (message, resolve) => {
      if (message.type === 'progress') onHeard(message.heardMs);
      if (message.type === 'heard') resolve(message.words);
    }
  );
}

/** Takes the engine's messages until one settles the promise; its end, or its silence for too long, rejects it. */
function listen<T>(
  engine: ChildProcess,
  limitMs: number,
  onMessage: (
    message: ReturnType<typeof fromEngine.parse>,
    resolve: (value: T) => void,
    reject: (error: Error) => void
  ) => void
): Promise<T> {
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
