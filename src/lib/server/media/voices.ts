/** Who speaks when in a recording, told in a thread of its own. */
import { Worker } from 'node:worker_threads';
import { z } from 'zod';
import { voiceStretches, type Turn } from '$lib/core/speakers';
import type { Span } from '$lib/core/time';
import { processFile } from '../process-file';

const answerSchema = z.object({ voices: z.array(z.int().min(0)) });

/** `count`: how many voices there are, or `auto`. Rejects when aborted. */
export async function findTurns(
  soundPath: string,
  regions: readonly Span[],
  { count, signal }: { count: number | 'auto'; signal: AbortSignal }
): Promise<readonly Turn[]> {
  const stretches = voiceStretches(regions);
  const worker = new Worker(processFile('voices'), { workerData: { soundPath, stretches, count } });
  const stop = (): void => void worker.terminate();
  signal.addEventListener('abort', stop, { once: true });
  try {
    const { voices } = await new Promise<z.infer<typeof answerSchema>>((resolve, reject) => {
      worker.once('message', (raw: unknown) => resolve(answerSchema.parse(raw)));
      worker.once('error', reject);
      worker.once('exit', (code) => reject(new Error(`the thread that tells voices apart ended with ${code}`)));
    });
    return stretches.map((stretch, at) => ({ ...stretch, voice: voices[at]! }));
  } finally {
    signal.removeEventListener('abort', stop);
    stop();
  }
}
