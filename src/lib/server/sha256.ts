import { createHash } from 'node:crypto';
import { open } from 'node:fs/promises';

/** In hexadecimal. */
export const sha256Of = (data: string | Uint8Array): string => createHash('sha256').update(data).digest('hex');

const PIECE_BYTES = 1 << 20;

/** Of a file of any size. */
export async function sha256OfFile(path: string, signal?: AbortSignal): Promise<string> {
  const hash = createHash('sha256');
  const piece = Buffer.alloc(PIECE_BYTES);
  const file = await open(path);
  try {
    for (;;) {
      signal?.throwIfAborted();
      const { bytesRead } = await file.read(piece, 0, PIECE_BYTES);
      if (bytesRead === 0) return hash.digest('hex');
      hash.update(piece.subarray(0, bytesRead));
    }
  } finally {
    await file.close();
  }
}
