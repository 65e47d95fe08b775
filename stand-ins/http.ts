/** What the stand-ins share: JSON over HTTP on loopback, refusals in words, an end when they are told to. */
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { z } from 'zod';

/** What a stand-in does not do, in a sentence. */
export class Refusal extends Error {
  readonly status: number;
  readonly code: string;
  readonly retryAfterSeconds: number | null;
  constructor(status: number, code: string, message: string, retryAfterSeconds: number | null = null) {
    super(message);
    this.status = status;
    this.code = code;
    this.retryAfterSeconds = retryAfterSeconds;
  }
}

const MOST_JSON_BYTES = 1_000_000;

export async function readBytes(request: IncomingMessage, mostBytes: number): Promise<Uint8Array> {
  const pieces: Buffer[] = [];
  let length = 0;
  for await (const piece of request as AsyncIterable<Buffer>) {
    length += piece.length;
    // Read to its end, so that the answer arrives.
    if (length <= mostBytes) pieces.push(piece);
  }
  if (length > mostBytes)
    throw new Refusal(413, 'too_large', `${mostBytes} bytes are taken at most; this has ${length}.`);
  return Buffer.concat(pieces);
}

export async function readJson<S extends z.ZodType>(request: IncomingMessage, schema: S): Promise<z.output<S>> {
  const text = new TextDecoder().decode(await readBytes(request, MOST_JSON_BYTES));
  const read = schema.safeParse(text === '' ? null : JSON.parse(text));
  if (!read.success) throw new Refusal(400, 'bad_request', z.prettifyError(read.error));
  return read.data;
}

export interface Answer {
  readonly status: number;
  readonly body: unknown;
}

/** Sends what `work` answers, or why it was refused. */
export async function answerWith(response: ServerResponse, work: () => Answer | Promise<Answer>): Promise<void> {
  let told: Answer;
  let retryAfterSeconds: number | null = null;
  try {
    told = await work();
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    told = { status: error.status, body: { error: { code: error.code, message: error.message } } };
    ({ retryAfterSeconds } = error);
  }
  response
    .writeHead(told.status, {
      'content-type': 'application/json',
      ...(retryAfterSeconds !== null && { 'retry-after': String(retryAfterSeconds) })
    })
    .end(JSON.stringify(told.body));
}

/** Serves until it is ended; says where it is. */
export function listen(
  name: string,
  port: number,
  serve: (request: IncomingMessage, response: ServerResponse) => Promise<void>
): void {
  const server = createServer((request, response) => {
    serve(request, response).catch((error: unknown) => {
      console.error(error);
      response.destroy();
    });
  });
  server.once('error', (error) => {
    console.error(`${name} (simulated) cannot start: ${error.message}`);
    process.exit(1);
  });
  server.listen(port, '127.0.0.1', () => {
    const address = server.address();
    if (typeof address === 'object' && address !== null)
      console.log(`${name} (simulated) is at http://127.0.0.1:${address.port}`);
  });
  for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, () => process.exit(0));
}
