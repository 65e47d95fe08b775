/**
 * A stand-in for a service that hears and translates, and bills by the started minute and by the thousand characters: HTTP on
 * loopback, one account, no network.
 * `VINETAP_SERVICE_DATA` is its folder, `VINETAP_SERVICE_PORT` its port, `VINETAP_SERVICE_ANSWERS` the stored answers.
 */
import { createWriteStream, mkdirSync } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { dirname, join, resolve } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { fileURLToPath } from 'node:url';
import { z } from 'zod';
import { MediaFiles } from '$lib/server/media/files';
import { orderRequest, textOrderRequest, type Account, type TextOrder } from '$lib/server/metered/protocol';
import { answerWith, listen, readJson, Refusal, type Answer } from '../http';
import { hearSound, readStored } from './answers';
import { Ledger } from './ledger';
import { readTranslations, translateStored } from './translations';

const CENTS_PER_MINUTE = 18;
const CENTS_PER_THOUSAND = 4;
const PAID_IN_CENTS = 2000;

/** How it misbehaves, so that every ending can be seen: set by `PUT /behaviour`. */
const behaviourSchema = z.object({
  /** What happens to the next order whose sound has arrived. */
  next: z.enum(['work', 'fail', 'never end']).default('work'),
  /** Connections of orders that break off before they are answered. */
  hangUps: z.int().min(0).max(1000).default(0),
  /** Each order takes at least so long. */
  atLeastMs: z.int().min(0).max(600_000).default(0),
  payInCents: z.int().default(0)
});
let behaviour = behaviourSchema.parse({});

const folder = resolve(process.env.VINETAP_SERVICE_DATA ?? './data/metered-service');
mkdirSync(folder, { recursive: true });
const files = new MediaFiles(folder);
const ledger = new Ledger(join(folder, 'book.json'), {
  paidInCents: PAID_IN_CENTS,
  centsPerMinute: CENTS_PER_MINUTE,
  centsPerThousand: CENTS_PER_THOUSAND
});
const answersFolder =
  process.env.VINETAP_SERVICE_ANSWERS ??
  join(dirname(fileURLToPath(import.meta.url)), '../stand-ins/metered-service/answers');
const stored = readStored(answersFolder);
const translations = readTranslations(join(answersFolder, '../translations.json'));
const inWork = new Map<string, AbortController>();

function account(): Account {
  return {
    name: 'Merrowby Voice Bureau (simulated)',
    balanceCents: ledger.balanceCents,
    centsPerMinute: CENTS_PER_MINUTE,
    currency: 'EUR',
    languages: ['en-US', 'en-GB'],
    translating: {
      pairs: translations.map(({ from, to }) => ({ from, to })),
      centsPerThousand: CENTS_PER_THOUSAND
    }
  };
}

/** Takes the sound of an order and begins to hear it. */
async function takeSound(id: string, request: IncomingMessage): Promise<void> {
  const asked = ledger.asked(id)!;
  if (inWork.has(id)) return;
  const controller = new AbortController();
  inWork.set(id, controller);
  try {
    await mkdir(files.folder(id), { recursive: true });
    const out = createWriteStream(files.soundPath(id));
    await pipeline(request, out);
    if (out.bytesWritten / 32 - asked.durationMs > 1000)
      throw new Refusal(422, 'too_long', 'The sound is longer than was ordered.');
  } catch (error) {
    inWork.delete(id);
    throw error;
  }
  ledger.setWorking(id, 0);
  void work(id, controller);
}

async function work(id: string, controller: AbortController): Promise<void> {
  const { next } = behaviour;
  behaviour = { ...behaviour, next: 'work' };
  const { signal } = controller;
  try {
    const dueMs = Date.now() + behaviour.atLeastMs;
    if (next === 'never end') await waitMs(3_600_000, signal);
    if (next === 'fail') throw new Error('an engine of the service broke down');
    const words = await hearSound(stored, {
      id,
      files,
      signal,
      terms: ledger.asked(id)!.terms,
      onProgress: (progress) => ledger.setWorking(id, progress)
    });
    await waitMs(dueMs - Date.now(), signal);
    ledger.finish(id, words);
  } catch (error) {
    if (signal.aborted) ledger.cancel(id);
    else ledger.fail(id, error instanceof Error ? error.message : String(error));
  } finally {
    inWork.delete(id);
    await rm(files.folder(id), { recursive: true, force: true });
  }
}

