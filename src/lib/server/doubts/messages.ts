/** What the server and the process that looks for doubts say to each other. */
import { z } from 'zod';
import { doubtSchema } from '$lib/core/doubts';
import { trackSchema } from '$lib/core/track';

export const toFinder = z.object({
  id: z.int(),
  track: trackSchema,
  terms: z.array(z.object({ text: z.string(), soundsLike: z.string().nullable() }))
});
export type ToFinder = z.infer<typeof toFinder>;

export const fromFinder = z.discriminatedUnion('type', [
  /** How far one is, 0 to 1. */
  z.object({ type: z.literal('far'), id: z.int(), share: z.number() }),
  z.object({ type: z.literal('found'), id: z.int(), doubts: z.array(doubtSchema).readonly() }),
  z.object({ type: z.literal('failed'), id: z.int(), reason: z.string() })
]);
export type FromFinder = z.infer<typeof fromFinder>;
