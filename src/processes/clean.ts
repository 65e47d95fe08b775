/** A process that takes music and noise from under the voices, block by block. */
import { open } from 'node:fs/promises';
import { z } from 'zod';
import { loadDenoiser } from '$lib/server/media/denoise';
import { asked, tellDone, tellProgress } from './worker';

/** Samples of 16 kHz. Each block is heard with its surroundings, so that its edges are cleaned like its middle. */
const BLOCK = 16_000 * 20;
const MARGIN = 16_000 * 2;

const { soundPath, cleanPath } = z.object({ soundPath: z.string(), cleanPath: z.string() }).parse(await asked());
const denoise = await loadDenoiser();

const [from, to] = [await open(soundPath, 'r'), await open(cleanPath, 'w')];
const total = (await from.stat()).size >> 1;
for (let start = 0; start < total; start += BLOCK) {
  const first = Math.max(0, start - MARGIN);
  const samples = new Int16Array(Math.min(total, start + BLOCK + MARGIN) - first);
  await from.read(new Uint8Array(samples.buffer), 0, samples.byteLength, first * 2);
  const part = denoise(samples).subarray(start - first, Math.min(total, start + BLOCK) - first);
  await to.write(new Uint8Array(part.buffer, part.byteOffset, part.byteLength));
  tellProgress(Math.min(1, (start + BLOCK) / total));
}
await Promise.all([from.close(), to.close()]);
tellDone();
