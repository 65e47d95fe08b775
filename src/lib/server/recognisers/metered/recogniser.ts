/** A service elsewhere that hears and bills by the started minute: orders, sends the sound, waits and asks again. */
import { toSpan } from '$lib/core/time';
import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import { setTimeout as pause } from 'node:timers/promises';
import type { HeardWord } from '$lib/core/hearing';
import { messageOf } from '$lib/core/message-of';
import { ApiProblem } from '../../problem';
import type { EngineFacts, HearRequest, Recogniser } from '../recogniser';
import type { MeteredClient } from '../../metered/client';
import { accountSchema, orderSchema, type Order, type ServiceWord } from '../../metered/protocol';

export const METERED_ENGINE_ID = 'metered-service';

const BYTES_A_MS = 32;
const POLL_MS = 400;
const LOST =
  'The connection to the metered service was lost. Hear it again in the same way: the order is taken up where it stands and billed once.';

export class MeteredService implements Recogniser {
  readonly writes = 'text';
  readonly #client: MeteredClient;
  constructor(client: MeteredClient) {
    this.#client = client;
  }

  async facts(): Promise<EngineFacts> {
    const about = { id: METERED_ENGINE_ID, kind: 'simulated', hears: true, fits: false, sendsSound: true } as const;
    try {
      const { name, languages, translating: _, ...price } = await this.#client.call(accountSchema, 'GET', '/account');
      return { ...about, name, languages, price, available: true };
    } catch (error) {
      const reason = `The metered service cannot be asked: ${messageOf(error)}`;
      return { ...about, name: 'Metered service', languages: ['en'], available: false, reason };
    }
  }

  async hear({ asked, soundPath, language, terms, key, chunks, signal, onChunk, onHeard }: HearRequest): Promise<void> {
    const durationMs = asked.endMs - asked.startMs;
    const speechMs = chunks.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0);
    let order = await this.#client.patiently({ signal, lost: LOST }, () =>
      this.#client.call(orderSchema, 'POST', '/orders', {
        key,
        language,
        durationMs,
        terms: terms.map(({ text }) => text)
      })
    );
    try {
      while (order.state === 'awaiting sound' || order.state === 'working') {
        const { id } = order;
        if (order.state === 'awaiting sound')
          order = await this.#client.patiently({ signal, lost: LOST }, () =>
            this.#send(id, soundPath, asked.startMs, asked.endMs)
          );
        onHeard(speechMs * order.progress);
        await pause(POLL_MS, undefined, { signal });
        order = await this.#client.patiently({ signal, lost: LOST }, () =>
          this.#client.call(orderSchema, 'GET', `/orders/${id}`)
        );
      }
    } catch (error) {
      // An abandoned order would hold money back; a lost one is found again by its key.
      if (signal.aborted) await this.#client.call(orderSchema, 'DELETE', `/orders/${order.id}`).catch(() => undefined);
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
    return this.#client.call(orderSchema, 'PUT', `/orders/${id}/sound`, sound);
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
