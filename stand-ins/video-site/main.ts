/**
 * A stand-in for a video site: HTTP on loopback, one channel, no network. `VINETAP_SITE_DATA` is its folder,
 * `VINETAP_SITE_PORT` its port, `VINETAP_SITE_MEDIA` the folder of its videos.
 */
import { randomUUID } from 'node:crypto';
import { createReadStream, statSync } from 'node:fs';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { z } from 'zod';
import { captionChange, signInRequest } from '$lib/server/sites/simulated/protocol';
import { answerWith, listen, readBytes, readJson, Refusal, type Answer } from '../http';
import { CHANNEL } from './examine';
import { watchPage, WATCH_CSS, WATCH_JS } from './page';
import { Shelf } from './shelf';

/** The account that the application comes with. */
const USER = { user: 'merrowby', secret: 'ring-the-bell' };
const SIGNED_IN_MS = 600_000;
const UPLOADS_A_MINUTE = 60;

/** How it misbehaves, so that every ending can be seen: set by `PUT /behaviour`. */
const behaviourSchema = z.object({
  /** Each file is looked at for so long. */
  processingMs: z.int().min(0).max(600_000).default(700),
  /** So many calls are told to come again in a second. */
  tooMany: z.int().min(0).max(1000).default(0),
  /** So many calls are done, and their answer is lost. */
  lostAnswers: z.int().min(0).max(1000).default(0),
  /** So many calls are answered with what is no answer. */
  nonsense: z.int().min(0).max(1000).default(0),
  /** So many calls are never answered. */
  silence: z.int().min(0).max(1000).default(0),
  /** All that were signed in are so no longer. */
  signOut: z.boolean().default(false)
});
let behaviour = behaviourSchema.parse({});

const here = dirname(fileURLToPath(import.meta.url));
const shelf = new Shelf(
  resolve(process.env.VINETAP_SITE_DATA ?? './data/video-site'),
  resolve(process.env.VINETAP_SITE_MEDIA ?? join(here, '../demo/media')),
  join(here, '../stand-ins/video-site/automatic')
);
const tokens = new Map<string, number>();
let uploadTimes: readonly number[] = [];

function signIn({ user, secret }: z.infer<typeof signInRequest>): { token: string; lastsMs: number } {
  if (user !== USER.user || secret !== USER.secret)
    throw new Refusal(403, 'wrong_account', 'There is no such account, or the secret is another one.');
  const token = randomUUID();
  tokens.set(token, Date.now() + SIGNED_IN_MS);
  return { token, lastsMs: SIGNED_IN_MS };
}

function refuseStrangers({ headers }: IncomingMessage): void {
  const token = headers.authorization?.replace(/^Bearer /, '') ?? '';
  if ((tokens.get(token) ?? 0) < Date.now()) throw new Refusal(401, 'signed_out', 'Sign in first.');
}

function refuseHaste(): void {
  const now = Date.now();
  uploadTimes = uploadTimes.filter((ms) => ms > now - 60_000);
  if (uploadTimes.length >= UPLOADS_A_MINUTE)
    throw new Refusal(
      ...([429, 'too_many', `${UPLOADS_A_MINUTE} files a minute are taken.`] as const),
      Math.ceil((uploadTimes[0]! + 60_000 - now) / 1000)
    );
  uploadTimes = [...uploadTimes, now];
}

async function answer(request: IncomingMessage, url: URL): Promise<Answer> {
  const [, , videoId = '', , captionId = ''] = url.pathname.split('/').map(decodeURIComponent);
  const what = `${request.method} ${url.pathname
    .replace(/^\/videos\/[^/]+/, '/videos/ID')
    .replace(/captions\/[^/]+/, 'captions/ID')}`;
  if (what === 'POST /sign-in') return { status: 200, body: signIn(await readJson(request, signInRequest)) };
  refuseStrangers(request);
  switch (what) {
    case 'GET /channel':
      return { status: 200, body: CHANNEL };
    case 'GET /videos':
      return { status: 200, body: { videos: shelf.list() } };
    case 'GET /videos/ID':
      return { status: 200, body: shelf.video(videoId) };
    case 'PUT /videos/ID/captions/ID': {
      refuseHaste();
      const key = request.headers['idempotency-key'];
      if (typeof key !== 'string' || key === '')
        throw new Refusal(400, 'bad_request', 'Send an Idempotency-Key, so that nothing is taken twice.');
      const bytes = await readBytes(request, CHANNEL.mostBytes);
      const caption = shelf.take(videoId, bytes, { file: captionId, name: url.searchParams.get('name') ?? '', key });
      setTimeout(() => shelf.examine(caption.id), behaviour.processingMs);
      return { status: 202, body: { caption } };
    }
    case 'PATCH /videos/ID/captions/ID':
      return {
        status: 200,
        body: { caption: shelf.change(videoId, captionId, await readJson(request, captionChange)) }
      };
    case 'DELETE /videos/ID/captions/ID':
      shelf.remove(videoId, captionId);
      return { status: 200, body: {} };
    default:
      throw new Refusal(404, 'unknown_call', `${what} is nothing that this site does.`);
  }
}

