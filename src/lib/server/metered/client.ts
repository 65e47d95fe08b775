/** Calls of the metered service, whatever is ordered there. */
import { setTimeout as pause } from 'node:timers/promises';
import type { z } from 'zod';
import { ApiProblem } from '../problem';
import { refusalSchema } from './protocol';

/** Between tries while the service cannot be reached. */
const RETRIES_MS = [250, 500, 1000, 2000, 4000];

export class MeteredClient {
  readonly #url: string;
  constructor(url: string) {
    this.#url = url.replace(/\/$/, '');
  }

  /** Tries again while the service cannot be reached; gives up with `lost`, which says what was billed. */
  async patiently<T>(
    { signal, lost }: { readonly signal: AbortSignal; readonly lost: string },
    work: () => Promise<T>
  ): Promise<T> {
    for (let tries = 0; ; tries++) {
      try {
        return await work();
      } catch (cause) {
        if (cause instanceof ApiProblem) throw cause;
        const waitMs = RETRIES_MS[tries];
        if (waitMs === undefined) throw Object.assign(new ApiProblem(502, 'service_lost', lost), { cause });
        await pause(waitMs, undefined, { signal });
      }
    }
  }

  /** Throws what the service refuses as an `ApiProblem`; anything else where it cannot be reached. */
  async call<S extends z.ZodType>(schema: S, method: string, path: string, body?: unknown): Promise<z.output<S>> {
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
