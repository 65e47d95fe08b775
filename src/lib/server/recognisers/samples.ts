/** Sound as engines are given it. */
import { open } from 'node:fs/promises';

const BYTES_A_MS = 32;

/** A stretch of a file of 16-bit mono sound at 16 kHz, as far as it goes. */
export async function readSamples(path: string, startMs: number, endMs: number): Promise<Int16Array> {
  const file = await open(path, 'r');
  try {
    const samples = new Int16Array((endMs - startMs) * (BYTES_A_MS / 2));
    const { bytesRead } = await file.read(new Uint8Array(samples.buffer), 0, samples.byteLength, startMs * BYTES_A_MS);
    return samples.subarray(0, bytesRead >> 1);
  } finally {
    await file.close();
  }
}
