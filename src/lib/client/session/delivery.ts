/** What becomes of a change that the server did not simply take. */
import { ServerProblem } from '../api';

export type Delivery =
  /** It will never be taken as it is: it goes to the list, with its text. */
  | { readonly outcome: 'refused'; readonly reason: string }
  /** Others were first: what they did is fetched, and it is sent again on top. */
  | { readonly outcome: 'stale' }
  /** It stays in the queue and is sent again after `waitMs`. */
  | { readonly outcome: 'later'; readonly reason: string; readonly waitMs: number }
  /** It stays in the queue until somebody has signed in. */
  | { readonly outcome: 'sign in'; readonly waitMs: number };

const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 30_000;

/** Statuses by which a server or a proxy says that it is not the change that is at fault. */
const NOT_NOW = new Set([0, 403, 408, 421, 425, 429]);

/** How long to wait after so many tries in vain: longer each time. */
export const waitAfter = (tries: number): number => Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** Math.min(tries, 10));

/** What a failure to send means; `tries`: how often it has been sent in vain by now. */
export function deliveryOf(error: unknown, tries: number): Delivery {
  const waitMs = waitAfter(tries);
  // An error in our own code must not block the queue for ever: it is shown, and the change is tried again.
  if (!(error instanceof ServerProblem)) {
    console.error(error);
    return { outcome: 'later', reason: 'Sending failed for a reason of its own; see the console.', waitMs };
  }
  if (error.code === 'stale_revision') return { outcome: 'stale' };
  if (error.status === 401) return { outcome: 'sign in', waitMs };
  if (NOT_NOW.has(error.status) || error.status >= 500)
    return { outcome: 'later', reason: error.message, waitMs: Math.max(waitMs, error.retryAfterMs ?? 0) };
  return { outcome: 'refused', reason: error.message };
}
