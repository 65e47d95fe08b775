/** What its owner says of a speech model, in a file beside it (`ear.json`): what the model itself does not say. */
import { z } from 'zod';
import { fail, ok, type Result } from '../result';
import { languageTagSchema } from '../track';

export const SETTINGS_FILE = 'ear.json';

export const earSettingsSchema = z
  .object({
    /** As it is listed; left out: its folder's name. */
    name: z.string().trim().min(1).max(200).optional(),
    /** BCP 47; left out: those that the model tells. */
    languages: z.array(languageTagSchema).max(300).optional(),
    /** What is to be known of it before it is chosen. */
    note: z.string().trim().max(1000).optional()
  })
  .strict()
  .readonly();
export type EarSettings = z.infer<typeof earSettingsSchema>;

export function readEarSettings(text: string): Result<EarSettings, string> {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return fail(`“${SETTINGS_FILE}” is no JSON.`);
  }
  const read = earSettingsSchema.safeParse(raw);
  if (read.success) return ok(read.data);
  const [issue] = read.error.issues;
  return fail(`“${SETTINGS_FILE}”, ${issue?.path.join('.') || 'as a whole'}: ${issue?.message ?? 'cannot be read'}.`);
}
