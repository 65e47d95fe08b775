/** A set of a user's own keys, as it is kept: by command the keys that it has instead of its own, `null` for none. */
import { z } from 'zod';

/** Key names are tinykeys'. */
const keySchema = z.string().min(1).max(40).nullable();
export const changedKeysSchema = z
  .record(z.string().max(60), z.object({ surface: keySchema.optional(), typing: keySchema.optional() }).readonly())
  .readonly();
export type ChangedKeys = z.infer<typeof changedKeysSchema>;

export const setNameSchema = z.string().trim().min(1).max(60);
export const keySetSchema = z.object({ name: setNameSchema, keys: changedKeysSchema }).readonly();
export type KeySet = z.infer<typeof keySetSchema>;
