import { afterAll, beforeAll, beforeEach, expect, test } from 'vitest';
import {
  ask,
  enginesOf,
  jobEnd,
  newFolder,
  removeFolders,
  send,
  speech,
  startServer,
  startService,
  until,
  uploadMapped,
  type Server,
  type Service
} from './harness';

const PRICE_CENTS = 18;

const folder = newFolder();
let service: Service;
let server: Server;
let recordingId: string;
beforeAll(async () => {
  service = await startService(folder);
  server = await startServer(newFolder(), { VINETAP_METERED_URL: service.url });
  const wav = speech(['Good morning and welcome to the tower.', 'Thank you for coming to the museum tonight.']);
  recordingId = await uploadMapped(server, 'talk.wav', wav);
});
afterAll(async () => {
  await server.stop();
  await service.stop();
  removeFolders();
});

const behave = (behaviour: object): Promise<Response> =>
  fetch(`${service.url}/behaviour`, { method: 'PUT', body: JSON.stringify(behaviour) });
const balance = async (): Promise<number> =>
  ((await (await fetch(`${service.url}/account`)).json()) as { balanceCents: number }).balanceCents;
beforeEach(() => behave({}));

let terms = 0;
/** Each with a name of its own to expect, so that it is an order of its own. */
const order = (more: object = {}) =>
  send(server, `/api/recordings/${recordingId}/transcriptions`, {
    engine: 'metered-service',
    language: 'en-GB',
    vocabulary: [`Term ${terms++}`],
    spendCents: PRICE_CENTS,
    ...more
  });

test('health says what it costs and that the sound is sent; a quote says what is left; nothing is spent unasked', async () => {
  const { engines } = (await ask(server, '/api/health')).body;
  expect(engines[1]).toMatchObject({ id: 'metered-service', kind: 'simulated', sendsSound: true, available: true });
  expect(engines[0]).toMatchObject({ id: 'pocketsphinx-en-us', sendsSound: false });
  const quoted = await ask(server, `/api/recordings/${recordingId}/quote?engine=metered-service`);
  const now = await balance();
  expect(quoted.body.quote).toEqual({
    ...{ minutes: 1, costCents: PRICE_CENTS, currency: 'EUR' },
    ...{ balanceCents: now, balanceAfterCents: now - PRICE_CENTS }
  });
  expect((await ask(server, `/api/recordings/${recordingId}/quote?engine=pocketsphinx-en-us`)).body.quote).toBeNull();
  const unasked = await order({ spendCents: undefined });
  expect([unasked.status, unasked.body.error.code]).toEqual([402, 'agree_to_price']);
  expect((await order({ spendCents: 17 })).status).toBe(402);
  expect((await order({ script: 'Good morning.' })).body.error.code).toBe('script_not_fitted');
  expect(await balance()).toBe(now);
});

test('a hearing is billed once, also when connections break off, and the same again costs nothing more', async () => {
  const before = await balance();
  await behave({ hangUps: 3 });
  const asked = { vocabulary: ['the same order'] };
  const job = await jobEnd(server, (await order(asked)).body.job.id);
  expect(job).toMatchObject({ state: 'done' });
  const { track } = (await ask(server, `/api/tracks/${job.result.trackId}`)).body;
  expect(track.words.map((word: { text: string }) => word.text).join(' ')).toMatch(/^[A-Z].* the tower\. .*\.$/);
  expect(await balance()).toBe(before - PRICE_CENTS);
  expect((await jobEnd(server, (await order(asked)).body.job.id)).state).toBe('done');
  expect(await balance()).toBe(before - PRICE_CENTS);
});

test('where the service fails, the job says so and nothing is billed; hearing it again begins anew', async () => {
  const before = await balance();
  await behave({ next: 'fail' });
  const asked = { vocabulary: ['fails once'] };
  const job = await jobEnd(server, (await order(asked)).body.job.id);
  expect(job).toMatchObject({ state: 'failed', error: expect.stringContaining('Nothing was billed') as string });
  expect(await balance()).toBe(before);
  expect((await jobEnd(server, (await order(asked)).body.job.id)).state).toBe('done');
  expect(await balance()).toBe(before - PRICE_CENTS);
});

test('cancelled while the service is slow, it frees the money it held back', async () => {
  const before = await balance();
  await behave({ next: 'never end' });
  const { id } = (await order()).body.job;
  await until(balance, (left) => left === before - PRICE_CENTS);
  await ask(server, `/api/jobs/${id}`, { method: 'DELETE' });
  await until(balance, (left) => left === before);
  expect((await jobEnd(server, id)).state).toBe('cancelled');
});

test('a lost service ends in words; the order is taken up where it stands and billed once', async () => {
  const before = await balance();
  await behave({ next: 'never end' });
  const asked = { vocabulary: ['lost on the way'] };
  const { id } = (await order(asked)).body.job;
  await until(balance, (left) => left === before - PRICE_CENTS);
  const port = new URL(service.url).port;
  await service.stop();
  const lost = await jobEnd(server, id);
  expect(lost).toMatchObject({ state: 'failed', error: expect.stringContaining('billed once') as string });
  const { engines } = (await ask(server, '/api/health')).body;
  expect(engines[1]).toMatchObject({ available: false });
  service = await startService(folder, port);
  expect(await balance()).toBe(before - PRICE_CENTS);
  expect((await jobEnd(server, (await order(asked)).body.job.id)).state).toBe('done');
  expect(await balance()).toBe(before - PRICE_CENTS);
});

test('what the balance does not reach for is refused before any sound is sent', async () => {
  const before = await balance();
  await behave({ payInCents: -(before - 10) });
  const refused = await order();
  expect([refused.status, refused.body.error.code]).toEqual([402, 'balance_too_low']);
  expect(refused.body.error.details).toMatchObject({ balanceCents: 10, costCents: PRICE_CENTS });
  await behave({ payInCents: before - 10 });
  expect(enginesOf(server.pid)).toEqual([]);
});
