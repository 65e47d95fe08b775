/** A thread that tells voices apart: the sums of each stretch, then who speaks which. */
import { open } from 'node:fs/promises';
import { parentPort, workerData } from 'node:worker_threads';
import { z } from 'zod';
import { SAMPLES_A_MS } from '$lib/core/audio';
import { tellVoices, voiceOf, type VoiceSums } from '$lib/core/speakers';

const asked = z
  .object({
    soundPath: z.string(),
    stretches: z.array(z.object({ startMs: z.number(), endMs: z.number() })),
    count: z.union([z.int().min(1), z.literal('auto')])
  })
  .parse(workerData);

const sound = await open(asked.soundPath, 'r');
const sums: VoiceSums[] = [];
for (const { startMs, endMs } of asked.stretches) {
  const samples = new Int16Array((endMs - startMs) * SAMPLES_A_MS);
  const { bytesRead } = await sound.read(
    new Uint8Array(samples.buffer),
    0,
    samples.byteLength,
    startMs * SAMPLES_A_MS * 2
  );
  sums.push(voiceOf(samples.subarray(0, bytesRead >> 1)));
}
await sound.close();
parentPort?.postMessage({ voices: tellVoices(sums, asked.count) });
