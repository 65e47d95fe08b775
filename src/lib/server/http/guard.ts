/** Who may talk to the server: the names it answers to, and the pages that may change something. */
import type { IncomingHttpHeaders } from 'node:http';

export interface GuardOptions {
  /** The origin that is configured besides loopback, as `http://captions.lan:4173`; `null` for none. */
  readonly origin: string | null;
}

export interface Refusal {
  readonly status: 421 | 403;
  readonly code: string;
  readonly message: string;
}

const LOOPBACK = /^(?:localhost|127\.0\.0\.1|\[::1\])(?::\d{1,5})?$/i;
const SAFE = new Set(['GET', 'HEAD', 'OPTIONS']);

/** Why the request is refused; `null` where it may pass. Looked at before anything else of it. */
export function findRefusal(
  request: { readonly method: string; readonly headers: IncomingHttpHeaders },
  { origin }: GuardOptions
): Refusal | null {
  const host = request.headers.host ?? '';
  const isConfigured = origin !== null && host.toLowerCase() === new URL(origin).host;
  if (!LOOPBACK.test(host) && !isConfigured) {
    // Another site may have pointed a name of its own at this machine (DNS rebinding).
    return { status: 421, code: 'wrong_host', message: 'This server does not answer to that name.' };
  }
  if (SAFE.has(request.method)) return null;
  const from = request.headers.origin;
  const site = request.headers['sec-fetch-site'];
  const isOwn =
    from === undefined ||
    from === `http://${host}` ||
    from === `https://${host}` ||
    (origin !== null && from === origin);
  if (!isOwn || (site !== undefined && site !== 'same-origin' && site !== 'none')) {
    return { status: 403, code: 'other_origin', message: 'Another site’s page may not change anything here.' };
  }
  return null;
}

/** On every answer; pages add their own script nonces to the policy. */
export const SECURITY_HEADERS: Readonly<Record<string, string>> = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'no-referrer',
  'content-security-policy':
    "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; object-src 'none'; base-uri 'none'; frame-ancestors 'none'",
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin'
};
