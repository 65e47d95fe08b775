import { z } from 'zod';
import { cueIdSchema } from '$lib/core/id';
import { trackSchema } from '$lib/core/track';

/** The light map comes first, and stays. */
export const askedSchema = z.discriminatedUnion('type', [
  z.object({ type: z.literal('light'), bytes: z.custom<Uint8Array>((value) => value instanceof Uint8Array) }),
  z.object({
    type: z.literal('measure'),
    id: z.int(),
    track: trackSchema,
    picture: z.object({ width: z.number(), height: z.number() }),
    advances: z.record(z.string(), z.number())
  })
]);
export type ContrastRequest = z.infer<typeof askedSchema>;

const legibilitySchema = z.object({
  worst: z.number(),
  median: z.number(),
  poorShare: z.number(),
  at: z.object({ ms: z.number(), line: z.number(), luminance: z.number() }).nullable(),
  isRestless: z.boolean()
});
export const answerSchema = z.object({
  id: z.int(),
  cues: z.array(z.object({ cueId: cueIdSchema, legibility: legibilitySchema, isOverLettering: z.boolean() })).readonly()
});
export type Answer = z.infer<typeof answerSchema>;
