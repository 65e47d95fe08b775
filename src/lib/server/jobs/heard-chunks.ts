/** What a hearing has heard, chunk by chunk, as its job keeps it. */
import { msSchema } from '$lib/core/time';
import { trackIdSchema } from '$lib/core/id';
import { z } from 'zod';
import type { HeardChunk } from '$lib/core/hearing';
import type { JobChunk, JobStore } from '../store/jobs';

/** What comes of a hearing. */
export const hearResult = z.object({ trackId: trackIdSchema.optional() });

const heardWords = z
  .array(
    z.object({
      text: z.string(),
      startMs: msSchema,
      endMs: msSchema,
      confidence: z.number(),
      alternatives: z.array(z.string()),
      endOdds: z.number().nullable().default(null)
    })
  )
  .nullable();

const heardOf = ({ startMs, endMs, result }: JobChunk): HeardChunk => ({
  startMs,
  endMs,
  words: heardWords.parse(JSON.parse(result!))
});

/** What a hearing has heard of the chunks that begin at a time or later, in order of the recording. */
export const heardChunks = (jobs: JobStore, jobId: string, fromMs = 0): HeardChunk[] =>
  jobs
    .chunksOf(jobId)
    .filter((chunk) => chunk.result !== null && chunk.startMs >= fromMs)
    .map(heardOf);

/** From a position on, as far as every chunk is heard from the first one. */
export function heardInOrder(jobs: JobStore, jobId: string, from = 0): HeardChunk[] {
  const chunks = jobs.chunksOf(jobId);
  const open = chunks.findIndex((chunk) => chunk.result === null);
  return chunks.slice(from, open < 0 ? chunks.length : open).map(heardOf);
}

/** Whether anything is heard from the recording's beginning on. */
export const hasBegun = (jobs: JobStore, jobId: string): boolean => (jobs.chunksOf(jobId)[0]?.result ?? null) !== null;
