/** Starts the server: its address, who may talk to it, and the app behind. Built as `build/index.js`. */
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { readAddress } from '$lib/server/http/address';
import { findRefusal, SECURITY_HEADERS } from '$lib/server/http/guard';
import { Passphrase } from '$lib/server/http/passphrase';
import { messageOf } from '$lib/core/message-of';

type Handler = (request: IncomingMessage, response: ServerResponse, next: () => void) => void;

function endWith(message: string): never {
  console.error(message);
  process.exit(1);
}

const address = readAddress(process.env);
if (typeof address === 'string') endWith(address);
const { HOST, PORT, ORIGIN, VINETAP_PASSPHRASE } = address;

const passphrase = VINETAP_PASSPHRASE === undefined ? null : new Passphrase(VINETAP_PASSPHRASE);

// What the app's adapter reads. Uploads are metered and bounded by the app itself.
process.env.BODY_SIZE_LIMIT = 'Infinity';
process.env.PROTOCOL_HEADER = 'x-forwarded-proto';
process.env.SHUTDOWN_TIMEOUT ??= '3';

let handler: Handler;
try {
  ({ handler } = (await import(/* @vite-ignore */ new URL('./handler.js', import.meta.url).href)) as {
    handler: Handler;
  });
} catch (error) {
  endWith(messageOf(error));
}

async function serve(request: IncomingMessage, response: ServerResponse): Promise<void> {
  for (const [name, value] of Object.entries(SECURITY_HEADERS)) response.setHeader(name, value);
  const refusal = findRefusal(
    { method: request.method ?? 'GET', headers: request.headers },
    { origin: ORIGIN ?? null }
  );
  if (refusal !== null) {
    response.writeHead(refusal.status, { 'content-type': 'application/json', connection: 'close' });
    response.end(JSON.stringify({ error: { code: refusal.code, message: refusal.message } }));
    return;
  }
  if (passphrase !== null && !(await passphrase.admit(request, response))) return;
  if (ORIGIN === undefined) request.headers['x-forwarded-proto'] = 'http';
  // A body without a type would be dropped on the way to the endpoint.
  request.headers['content-type'] ??= 'application/octet-stream';
  handler(request, response, () => {
    response.writeHead(404);
    response.end();
  });
}

const server = createServer((request, response) => {
  serve(request, response).catch((error: unknown) => {
    console.error(error);
    response.destroy();
  });
});
// A large upload over a slow line takes as long as it takes.
server.requestTimeout = 0;
// Longer than any client keeps a connection that it does not use: none is closed in the moment it is taken up again.
server.keepAliveTimeout = 120_000;
server.once('error', (error: NodeJS.ErrnoException) => {
  endWith(
    error.code === 'EADDRINUSE'
      ? `Port ${PORT} on ${HOST} is taken: stop what uses it, or set PORT to another.`
      : error.message
  );
});
server.listen(PORT, HOST, () => {
  const bound = server.address();
  const port = typeof bound === 'object' && bound !== null ? bound.port : PORT;
  console.log(`Vine Tap is at http://${HOST.includes(':') ? `[${HOST}]` : HOST}:${port}`);
});

let isEnding = false;
for (const signal of ['SIGTERM', 'SIGINT'] as const) {
  process.on(signal, () => {
    if (isEnding) return;
    isEnding = true;
    server.close();
    process.emit('vinetap:end' as 'beforeExit', 0);
    server.closeAllConnections();
    setTimeout(() => process.exit(0), 50);
  });
}
