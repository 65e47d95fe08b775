/** A thread that takes music and noise from under the voices, or holds down what lies between them, block by block. */
import { open } from 'node:fs/promises';
import { parentPort, workerData } from 'node:worker_threads';
import { z } from 'zod';
import { quietenOutside } from '$lib/core/audio';
import { loadDenoiser } from '$lib/server/media/denoise';

/** 16 kHz. Each block is heard with its surroundings, so that its edges are cleaned like its middle. */
const SAMPLES_A_MS = 16;
const BLOCK = 16_000 * 20;
const MARGIN = 16_000 * 2;

const { soundPath, cleanPath, work } = z
  .object({
    soundPath: z.string(),
    cleanPath: z.string(),
    work: z.union([
      z.object({ background: z.enum(['music', 'noise']) }),
      z.object({ speech: z.array(z.object({ startMs: z.number(), endMs: z.number() })) })
    ])
  })
  .parse(workerData);

const denoise = 'background' in work ? await loadDenoiser() : null;
const clean = (samples: Int16Array, fromMs: number): Int16Array => {
  if ('speech' in work) return quietenOutside(samples, fromMs, work.speech);
  // Music goes the same way: what held tones are taken from first is heard worse, see docs/bench.md.
  return denoise!(samples);
};

const [from, to] = [await open(soundPath, 'r'), await open(cleanPath, 'w')];
const total = (await from.stat()).size >> 1;
for (let start = 0; start < total; start += BLOCK) {
  const first = Math.max(0, start - MARGIN);
  const samples = new Int16Array(Math.min(total, start + BLOCK + MARGIN) - first);
  await from.read(new Uint8Array(samples.buffer), 0, samples.byteLength, first * 2);
  const part = clean(samples, first / SAMPLES_A_MS).subarray(start - first, Math.min(total, start + BLOCK) - first);
  await to.write(new Uint8Array(part.buffer, part.byteOffset, part.byteLength));
  parentPort?.postMessage({ type: 'progress', progress: Math.min(1, (start + BLOCK) / total) });
}
await Promise.all([from.close(), to.close()]);
parentPort?.postMessage({ type: 'done' });
