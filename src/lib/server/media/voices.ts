/** Who speaks when in a recording, told in a thread of its own. */
import { z } from 'zod';
import { voiceStretches, type Turn } from '$lib/core/speakers';
import type { Span } from '$lib/core/time';
import { runThread } from '../children';

const answerSchema = z.object({ voices: z.array(z.int().min(0)) });

/** `count`: how many voices there are, or `auto`. Rejects when aborted. */
export async function findTurns(
  soundPath: string,
  regions: readonly Span[],
  { count, signal }: { count: number | 'auto'; signal: AbortSignal }
): Promise<readonly Turn[]> {
  const stretches = voiceStretches(regions);
  const { voices } = await runThread(
    'voices',
    { soundPath, stretches, count },
    { signal, take: (message) => answerSchema.parse(message) }
  );
  return stretches.map((stretch, at) => ({ ...stretch, voice: voices[at]! }));
}
