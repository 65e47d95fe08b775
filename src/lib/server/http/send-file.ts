/** Files as answers: ranges, conditional requests and validators as RFC 9110 has them, by the package `send`. */
import { basename, dirname } from 'node:path';
import { PassThrough, Readable } from 'node:stream';
import send from 'send';

/** What `send` writes to, in the place of Node's own response: the body passes through, the head is kept. */
class Reply extends PassThrough {
  statusCode = 200;
  readonly headersSent = false;
  /** Whoever reads the answer and leaves closes this, and `send` closes the file. */
  readonly socket = this;
  readonly #headers: Headers;

  constructor(headers: HeadersInit) {
    super();
    this.#headers = new Headers(headers);
  }
  setHeader(name: string, value: string | number): void {
    this.#headers.set(name, String(value));
  }
  getHeader(name: string): string | undefined {
    return this.#headers.get(name) ?? undefined;
  }
  getHeaderNames(): string[] {
    return [...this.#headers.keys()];
  }
  removeHeader(name: string): void {
    this.#headers.delete(name);
  }
  /** The answer to give: with what is written here as its body, or without one. */
  toResponse(hasBody: boolean): Response {
    const body = hasBody ? (Readable.toWeb(this) as ReadableStream) : null;
    return new Response(body, { status: this.statusCode, headers: this.#headers });
  }
}

/**
 * The answer to a GET or HEAD of the file at `path`, with these headers beside its own: 200, 206, 304, 412 or 416.
 * Rejects with the file system's error where the file cannot be read.
 */
export function sendFile(request: Request, path: string, headers: HeadersInit): Promise<Response> {
  const reply = new Reply(headers);
  const asked = Object.assign(Readable.from([]), {
    method: request.method,
    headers: Object.fromEntries(request.headers)
  });
  return new Promise((resolve, reject) => {
    // An error after the answer was given ends its body.
    reply.on('error', reject).on('finish', () => resolve(reply.toResponse(false)));
    send(asked, encodeURIComponent(basename(path)), { root: dirname(path), dotfiles: 'allow', index: false })
      .on('error', (error: Error & { status: number }) => {
        if (error.status !== 412 && error.status !== 416) return void reply.destroy(error);
        reply.statusCode = error.status;
        resolve(reply.toResponse(false));
      })
      .on('stream', () => resolve(reply.toResponse(true)))
      .pipe(reply);
  });
}
