import { z } from 'zod';

/** What undo and redo are asked with. */
export const stepRequest = z.object({ revision: z.int().min(0), batchId: z.uuid().optional() });
