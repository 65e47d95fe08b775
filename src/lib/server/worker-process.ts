/**
 * Heavy work in processes of their own, for what keeps its memory to the end: a network's runtime gives nothing back to
 * a server that runs on.
 */
import { fork } from 'node:child_process';
import { z } from 'zod';
import { processFile } from './process-file';

const said = z.discriminatedUnion('type', [
  z.object({ type: z.literal('progress'), progress: z.number() }),
  z.object({ type: z.literal('done') })
]);

/**
 * Runs a program that is built beside the app, tells its progress, 0 to 1, and leaves its result in files. Rejects when
 * aborted, and where the process ends before it is done.
 */
export async function runToDone(
  program: string,
  asked: object,
  { signal, onProgress }: { readonly signal: AbortSignal; readonly onProgress: (progress: number) => void }
): Promise<void> {
  signal.throwIfAborted();
  const worker = fork(processFile(program), { stdio: ['ignore', 'ignore', 'pipe', 'ipc'], execArgv: [] });
  const stop = (): void => void worker.kill('SIGKILL');
  signal.addEventListener('abort', stop, { once: true });
  let lastWords = '';
  worker.stderr?.setEncoding('utf8').on('data', (text: string) => (lastWords = (lastWords + text).slice(-4000)));
  try {
    await new Promise<void>((resolve, reject) => {
      worker.on('message', (raw) => {
        const message = said.safeParse(raw);
        if (!message.success) reject(new Error(`the process ${program} said what was not expected`));
        else if (message.data.type === 'done') resolve();
        else onProgress(message.data.progress);
      });
      worker.once('error', reject);
      worker.once('close', (code, by) =>
        reject(
          signal.aborted
            ? (signal.reason as Error)
            : Object.assign(new Error(`the process ${program} ended (${by ?? code}): ${lastWords.trim()}`), {
                // What the disk had no room for is told as such.
                ...(/ENOSPC/.test(lastWords) && { code: 'ENOSPC' })
              })
        )
      );
      worker.send(asked);
    });
  } finally {
    signal.removeEventListener('abort', stop);
    stop();
  }
}
