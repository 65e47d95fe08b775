import { createHash } from 'node:crypto';

/** In hexadecimal. */
export const sha256Of = (data: string | Uint8Array): string => createHash('sha256').update(data).digest('hex');
