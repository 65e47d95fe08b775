import { z } from 'zod';

/** Of a document or an item of one: a UUID where this product minted it. */
export const idSchema = z.string().min(1).max(64);
