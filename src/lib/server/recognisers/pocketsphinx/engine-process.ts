/** One engine in a process of its own. */
import type { Span } from '$lib/core/time';
import { Conversation } from '../conversation';
import { EngineUnable } from '../work-through';
import { fromEngine, type ExpectedFiles, type FromEngine, type Purpose, type ToEngine } from './messages';

const LOAD_MS = 60_000;
/** A stretch that takes this many times its own length is taken for a hang. */
const SLOWEST = 12;

/** A stretch of a file of 16-bit mono sound at 16 kHz. */
export interface Stretch extends Span {
  readonly position: number;
  readonly soundPath: string;
}

type Answer<T extends FromEngine['type']> = Extract<FromEngine, { type: T }>;

export class EngineProcess {
  readonly #conversation: Conversation<ToEngine, FromEngine>;
  readonly #loaded: Promise<void>;

  constructor(purpose: Purpose, expected: ExpectedFiles | null, signal?: AbortSignal) {
    this.#conversation = new Conversation('engine', { name: 'the engine process', answers: fromEngine, signal });
    this.#loaded = this.#conversation.ask({ type: 'load', purpose, expected }, LOAD_MS, (message, resolve, reject) => {
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

  hear(stretch: Stretch, others: number, onHeard: (heardMs: number) => void): Promise<Answer<'heard'>> {
    const asked = { type: 'hear', ...sent(stretch), others } as const;
    return this.#conversation.ask(asked, longestMs(stretch), (message, resolve) => {
      if (message.type === 'progress') onHeard(message.heardMs);
      if (message.type === 'heard') resolve(message);
    });
  }

  fit(stretch: Stretch, words: Extract<ToEngine, { type: 'fit' }>['words']): Promise<Answer<'fitted'>> {
    return this.#conversation.ask({ type: 'fit', ...sent(stretch), words }, longestMs(stretch), (message, resolve) => {
      if (message.type === 'fitted') resolve(message);
    });
  }

  end(): void {
    this.#conversation.end();
  }
}

const sent = ({ position, soundPath, startMs, endMs }: Stretch): Stretch => ({ position, soundPath, startMs, endMs });
const longestMs = (stretch: Span): number => 20_000 + (stretch.endMs - stretch.startMs) * SLOWEST;
