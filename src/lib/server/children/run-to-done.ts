/**
 * Heavy work in processes of their own, for what keeps its memory to the end: a network's runtime gives nothing back to
 * a server that runs on.
 */
import { z } from 'zod';
import { Child, failureOf } from './child';

const schema = z.discriminatedUnion('type', [
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
  let isDone = false;
  const child = Child.program(program, {
    signal,
    said: {
      schema,
      take: (message) => {
        if (message.type === 'progress') return onProgress(message.progress);
        isDone = true;
        child.end();
      }
    }
  });
  child.send(asked);
  const end = await child.ended;
  if (!isDone) throw failureOf(`the process ${program}`, end);
}
