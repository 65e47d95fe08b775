/** Documents as PDF, written in a thread of its own: setting two hours of text takes its time. */
import { z } from 'zod';
import type { Paper } from '$lib/core/paper';
import { runThread } from '../../children';

const bytes = z.instanceof(Uint8Array);

export const writePdf = (paper: Paper, signal: AbortSignal): Promise<Uint8Array> =>
  runThread('pdf', paper, { signal, take: (message) => bytes.parse(message) });
