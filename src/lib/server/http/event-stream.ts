/** Server-sent events, https://html.spec.whatwg.org/multipage/server-sent-events.html */

export interface Sink {
  send(event: { readonly id?: string; readonly name?: string; readonly data: unknown }): void;
  /** Ends the stream. */
  end(): void;
}

const KEEP_ALIVE_MS = 15_000;

/** A stream that `open` feeds; what it returns is called when the caller has gone or the stream has ended. */
export function eventStream(open: (sink: Sink) => () => void): Response {
  let close = (): void => undefined;
  const encoder = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      const write = (text: string): void => controller.enqueue(encoder.encode(text));
      const timer = setInterval(() => write(':\n\n'), KEEP_ALIVE_MS);
      let hasEnded = false;
      const held: { release?: () => void } = {};
      close = () => {
        if (hasEnded) return;
        hasEnded = true;
        clearInterval(timer);
        held.release?.();
      };
      write('retry: 1000\n\n');
      held.release = open({
        send: ({ id, name, data }) => {
          if (hasEnded) return;
          write(
            `${id === undefined ? '' : `id: ${id}\n`}${name === undefined ? '' : `event: ${name}\n`}data: ${JSON.stringify(data)}\n\n`
          );
        },
        end: () => {
          if (hasEnded) return;
          close();
          controller.close();
        }
      });
      if (hasEnded) held.release();
    },
    cancel: () => close()
  });
  return new Response(body, { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' } });
}
