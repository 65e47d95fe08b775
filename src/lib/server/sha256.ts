import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';

/** In hexadecimal. */
export const sha256Of = (data: string | Uint8Array): string => createHash('sha256').update(data).digest('hex');

/** Of a file of any size. */
export async function sha256OfFile(path: string, signal?: AbortSignal): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path, { highWaterMark: 1 << 20 }), hash, { signal });
  return hash.digest('hex');
}
