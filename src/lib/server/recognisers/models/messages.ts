/** What the server and a process that hears with a speech model say to each other. */
import { z } from 'zod';
import { msSchema } from '$lib/core/time';

const modelSchema = z.object({
  family: z.string(),
  /** Paths by their roles. */
  files: z.record(z.string(), z.string()),
  tokensPath: z.string(),
  hearsBy: z.enum(['stretch', 'stream']),
  modelType: z.string().nullable(),
  /** The language it is told to hear; `null` where it is not told. */
  language: z.string().nullable(),
  threads: z.int().min(1)
});
/** A model with all that is needed to load it. */
export type LoadedModel = z.infer<typeof modelSchema>;

export const toEar = z.discriminatedUnion('type', [
  /** Said first, once. */
  z.object({ type: z.literal('load'), model: modelSchema }),
  /** A stretch of a file of 16-bit mono sound at 16 kHz. */
  z.object({ type: z.literal('hear'), soundPath: z.string(), startMs: msSchema, endMs: msSchema }),
  /** A second of a tone: what does not fit ends the process here. */
  z.object({ type: z.literal('probe') })
]);
export type ToEar = z.infer<typeof toEar>;

const readStretch = z.object({
  text: z.string(),
  pieces: z.array(z.string()),
  /** From the stretch's start. */
  startsMs: z.array(z.number()),
  logProbabilities: z.array(z.number())
});

export const fromEar = z.discriminatedUnion('type', [
  z.object({ type: z.literal('ready') }),
  z.object({ type: z.literal('unable'), reason: z.string() }),
  z.object({ type: z.literal('heard'), read: readStretch })
]);
export type FromEar = z.infer<typeof fromEar>;
