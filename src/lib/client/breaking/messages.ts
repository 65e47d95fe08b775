import { cueIdSchema } from '$lib/core/id';
import { z } from 'zod';
import { cueSchema, rulesSchema, trackSchema } from '$lib/core/track';

export const askedSchema = z.object({
  id: z.int(),
  track: trackSchema,
  rules: rulesSchema,
  /** Left out: the whole track. */
  cueIds: z.array(cueIdSchema).optional()
});
export type BreakRequest = z.infer<typeof askedSchema>;

export const answerSchema = z.object({ id: z.int(), cues: z.array(cueSchema).readonly() });
export type Answer = z.infer<typeof answerSchema>;
