/** Answers that tell how far they are: a JSON value a line (NDJSON), the result in the last one. */
import { ApiProblem, INTERNAL } from '../problem';

export const NDJSON = 'application/x-ndjson';

/** A line for each value that `work` writes; its signal ends when the caller goes. What it throws is the last line. */
export function lineStream(work: (write: (value: unknown) => void, signal: AbortSignal) => Promise<void>): Response {
  const gone = new AbortController();
  const encoder = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    async start(controller) {
      const write = (value: unknown): void => {
        if (!gone.signal.aborted) controller.enqueue(encoder.encode(`${JSON.stringify(value)}\n`));
      };
      try {
        await work(write, gone.signal);
      } catch (error) {
        if (error instanceof ApiProblem) write({ error: { code: error.code, message: error.message } });
        else {
          if (!gone.signal.aborted) console.error(error);
          write({ error: { code: 'internal', message: INTERNAL } });
        }
      }
      if (!gone.signal.aborted) controller.close();
    },
    cancel: () => gone.abort(new ApiProblem(409, 'cancelled', 'It was cancelled.'))
  });
  return new Response(body, { headers: { 'content-type': NDJSON, 'cache-control': 'no-store' } });
}
