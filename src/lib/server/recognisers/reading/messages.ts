/** What the process that reads a script aloud is asked, and what it says. */
import { msSchema } from '$lib/core/time';
import { z } from 'zod';

const span = z.object({ startMs: msSchema, endMs: msSchema });

export const readingRequest = z.object({
  /** Names of the synthesiser's voices, the first one that there is. */
  voices: z.array(z.string()).min(1),
  words: z.array(z.object({ text: z.string(), spaceBefore: z.boolean() })),
  soundPath: z.string(),
  /** Where there is speech. */
  regions: z.array(span)
});
export type ReadingRequest = z.infer<typeof readingRequest>;

export const readingSaid = z.discriminatedUnion('type', [
  z.object({ type: z.literal('progress'), progress: z.number() }),
  z.object({
    type: z.literal('laid'),
    /** As in `FittedWord`, in the order of the script. */
    words: z.array(span.extend({ place: z.enum(['fitted', 'estimated', 'not spoken']) })),
    strangeness: z.number()
  }),
  z.object({ type: z.literal('unable'), reason: z.string() })
]);
export type ReadingSaid = z.infer<typeof readingSaid>;