async function translate(id: string): Promise<void> {
  const { next } = behaviour;
  behaviour = { ...behaviour, next: 'work' };
  const controller = new AbortController();
  inWork.set(id, controller);
  try {
    const dueMs = Date.now() + behaviour.atLeastMs;
    if (next === 'never end') await waitMs(3_600_000, controller.signal);
    if (next === 'fail') throw new Error('an engine of the service broke down');
    const translated = translateStored(translations, ledger.askedText(id)!);
    if (translated === null) throw new Error('it does not know these languages');
    await waitMs(dueMs - Date.now(), controller.signal);
    ledger.finishText(id, translated);
  } catch (error) {
    if (controller.signal.aborted) ledger.cancel(id);
    else ledger.fail(id, error instanceof Error ? error.message : String(error));
  } finally {
    inWork.delete(id);
  }
}

/** Begins with an order that is open, unless it is in work. */
function begunText(order: TextOrder): TextOrder {
  if (order.state === 'working' && !inWork.has(order.id)) void translate(order.id);
  return order;
}

function waitMs(ms: number, signal: AbortSignal): Promise<void> {
  return new Promise((done, stop) => {
    const timer = setTimeout(done, Math.max(0, ms));
    signal.addEventListener('abort', () => (clearTimeout(timer), stop(new Error('cancelled'))), { once: true });
  });
}

async function answer(request: IncomingMessage): Promise<Answer> {
  const { pathname } = new URL(request.url ?? '/', 'http://service');
  const what = `${request.method} ${pathname.replace(/^\/(orders|translations)\/[^/]+/, '/$1/ID')}`;
  const id = /^\/(?:orders|translations)\/([^/]+)/.exec(pathname)?.[1] ?? '';
  if (id !== '' && ledger.get(id) === null && ledger.getText(id) === null)
    throw new Refusal(404, 'unknown_order', 'There is no such order.');
  switch (what) {
    case 'GET /account':
      return { status: 200, body: account() };
    case 'POST /orders': {
      const order = ledger.place(await readJson(request, orderRequest));
      if (order === null) throw new Refusal(402, 'balance_too_low', 'The balance does not reach for this order.');
      return { status: 201, body: order };
    }
    case 'PUT /orders/ID/sound':
      await takeSound(id, request);
      return { status: 202, body: ledger.get(id) };
    case 'GET /orders/ID':
      return { status: 200, body: ledger.get(id) };
    case 'DELETE /orders/ID':
      ledger.cancel(id);
      inWork.get(id)?.abort();
      return { status: 200, body: ledger.get(id) };
    case 'POST /translations': {
      const order = ledger.placeText(await readJson(request, textOrderRequest));
      if (order === null) throw new Refusal(402, 'balance_too_low', 'The balance does not reach for this order.');
      return { status: 201, body: begunText(order) };
    }
    case 'GET /translations/ID':
      return { status: 200, body: begunText(ledger.getText(id)!) };
    case 'DELETE /translations/ID':
      ledger.cancel(id);
      inWork.get(id)?.abort();
      return { status: 200, body: ledger.getText(id) };
    case 'PUT /behaviour': {
      behaviour = await readJson(request, behaviourSchema);
      if (behaviour.payInCents !== 0) ledger.payIn(behaviour.payInCents);
      return { status: 200, body: behaviour };
    }
    default:
      throw new Refusal(404, 'unknown_call', `${what} is nothing that this service does.`);
  }
}

async function serve(request: IncomingMessage, response: ServerResponse): Promise<void> {
  if (behaviour.hangUps > 0 && /^\/(?:orders|translations)/.test(request.url ?? '')) {
    behaviour = { ...behaviour, hangUps: behaviour.hangUps - 1 };
    request.socket.destroy();
    return;
  }
  await answerWith(response, () => answer(request));
}

listen('The metered service', Number(process.env.VINETAP_SERVICE_PORT ?? 4180), serve);
