/** Looks as a JSON file: `{ "vineTapLooks": 1, "looks": [{ "name", "look" }] }`. */
import { z } from 'zod';
import { fail, ok, type Result } from '../result';
import { ownLookSchema, type OwnLook } from './kept';

const FORM = 1;
const fileSchema = z.object({ vineTapLooks: z.int(), looks: z.array(ownLookSchema).min(1).max(200) });

export const formatLooksFile = (looks: readonly OwnLook[]): string =>
  `${JSON.stringify({ vineTapLooks: FORM, looks: looks.map(({ name, look }) => ({ name, look })) }, null, 2)}\n`;

/** The looks of a file, or why there are none to be had. */
export function parseLooksFile(text: string): Result<readonly OwnLook[], { readonly message: string }> {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return fail({ message: 'This is not a file of looks: it is no JSON. Choose one that was saved here.' });
  }
  const form = z.looseObject({ vineTapLooks: z.int() }).safeParse(raw);
  if (!form.success) return fail({ message: 'This JSON file holds no looks. Choose one that was saved here.' });
  if (form.data.vineTapLooks > FORM)
    return fail({ message: 'These looks were saved by a newer version of Vine Tap, which this one cannot read.' });
  const read = fileSchema.safeParse(raw);
  if (read.success) return ok(read.data.looks);
  const [issue] = read.error.issues;
  return fail({ message: `A look in this file is not as it should be: ${issue!.path.join('.')}: ${issue!.message}.` });
}
