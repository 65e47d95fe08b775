/** What the schemas of commands are made of, and how much of each a request may hold. */
import { z } from 'zod';
import { wordIdSchema } from '../id';
import { msSchema } from '../time';

export const MOST_WORDS = 100_000;

export const text = z.string().max(200_000);
export const lines = z.array(text).max(100).readonly();
export const wordIds = z.array(wordIdSchema).min(1).max(MOST_WORDS).readonly();
export const newWordIds = z.array(wordIdSchema).max(MOST_WORDS).readonly().optional();
/** Where each word of the new text was heard; left out, new words share the time of those they replace. */
export const times = z
  .array(z.object({ startMs: msSchema, endMs: msSchema }).readonly())
  .max(MOST_WORDS)
  .readonly()
  .optional();
/** Milliseconds since 1970, for `correctedAt`. */
export const atMs = z.int().min(0).optional();
