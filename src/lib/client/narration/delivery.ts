/**
 * Brings a narration's sound to the server: each piece is kept first, then sent at its byte, one request at a time with
 * all there is. Where that fails it is tried again until it succeeds; what the server has is what it says it has.
 */
import { z } from 'zod';
import { ServerProblem } from '../api';
import type { PieceStore } from './pieces';

/**
 * `away`: the server does not answer. `full`: its disk has no room. `elsewhere`: another window goes on with it. `over`:
 * it was ended. `refused`: see the problem; what is `refused` is tried again as well.
 */
export type DeliveryState = 'fine' | 'away' | 'full' | 'elsewhere' | 'over' | 'refused';

interface Parts {
  readonly store: PieceStore;
  /** Sends what follows at a byte; gives how much the server has then. */
  readonly send: (offsetBytes: number, bytes: Uint8Array<ArrayBuffer>) => Promise<number>;
  readonly onState: (state: DeliveryState, problem: string | null) => void;
  /** Resolves after a while, or when it is cut short. */
  readonly wait: (ms: number) => Promise<void>;
}

/** Of one request. */
const MOST_BYTES = 1_920_000;
const FIRST_WAIT_MS = 250;
const LONGEST_WAIT_MS = 3000;

const detailsSchema = z.object({ storedBytes: z.number() });

export class Delivery {
  readonly #parts: Parts;
  /** What the server has. */
  storedBytes: number;
  /** Where what is recorded ends. */
  endBytes: number;
  #isStopped = false;
  #waitMs = FIRST_WAIT_MS;
  /** Ends the rest between two pieces. */
  #wake: () => void = () => undefined;
  #whole: (() => void)[] = [];
  #puts: Promise<void> = Promise.resolve();

  private constructor(parts: Parts, storedBytes: number, endBytes: number) {
    this.#parts = parts;
    this.storedBytes = storedBytes;
    this.endBytes = endBytes;
  }

  /** Goes on where the server is, with what the browser kept. */
  static async begin(parts: Parts, storedBytes: number): Promise<Delivery> {
    const delivery = new Delivery(parts, storedBytes, Math.max(storedBytes, await parts.store.end()));
    void delivery.#run();
    return delivery;
  }

  /** What comes next. */
  add(bytes: Uint8Array<ArrayBuffer>): void {
    const piece = { offsetBytes: this.endBytes, bytes };
    this.endBytes += bytes.length;
    this.#puts = this.#puts
      .then(() => this.#parts.store.put(piece))
      .then(() => this.#wake())
      .catch((error: unknown) => this.#parts.onState('refused', String(error)));
  }

  /** Resolves when the server has all of it. */
  async whole(): Promise<void> {
    if (this.storedBytes >= this.endBytes) return;
    await new Promise<void>((resolve) => this.#whole.push(resolve));
  }

  stop(): void {
    this.#isStopped = true;
    this.#wake();
  }

  async #run(): Promise<void> {
    while (!this.#isStopped) {
      const next = await this.#parts.store.from(this.storedBytes, MOST_BYTES);
      if (this.storedBytes >= this.endBytes) for (const resolve of this.#whole.splice(0)) resolve();
      if (next === null) await this.#rest();
      else
        await this.#send(
          next.offsetBytes > this.storedBytes ? silence(next.offsetBytes - this.storedBytes) : next.bytes
        );
    }
  }

  #rest(): Promise<void> {
    return new Promise((resolve) => {
      this.#wake = resolve;
      // A piece may have come while it was looked.
      void this.#puts.then(async () => {
        if ((await this.#parts.store.from(this.storedBytes, 2)) !== null || this.#isStopped) resolve();
      });
    });
  }

  async #send(bytes: Uint8Array<ArrayBuffer>): Promise<void> {
    const { send, store, onState, wait } = this.#parts;
    try {
      this.storedBytes = await send(this.storedBytes, bytes);
      this.#waitMs = FIRST_WAIT_MS;
      onState('fine', null);
      await store.drop(this.storedBytes);
    } catch (error) {
      const problem = error instanceof ServerProblem ? error : null;
      const stored = problem?.code === 'other_offset' ? detailsSchema.parse(problem.details).storedBytes : null;
      if (stored !== null && stored <= this.endBytes) {
        // An answer was lost on its way, or the server lost what it had not written out.
        this.storedBytes = stored;
        await store.drop(stored);
        return;
      }
      const state = stored === null ? stateOf(problem) : 'elsewhere';
      onState(state, problem?.message ?? String(error));
      if (state === 'elsewhere' || state === 'over') this.#isStopped = true;
      else {
        await wait(this.#waitMs);
        this.#waitMs = Math.min(LONGEST_WAIT_MS, this.#waitMs * 2);
      }
    }
  }
}

/** What neither the server nor the browser has any more: the clock goes on. */
const silence = (bytes: number): Uint8Array<ArrayBuffer> => new Uint8Array(Math.min(MOST_BYTES, bytes));

function stateOf(problem: ServerProblem | null): DeliveryState {
  if (problem === null || problem.status === 0 || problem.status === 503) return 'away';
  if (problem.code === 'disk_full') return 'full';
  return problem.code === 'unknown_narration' ? 'over' : 'refused';
}
