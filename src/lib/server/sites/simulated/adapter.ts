/** The simulated video site over HTTP: signs in by itself, asks again where asking again does no harm. */
import { setTimeout as pause } from 'node:timers/promises';
import { z } from 'zod';
import type { SiteAccount } from '../../config';
import { ApiProblem } from '../../problem';
import type { SentCaptions, Site } from '../site';
import {
  captionAnswer,
  channelSchema,
  signedInSchema,
  siteRefusal,
  siteVideoSchema,
  videosSchema,
  type CaptionChange
} from './protocol';

const ANSWERS_WITHIN_MS = 8000;
/** Between tries while the site cannot be reached. Whatever is sent has a key or says how things are to be. */
const RETRIES_MS = [200, 600, 1500];
/** A longer wait than this is told, not waited for. */
const MOST_WAIT_MS = 90_000;

interface Call {
  readonly method: 'GET' | 'PUT' | 'PATCH' | 'DELETE' | 'POST';
  readonly path: string;
  readonly body?: string;
  readonly key?: string;
  readonly isOpen?: boolean;
}

export class SimulatedSite implements Site {
  readonly #account: SiteAccount;
  readonly #url: string;
  #token: Promise<string> | null = null;

  constructor(account: SiteAccount) {
    this.#account = account;
    this.#url = account.url.replace(/\/$/, '');
  }

  channel = (signal: AbortSignal) => this.#call(channelSchema, { method: 'GET', path: '/channel' }, signal);
  videos = async (signal: AbortSignal) =>
    (await this.#call(videosSchema, { method: 'GET', path: '/videos' }, signal)).videos;
  video = (id: string, signal: AbortSignal) =>
    this.#call(siteVideoSchema, { method: 'GET', path: videoPath(id) }, signal);
  send = async (videoId: string, { file, name, content, key }: SentCaptions, signal: AbortSignal) => {
    const path = `${videoPath(videoId)}/captions/${encodeURIComponent(file)}?name=${encodeURIComponent(name)}`;
    return (await this.#call(captionAnswer, { method: 'PUT', path, body: content, key }, signal)).caption;
  };
  change = async (videoId: string, captionId: string, change: CaptionChange, signal: AbortSignal) => {
    const path = captionPath(videoId, captionId);
    return (await this.#call(captionAnswer, { method: 'PATCH', path, body: JSON.stringify(change) }, signal)).caption;
  };
  remove = async (videoId: string, captionId: string, signal: AbortSignal) => {
    try {
      await this.#call(z.unknown(), { method: 'DELETE', path: captionPath(videoId, captionId) }, signal);
    } catch (error) {
      // An answer that was lost the first time.
      if (!(error instanceof ApiProblem && error.code === 'unknown_caption')) throw error;
    }
  };
  shown = async (videoId: string, captionId: string, signal: AbortSignal) => {
    const path = `/watch/${encodeURIComponent(videoId)}/${encodeURIComponent(captionId)}.vtt`;
    const response = await this.#reach({ method: 'GET', path, isOpen: true }, signal);
    if (!response.ok) throw new ApiProblem(409, 'not_shown', 'The site does not show these captions to its viewers.');
    return response.text();
  };
  watchUrl = (videoId: string) => `${this.#url}/watch/${encodeURIComponent(videoId)}`;

  async #call<S extends z.ZodType>(schema: S, call: Call, signal: AbortSignal): Promise<z.output<S>> {
    for (let isFirst = true; ; isFirst = false) {
      const response = await this.#reach(call, signal);
      const text = await response.text();
      const answer = parseJson(text);
      if (response.ok) {
        const read = schema.safeParse(answer);
        if (read.success) return read.data;
        throw strange(`${call.method} ${call.path.split('?')[0]}`);
      }
      // A sign-in that has run out is renewed once.
      if (response.status === 401 && isFirst && call.isOpen !== true) {
        this.#token = null;
        continue;
      }
      const refused = siteRefusal.safeParse(answer);
      if (!refused.success) throw strange(`${call.method} ${call.path.split('?')[0]}`);
      const { code, message } = refused.data.error;
      if (response.status === 429) throw tooMany(message, response);
      throw new ApiProblem(response.status, code, `The video site says: ${message}`);
    }
  }

  /** Waits where the site asks to, and asks again where it cannot be reached. */
  async #reach(call: Call, signal: AbortSignal): Promise<Response> {
    for (let tries = 0; ; tries++) {
      try {
        const response = await this.#fetch(call, signal);
        const waitMs = Number(response.headers.get('retry-after') ?? '0') * 1000;
        if (response.status !== 429 || waitMs <= 0 || waitMs > MOST_WAIT_MS || tries >= RETRIES_MS.length)
          return response;
        await pause(waitMs, undefined, { signal });
      } catch (cause) {
        if (signal.aborted || cause instanceof ApiProblem) throw cause;
        const waitMs = RETRIES_MS[tries];
        if (waitMs === undefined)
          throw Object.assign(
            new ApiProblem(
              502,
              'site_lost',
              'The video site does not answer. Try again: what it has taken already is not sent twice.'
            ),
            { cause }
          );
        await pause(waitMs, undefined, { signal });
      }
    }
  }

  async #fetch({ method, path, body, key, isOpen = false }: Call, signal: AbortSignal): Promise<Response> {
    const token = isOpen ? null : await (this.#token ??= this.#signIn(signal));
    return fetch(`${this.#url}${path}`, {
      method,
      signal: AbortSignal.any([signal, AbortSignal.timeout(ANSWERS_WITHIN_MS)]),
      headers: {
        ...(token !== null && { authorization: `Bearer ${token}` }),
        ...(key !== undefined && { 'idempotency-key': key })
      },
      ...(body !== undefined && { body })
    });
  }

  async #signIn(signal: AbortSignal): Promise<string> {
    const { user, secret } = this.#account;
    try {
      const call = { method: 'POST', path: '/sign-in', body: JSON.stringify({ user, secret }), isOpen: true } as const;
      return (await this.#call(signedInSchema, call, signal)).token;
    } catch (error) {
      this.#token = null;
      throw error;
    }
  }
}

const videoPath = (id: string): string => `/videos/${encodeURIComponent(id)}`;
const captionPath = (videoId: string, captionId: string): string =>
  `${videoPath(videoId)}/captions/${encodeURIComponent(captionId)}`;

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null; // Told as what it is: no answer of the site's.
  }
}

const strange = (what: string): ApiProblem =>
  new ApiProblem(502, 'site_strange', `The video site’s answer to ${what} makes no sense. Try again later.`);

const tooMany = (message: string, response: Response): ApiProblem =>
  new ApiProblem(
    429,
    'site_busy',
    `The video site says: ${message} Try again in ${response.headers.get('retry-after') ?? '60'} seconds.`
  );
