/** What the server and an engine process say to each other. */
import { z } from 'zod';

const expectedFiles = z.object({ dictionaryPath: z.string(), phraseModelPath: z.string() });
/** Files of what an engine is to expect. */
export type ExpectedFiles = z.infer<typeof expectedFiles>;

export const toEngine = z.discriminatedUnion('type', [
  /** Said first, once: load the model. */
  z.object({
    type: z.literal('load'),
    expected: expectedFiles.nullable()
  }),
  z.object({
    type: z.literal('hear'),
    position: z.int(),
    soundPath: z.string(),
    startMs: z.int(),
    endMs: z.int()
  })
]);
export type ToEngine = z.infer<typeof toEngine>;

export const fromEngine = z.discriminatedUnion('type', [
  z.object({ type: z.literal('ready') }),
  /** The engine cannot work on this machine at all. */
  z.object({ type: z.literal('unable'), reason: z.string() }),
  z.object({ type: z.literal('progress'), position: z.int(), heardMs: z.number() }),
  z.object({
    type: z.literal('heard'),
    position: z.int(),
    words: z.array(
      z.object({
        text: z.string(),
        startMs: z.int(),
        endMs: z.int(),
        confidence: z.number().min(0).max(1),
        alternatives: z.array(z.string())
      })
    )
  })
]);
export type FromEngine = z.infer<typeof fromEngine>;
