/** A service elsewhere that hears and bills by the started minute: orders, sends the sound, waits and asks again. */
import { toSpan } from '$lib/core/time';
import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import { setTimeout as pause } from 'node:timers/promises';
import { z } from 'zod';
import type { HeardWord } from '$lib/core/hearing';
import { messageOf } from '$lib/core/message-of';
import { ApiProblem } from '../../problem';
import type { EngineFacts, HearRequest, Recogniser } from '../recogniser';
import { accountSchema, orderSchema, refusalSchema, type Order, type ServiceWord } from './protocol';

export const METERED_ENGINE_ID = 'metered-service';

const BYTES_A_MS = 32;
const POLL_MS = 400;
/** Between tries while the service cannot be reached. */
const RETRIES_MS = [250, 500, 1000, 2000, 4000];
const LOST =
  'The connection to the metered service was lost. Hear it again in the same way: the order is taken up where it stands and billed once.';

export class MeteredService implements Recogniser {
  readonly writes = 'text';
  readonly #url: string;
  constructor(url: string) {
    this.#url = url.replace(/\/$/, '');
  }

  async facts(): Promise<EngineFacts> {
    const about = { id: METERED_ENGINE_ID, kind: 'simulated', hears: true, fits: false, sendsSound: true } as const;
    try {
      const { name, languages, ...price } = await this.#call(accountSchema, 'GET', '/account');
      return { ...about, name, languages, price, available: true };
    } catch (error) {
      const reason = `The metered service cannot be asked: ${messageOf(error)}`;
      return { ...about, name: 'Metered service', languages: ['en'], available: false, reason };
    }
  }

  async hear({ asked, soundPath, language, terms, key, chunks, signal, onChunk, onHeard }: HearRequest): Promise<void> {
    const durationMs = asked.endMs - asked.startMs;
    const speechMs = chunks.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0);
    let order = await this.#patiently(signal, () =>
      this.#call(orderSchema, 'POST', '/orders', { key, language, durationMs, terms: terms.map(({ text }) => text) })
    );
    try {
      while (order.state === 'awaiting sound' || order.state === 'working') {
        const { id } = order;
        if (order.state === 'awaiting sound')
          order = await this.#patiently(signal, () => this.#send(id, soundPath, asked.startMs, asked.endMs));
        onHeard(speechMs * order.progress);
        await pause(POLL_MS, undefined, { signal });
        order = await this.#patiently(signal, () => this.#call(orderSchema, 'GET', `/orders/${id}`));
      }
    } catch (error) {
      // An abandoned order would hold money back; a lost one is found again by its key.
      if (signal.aborted) await this.#call(orderSchema, 'DELETE', `/orders/${order.id}`).catch(() => undefined);
      throw error;
    }
    const words = wordsOf(order).map((word) => ({
      ...word,
      ...toSpan({ startMs: word.startMs + asked.startMs, endMs: word.endMs + asked.startMs }),
      endOdds: null
    }));
    chunks.forEach(({ position, endMs }, at) => {
      const from = at === 0 ? 0 : chunks[at - 1]!.endMs;
      const to = at === chunks.length - 1 ? Number.POSITIVE_INFINITY : endMs;
      onChunk(
        position,
        words.filter((word: HeardWord) => word.startMs >= from && word.startMs < to)
      );
    });
  }

  #send(id: string, soundPath: string, startMs: number, endMs: number): Promise<Order> {
    const stretch = { start: startMs * BYTES_A_MS, end: endMs * BYTES_A_MS - 1 };
    const sound = Readable.toWeb(createReadStream(soundPath, stretch)) as ReadableStream<Uint8Array>;
    return this.#call(orderSchema, 'PUT', `/orders/${id}/sound`, sound);
  }

  /** Tries again while the service cannot be reached; gives up in words that say what was billed. */
  async #patiently<T>(signal: AbortSignal, work: () => Promise<T>): Promise<T> {
    for (let tries = 0; ; tries++) {
      try {
        return await work();
      } catch (cause) {
        if (cause instanceof ApiProblem) throw cause;
        const waitMs = RETRIES_MS[tries];
        if (waitMs === undefined) throw Object.assign(new ApiProblem(502, 'service_lost', LOST), { cause });
        await pause(waitMs, undefined, { signal });
      }
    }
  }

  async #call<S extends z.ZodType>(schema: S, method: string, path: string, body?: unknown): Promise<z.output<S>> {
    const isSound = body instanceof ReadableStream;
    const response = await fetch(`${this.#url}${path}`, {
      method,
      ...(body !== undefined && {
        headers: { 'content-type': isSound ? 'application/octet-stream' : 'application/json' },
        body: isSound ? body : JSON.stringify(body)
      }),
      ...(isSound && { duplex: 'half' })
    });
    const answer: unknown = await response.json();
    if (response.ok) return schema.parse(answer);
    const { code, message } = refusalSchema.parse(answer).error;
    throw new ApiProblem(response.status, code, `The metered service says: ${message} Nothing was billed.`);
  }
}

function wordsOf(order: Order): readonly ServiceWord[] {
  if (order.state === 'done') return order.words ?? [];
  throw new ApiProblem(
    502,
    'service_failed',
    order.state === 'cancelled'
      ? 'The order was cancelled at the metered service. Nothing was billed.'
      : `The metered service could not hear it: ${order.reason}. Nothing was billed; try again, or hear it on this machine.`
  );
}