/** What viewers get. Its page may stand in one of this machine's. */
const PAGE_HEADERS = {
  'x-content-type-options': 'nosniff',
  'content-security-policy': "default-src 'self'; frame-ancestors http://127.0.0.1:* http://localhost:*"
};

function serveViewers(request: IncomingMessage, response: ServerResponse, { pathname }: URL): boolean {
  const send = (type: string, body: string): boolean => {
    response.writeHead(200, { ...PAGE_HEADERS, 'content-type': type }).end(body);
    return true;
  };
  if (pathname === '/watch.css') return send('text/css; charset=utf-8', WATCH_CSS);
  if (pathname === '/watch.js') return send('text/javascript; charset=utf-8', WATCH_JS);
  const [, part, id = '', file] = pathname.split('/').map(decodeURIComponent);
  if (part === 'watch' && file === undefined) return send('text/html; charset=utf-8', watchPage(shelf.video(id)));
  if (part === 'watch') return send('text/vtt; charset=utf-8', shelf.shown(id, file!.replace(/\.vtt$/, '')));
  if (part !== 'media') return false;
  sendMedia(request, response, shelf.mediaPath(id));
  return true;
}

function sendMedia(request: IncomingMessage, response: ServerResponse, path: string): void {
  const { size } = statSync(path);
  const found = /^bytes=(\d+)-(\d*)$/.exec(request.headers.range ?? '');
  const from = Math.min(size - 1, Number(found?.[1] ?? 0));
  const to = found?.[2] === undefined || found[2] === '' ? size - 1 : Math.min(size - 1, Number(found[2]));
  response.writeHead(found === null ? 200 : 206, {
    ...PAGE_HEADERS,
    'content-type': path.endsWith('.webm') ? 'video/webm' : 'video/mp4',
    'content-length': to - from + 1,
    'accept-ranges': 'bytes',
    ...(found !== null && { 'content-range': `bytes ${from}-${to}/${size}` })
  });
  createReadStream(path, { start: from, end: to })
    .on('error', () => response.destroy())
    .pipe(response);
}

/** One of what is to go wrong, where any is left. */
function takeOne(kind: 'tooMany' | 'lostAnswers' | 'nonsense' | 'silence'): boolean {
  if (behaviour[kind] === 0) return false;
  behaviour = { ...behaviour, [kind]: behaviour[kind] - 1 };
  return true;
}

async function serve(request: IncomingMessage, response: ServerResponse): Promise<void> {
  const url = new URL(request.url ?? '/', 'http://site');
  await answerWith(response, async () => {
    if (request.method === 'PUT' && url.pathname === '/behaviour') {
      behaviour = await readJson(request, behaviourSchema);
      if (behaviour.signOut) tokens.clear();
      return { status: 200, body: behaviour };
    }
    if (url.pathname !== '/sign-in' && takeOne('tooMany')) throw new Refusal(429, 'too_many', 'Too many calls.', 1);
    return answer(request, url);
  });
}

/** What is to go wrong comes before anything is done, but for an answer that is lost behind it. */
async function misbehave(request: IncomingMessage, response: ServerResponse): Promise<void> {
  const url = new URL(request.url ?? '/', 'http://site');
  if (request.method === 'GET' && (await viewed(request, response, url))) return;
  const isCall = url.pathname !== '/sign-in' && url.pathname !== '/behaviour';
  if (isCall && takeOne('silence')) return;
  if (isCall && takeOne('nonsense')) return void response.writeHead(200).end('<p>Back soon</p>');
  if (isCall && takeOne('lostAnswers')) {
    await answer(request, url);
    request.socket.destroy();
    return;
  }
  await serve(request, response);
}

/** Whether it was a page or a film, or something of one that there is not. */
async function viewed(request: IncomingMessage, response: ServerResponse, url: URL): Promise<boolean> {
  try {
    return serveViewers(request, response, url);
  } catch (error) {
    await answerWith(response, () => {
      throw error;
    });
    return true;
  }
}

listen('The video site', Number(process.env.VINETAP_SITE_PORT ?? 4181), misbehave);
