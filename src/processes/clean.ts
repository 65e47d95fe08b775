/** A thread that takes music and noise from under the voices, block by block. */
import { open } from 'node:fs/promises';
import { parentPort, workerData } from 'node:worker_threads';
import { z } from 'zod';
import { cleanSpeech } from '$lib/core/audio';

/** 16 kHz. Each block is heard with its surroundings, so that its edges are cleaned like its middle. */
const BLOCK = 16_000 * 20;
const MARGIN = 16_000 * 2;

const { soundPath, cleanPath, background } = z
  .object({ soundPath: z.string(), cleanPath: z.string(), background: z.enum(['music', 'noise']) })
  .parse(workerData);

const [from, to] = [await open(soundPath, 'r'), await open(cleanPath, 'w')];
const total = (await from.stat()).size >> 1;
for (let start = 0; start < total; start += BLOCK) {
  const first = Math.max(0, start - MARGIN);
  const samples = new Int16Array(Math.min(total, start + BLOCK + MARGIN) - first);
  await from.read(new Uint8Array(samples.buffer), 0, samples.byteLength, first * 2);
  const clean = cleanSpeech(samples, background).subarray(start - first, Math.min(total, start + BLOCK) - first);
  await to.write(new Uint8Array(clean.buffer, clean.byteOffset, clean.byteLength));
  parentPort?.postMessage({ type: 'progress', progress: Math.min(1, (start + BLOCK) / total) });
}
await Promise.all([from.close(), to.close()]);
parentPort?.postMessage({ type: 'done' });
