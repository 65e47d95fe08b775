/** Heavy work in threads of their own. */
import { Worker } from 'node:worker_threads';
import { z } from 'zod';
import { programFile } from './program-file';

/**
 * Runs a program that is built beside the app until `take` makes its result of a message; other messages give
 * `undefined`. Rejects when aborted, and where the thread ends without a result.
 */
export async function runThread<R>(
  program: string,
  workerData: unknown,
  { signal, take }: { readonly signal: AbortSignal; readonly take: (message: unknown) => R | undefined }
): Promise<R> {
  signal.throwIfAborted();
  const worker = new Worker(programFile(program), { workerData });
  const stop = (): void => void worker.terminate();
  signal.addEventListener('abort', stop, { once: true });
  try {
    return await new Promise<R>((resolve, reject) => {
      worker.on('message', (message: unknown) => {
        try {
          const result = take(message);
          if (result !== undefined) resolve(result);
        } catch (cause) {
          // Handling a message may fail as well, which is not the thread's fault.
          const isStrange = cause instanceof z.ZodError || !(cause instanceof Error);
          reject(isStrange ? new Error(`the thread ${program} said what was not expected`, { cause }) : cause);
        }
      });
      worker.once('error', reject);
      worker.once('messageerror', reject);
      worker.once('exit', (code) =>
        reject(signal.aborted ? (signal.reason as Error) : new Error(`the thread ${program} ended with ${code}`))
      );
    });
  } finally {
    signal.removeEventListener('abort', stop);
    stop();
  }
}
