/** What the page and the worker that checks tell each other. */
import { z } from 'zod';
import { findingSchema, type Knowledge } from '$lib/core/checks';
import { clientCommandSchema } from '$lib/core/commands';
import { doubtSchema } from '$lib/core/doubts';
import { cueIdSchema, wordIdSchema } from '$lib/core/id';
import { glossaryTermSchema } from '$lib/core/translating';
import { trackChangesSchema, trackSchema } from '$lib/core/track';

const spans = z.array(z.object({ startMs: z.number(), endMs: z.number() })).readonly();
const knowledgeSchema = z.object({
  durationMs: z.number(),
  frameMs: z.number(),
  speech: spans.nullable(),
  shotsMs: z.array(z.number()).readonly().nullable(),
  sounds: spans.nullable(),
  contrast: z
    .map(cueIdSchema, z.object({ worst: z.number(), isLarge: z.boolean(), isOverLettering: z.boolean() }))
    .readonly()
    .nullable(),
  doubts: z.map(wordIdSchema, doubtSchema).readonly().nullable(),
  isSpelled: z.boolean(),
  source: trackSchema.nullable(),
  terms: z.array(glossaryTermSchema).readonly()
}) satisfies z.ZodType<Knowledge>;

/** The track comes first, then what changes in it. */
export const askedSchema = z.discriminatedUnion('type', [
  z.object({ type: z.literal('track'), track: trackSchema }),
  z.object({ type: z.literal('changes'), changes: trackChangesSchema }),
  z.object({ type: z.literal('know'), knowledge: knowledgeSchema }),
  z.object({ type: z.literal('check'), id: z.int() }),
  /** Asks what would mend findings, one after the other. */
  z.object({ type: z.literal('mend'), id: z.int(), keys: z.array(z.string()).readonly(), atMs: z.number() })
]);
export type Asked = z.infer<typeof askedSchema>;

const needSchema = z.enum(['speech', 'shots', 'sounds', 'contrast', 'doubts', 'dictionary', 'source']);
export const answerSchema = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('report'),
    id: z.int(),
    findings: z.array(findingSchema).readonly(),
    notChecked: z.array(z.object({ rule: z.string(), needs: needSchema })).readonly()
  }),
  /** How far the mending is, 0 to 1. */
  z.object({ type: z.literal('mending'), id: z.int(), progress: z.number() }),
  z.object({
    type: z.literal('mended'),
    id: z.int(),
    commands: z.array(clientCommandSchema).readonly(),
    keys: z.array(z.string()).readonly()
  })
]);
export type Answer = z.infer<typeof answerSchema>;
