/** What the metered service and this application say to each other: JSON over HTTP, sound as raw samples. */
import { msSchema } from '$lib/core/time';
import { countCharacters } from '$lib/core/track';
import { z } from 'zod';

export const accountSchema = z.object({
  name: z.string(),
  /** What is left to spend; what open orders hold back is taken off. */
  balanceCents: z.int(),
  /** For each started minute. */
  centsPerMinute: z.int().min(0),
  /** ISO 4217. */
  currency: z.string(),
  /** BCP 47. */
  languages: z.array(z.string()),
  /** What it translates, and what each thousand characters cost that were begun. */
  translating: z.object({
    pairs: z.array(z.object({ from: z.string(), to: z.string() })),
    centsPerThousand: z.int().min(0)
  })
});
export type Account = z.infer<typeof accountSchema>;

/** `POST /orders`. The same key is the same order, however often it is sent. */
export const orderRequest = z.object({
  key: z.string().min(8).max(200),
  language: z.string(),
  durationMs: z.int().min(1),
  terms: z.array(z.string()).max(5000)
});
export type OrderRequest = z.infer<typeof orderRequest>;

export const serviceWordSchema = z.object({
  text: z.string(),
  startMs: msSchema,
  endMs: msSchema,
  confidence: z.number().min(0).max(1),
  alternatives: z.array(z.string())
});
export type ServiceWord = z.infer<typeof serviceWordSchema>;

export const orderSchema = z.object({
  id: z.uuid(),
  state: z.enum(['awaiting sound', 'working', 'done', 'failed', 'cancelled']),
  progress: z.number().min(0).max(1),
  minutes: z.int(),
  costCents: z.int(),
  /** Why it failed. */
  reason: z.string().optional(),
  /** When it is done: times count from the first sample that was sent. */
  words: z.array(serviceWordSchema).optional()
});
export type Order = z.infer<typeof orderSchema>;

export const refusalSchema = z.object({ error: z.object({ code: z.string(), message: z.string() }) });

/** Every minute that was begun is paid. */
export const startedMinutes = (durationMs: number): number => Math.max(1, Math.ceil(durationMs / 60_000));

/** `POST /translations`. The same key is the same order. */
export const textOrderRequest = z.object({
  key: z.string().min(8).max(200),
  /** BCP 47. */
  from: z.string(),
  to: z.string(),
  sentences: z.array(z.string().max(10_000)).min(1).max(20_000)
});
export type TextOrderRequest = z.infer<typeof textOrderRequest>;

export const textOrderSchema = z.object({
  id: z.uuid(),
  state: z.enum(['working', 'done', 'failed', 'cancelled']),
  progress: z.number().min(0).max(1),
  characters: z.int(),
  costCents: z.int(),
  /** Why it failed. */
  reason: z.string().optional(),
  /** When it is done: one for each that was sent; `unknown`: the words, parted at spaces, that it is not sure of. */
  sentences: z.array(z.object({ text: z.string(), unknown: z.array(z.int().min(0)) })).optional()
});
export type TextOrder = z.infer<typeof textOrderSchema>;

/** What is paid for. */
export const orderedCharacters = (sentences: readonly string[]): number =>
  sentences.reduce((sum, sentence) => sum + countCharacters(sentence), 0);
