/** The passphrase that other addresses than loopback need: scrypt, a session cookie, a growing delay after wrong tries. */
import { randomBytes, scryptSync, timingSafeEqual } from 'node:crypto';
import { parseCookie, stringifySetCookie } from 'cookie';
import type { IncomingMessage, ServerResponse } from 'node:http';

const COOKIE = 'vinetap_session';
const LONGEST_DELAY_MS = 30_000;

export class Passphrase {
  readonly #salt = randomBytes(16);
  readonly #hash: Buffer;
  readonly #sessions = new Set<string>();
  #wrongTries = 0;

  constructor(passphrase: string) {
    this.#hash = scryptSync(passphrase, this.#salt, 32);
  }

  /** Whether the request may pass. If not, it has been answered: with the form, its outcome, or 401. */
  async admit(request: IncomingMessage, response: ServerResponse): Promise<boolean> {
    const session = parseCookie(request.headers.cookie ?? '')[COOKIE];
    if (session !== undefined && this.#sessions.has(session)) return true;
    const path = (request.url ?? '/').split('?')[0];
    if (request.method === 'POST' && path === '/enter') await this.#enter(request, response);
    else if (path?.startsWith('/api/') || request.method !== 'GET') {
      response.writeHead(401, { 'content-type': 'application/json' });
      response.end(
        JSON.stringify({
          error: { code: 'passphrase_needed', message: 'Enter the passphrase of this server first, at /.' }
        })
      );
    } else this.#showForm(response, 200, '');
    return false;
  }

  async #enter(request: IncomingMessage, response: ServerResponse): Promise<void> {
    let body = '';
    for await (const piece of request as AsyncIterable<Buffer>) {
      body += piece.toString('utf8');
      if (body.length > 4000) break;
    }
    const tried = new URLSearchParams(body).get('passphrase') ?? '';
    if (this.#wrongTries > 0) {
      await new Promise((resolve) => setTimeout(resolve, Math.min(LONGEST_DELAY_MS, 250 * 2 ** this.#wrongTries)));
    }
    if (!timingSafeEqual(scryptSync(tried, this.#salt, 32), this.#hash)) {
      this.#wrongTries++;
      this.#showForm(response, 403, '<p>That is not the passphrase.</p>');
      return;
    }
    this.#wrongTries = 0;
    const session = randomBytes(32).toString('base64url');
    this.#sessions.add(session);
    const cookie = stringifySetCookie(COOKIE, session, { path: '/', httpOnly: true, sameSite: 'strict' });
    response.writeHead(303, { location: '/', 'set-cookie': cookie });
    response.end();
  }

  #showForm(response: ServerResponse, status: number, note: string): void {
    response.writeHead(status, { 'content-type': 'text/html; charset=utf-8' });
    response.end(
      `<!doctype html><html lang="en"><meta charset="utf-8"><title>Vine Tap</title><h1>Vine Tap</h1>${note}<form method="post" action="/enter"><label>Passphrase <input type="password" name="passphrase" autofocus required></label> <button>Enter</button></form></html>`
    );
  }
}
