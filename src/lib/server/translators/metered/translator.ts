/** A service elsewhere that translates and bills by the thousand characters that were begun. */
import { setTimeout as pause } from 'node:timers/promises';
import { messageOf } from '$lib/core/message-of';
import type { TranslatedSentence } from '$lib/core/translating';
import type { MeteredClient } from '../../metered/client';
import { accountSchema, textOrderSchema, type TextOrder } from '../../metered/protocol';
import { ApiProblem } from '../../problem';
import type { TranslateRequest, Translator, TranslatorFacts } from '../translator';

export const METERED_TRANSLATOR_ID = 'metered-service';

const POLL_MS = 200;
const LOST =
  'The connection to the metered service was lost. Have it drafted again: the order is taken up where it stands and billed once.';

export class MeteredTranslator implements Translator {
  readonly guardsNames = true;
  readonly #client: MeteredClient;
  constructor(client: MeteredClient) {
    this.#client = client;
  }

  async facts(): Promise<TranslatorFacts> {
    const about = { id: METERED_TRANSLATOR_ID, sendsText: true, missing: [] } as const;
    try {
      const { name, balanceCents, currency, translating } = await this.#client.call(accountSchema, 'GET', '/account');
      return {
        ...{ ...about, name, available: true },
        pairs: translating.pairs.map((pair) => ({ ...pair, worth: 'good' })),
        price: { centsPerThousand: translating.centsPerThousand, balanceCents, currency }
      };
    } catch (error) {
      const reason = `The metered service cannot be asked: ${messageOf(error)}`;
      return { ...about, name: 'Metered service', pairs: [], available: false, reason };
    }
  }

  async translate({
    sentences,
    from,
    to,
    key,
    signal,
    onProgress
  }: TranslateRequest): Promise<readonly (TranslatedSentence | null)[]> {
    if (sentences.length === 0) return [];
    const call = (method: string, path: string, body?: unknown): Promise<TextOrder> =>
      this.#client.patiently({ signal, lost: LOST }, () => this.#client.call(textOrderSchema, method, path, body));
    let order = await call('POST', '/translations', { key, from, to, sentences });
    try {
      while (order.state === 'working') {
        onProgress(order.progress);
        await pause(POLL_MS, undefined, { signal });
        order = await call('GET', `/translations/${order.id}`);
      }
    } catch (error) {
      // An abandoned order would hold money back; a lost one is found again by its key.
      if (signal.aborted)
        await this.#client.call(textOrderSchema, 'DELETE', `/translations/${order.id}`).catch(() => undefined);
      throw error;
    }
    if (order.state !== 'done')
      throw new ApiProblem(
        502,
        'service_failed',
        order.state === 'cancelled'
          ? 'The order was cancelled at the metered service. Nothing was billed.'
          : `The metered service could not translate it: ${order.reason}. Nothing was billed; try again, or have it drafted on this machine.`
      );
    const { sentences: translated = [] } = order;
    return sentences.map((_, at) => translated[at] ?? null);
  }
}
