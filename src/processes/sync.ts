/** A thread that looks for the shift and speed that lay captions on a recording's speech. */
import { parentPort, workerData } from 'node:worker_threads';
import { z } from 'zod';
import { estimateSync } from '$lib/core/sync';

const span = z.object({ startMs: z.number(), endMs: z.number() });
const asked = z
  .object({
    cues: z.array(span),
    speech: z.object({ frameMs: z.number(), probabilities: z.array(z.number()) }),
    durationMs: z.number()
  })
  .parse(workerData);

parentPort?.postMessage(estimateSync(asked.cues, asked.speech, asked.durationMs));
