/** What the server and an engine process say to each other. */
import { liveWordSchema } from '$lib/core/narration';
import { msSchema } from '$lib/core/time';
import { z } from 'zod';

const expectedFiles = z.object({ dictionaryPath: z.string(), phraseModelPath: z.string() });
/** Files of what an engine is to expect. */
export type ExpectedFiles = z.infer<typeof expectedFiles>;

/**
 * What an engine is tuned for: to hear fast, to search widely through a passage, to lay known words on the sound, or to
 * hear what is being spoken.
 */
const purpose = z.enum(['hear', 'search', 'fit', 'listen']);
export type Purpose = z.infer<typeof purpose>;

const stretch = { position: z.int(), soundPath: z.string(), startMs: msSchema, endMs: msSchema };

export const toEngine = z.discriminatedUnion('type', [
  /** Said first, once: load the model. */
  z.object({ type: z.literal('load'), purpose, expected: expectedFiles.nullable() }),
  /** The best reading, and up to `others` more. */
  z.object({ type: z.literal('hear'), ...stretch, others: z.int().min(0) }),
  /** Where in the stretch these words of the dictionary are spoken; the optional ones may be missing in it. */
  z.object({
    type: z.literal('fit'),
    ...stretch,
    words: z.array(z.object({ form: z.string(), isOptional: z.boolean() })).min(1)
  }),
  /** A file of 16-bit mono sound at 48 kHz that grows: hear it on, from where the last one ended. */
  z.object({ type: z.literal('listen'), soundPath: z.string(), fromMs: z.int().min(0), toMs: z.int().min(0) })
]);
export type ToEngine = z.infer<typeof toEngine>;

const heardWord = z.object({
  text: z.string(),
  startMs: msSchema,
  endMs: msSchema,
  confidence: z.number().min(0).max(1),
  alternatives: z.array(z.string()),
  endOdds: z.number().nullable()
});

export const fromEngine = z.discriminatedUnion('type', [
  z.object({ type: z.literal('ready') }),
  /** The engine cannot work on this machine at all. */
  z.object({ type: z.literal('unable'), reason: z.string() }),
  z.object({ type: z.literal('progress'), position: z.int(), heardMs: z.number() }),
  z.object({
    type: z.literal('heard'),
    position: z.int(),
    words: z.array(heardWord),
    /** Best first, each with the natural logarithm of how likely it is against the best. */
    others: z.array(z.object({ words: z.array(heardWord), logLikelihood: z.number().max(0) }))
  }),
  /** Times of the words asked for, `null` for an optional one that is not there; no times where they cannot be laid. */
  z.object({
    type: z.literal('fitted'),
    position: z.int(),
    times: z.array(z.object({ startMs: msSchema, endMs: msSchema }).nullable()).nullable()
  }),
  /** What is settled since the last answer, and what is heard behind it. */
  z.object({ type: z.literal('listened'), settled: z.array(liveWordSchema), pending: z.array(liveWordSchema) })
]);
export type FromEngine = z.infer<typeof fromEngine>;
