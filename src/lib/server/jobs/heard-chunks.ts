/** What a hearing has heard, chunk by chunk, as its job keeps it. */
import { z } from 'zod';
import type { HeardChunk } from '$lib/core/hearing';
import type { JobStore } from '../store/jobs';

const heardWords = z
  .array(
    z.object({
      text: z.string(),
      startMs: z.int(),
      endMs: z.int(),
      confidence: z.number(),
      alternatives: z.array(z.string()),
      endOdds: z.number().nullable().default(null)
    })
  )
  .nullable();

/** Words of the chunks that a hearing has done, in order of the recording. */
export function heardChunks(jobs: JobStore, jobId: string): HeardChunk[] {
  return jobs
    .chunksOf(jobId)
    .filter((chunk) => chunk.result !== null)
    .map(({ startMs, endMs, result }) => ({ startMs, endMs, words: heardWords.parse(JSON.parse(result!)) }));
}

/** As far as every chunk is heard from the first on. */
export function heardInOrder(jobs: JobStore, jobId: string): HeardChunk[] {
  const chunks = jobs.chunksOf(jobId);
  const open = chunks.findIndex((chunk) => chunk.result === null);
  const count = open < 0 ? chunks.length : open;
  return heardChunks(jobs, jobId).slice(0, count);
}
