/** A model in a process of its own. */
import type { ReadStretch } from '$lib/core/ears';
import type { Span } from '$lib/core/time';
import { Conversation } from '../conversation';
import { EngineUnable } from '../work-through';
import { fromEar, type FromEar, type LoadedModel, type ToEar } from './messages';

/** Gigabytes from a slow disk. */
const LOAD_MS = 300_000;
/** A stretch that takes this many times its own length is taken for a hang. */
const SLOWEST = 30;
/** What a process takes beside its model. */
const BESIDE_BYTES = 1_500_000_000;
/** A model takes more than its file: what it reckons with comes to it. */
const GROWTH = 2;

export class EarProcess {
  readonly #conversation: Conversation<ToEar, FromEar>;
  readonly #loaded: Promise<void>;

  constructor(
    model: LoadedModel,
    { sizeBytes, signal }: { readonly sizeBytes: number; readonly signal?: AbortSignal }
  ) {
    this.#conversation = new Conversation('ear', {
      name: 'the process of the model',
      answers: fromEar,
      mostBytes: BESIDE_BYTES + GROWTH * sizeBytes,
      signal
    });
    this.#loaded = this.#conversation.ask({ type: 'load', model }, LOAD_MS, (message, resolve, reject) => {
      if (message.type === 'ready') resolve(undefined);
      if (message.type === 'unable') reject(new EngineUnable(message.reason));
    });
    // Whoever waits for it is told.
    this.#loaded.catch(() => undefined);
  }

  /** Resolves when the model is loaded. */
  ready(): Promise<void> {
    return this.#loaded;
  }

  hear({
    soundPath,
    startMs,
    endMs
  }: Span & { readonly soundPath: string }): Promise<Extract<FromEar, { type: 'heard' }>> {
    const longestMs = 20_000 + (endMs - startMs) * SLOWEST;
    return this.#conversation.ask({ type: 'hear', soundPath, startMs, endMs }, longestMs, (message, resolve) => {
      if (message.type === 'heard') resolve(message);
    });
  }

  /** What it makes of a second of a tone: nothing that means anything, but it has to survive it. */
  probe(): Promise<ReadStretch> {
    return this.#conversation.ask({ type: 'probe' }, 20_000 + 1000 * SLOWEST, (message, resolve) => {
      if (message.type === 'heard') resolve(message.read);
    });
  }

  end(): void {
    this.#conversation.end();
  }
}
