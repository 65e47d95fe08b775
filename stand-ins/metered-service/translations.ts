/** What the service translates: the sentences of the demo are stored, of others it says that it is not sure of any word. */
import { readFileSync } from 'node:fs';
import { z } from 'zod';
import type { TextOrder } from '$lib/server/metered/protocol';

const storedSchema = z.array(
  z.object({ from: z.string(), to: z.string(), sentences: z.record(z.string(), z.string()) })
);
export type StoredTranslations = z.infer<typeof storedSchema>;

export const readTranslations = (path: string): StoredTranslations =>
  storedSchema.parse(JSON.parse(readFileSync(path, 'utf8')));

/** One for each sentence; `null` where the pair is none of those that are stored. */
export function translateStored(
  stored: StoredTranslations,
  { from, to, sentences }: { readonly from: string; readonly to: string; readonly sentences: readonly string[] }
): NonNullable<TextOrder['sentences']> | null {
  const pair = stored.find((one) => one.from === from && one.to === to);
  if (pair === undefined) return null;
  return sentences.map((sentence) => {
    const known = pair.sentences[sentence];
    return known === undefined
      ? { text: sentence, unknown: sentence.split(' ').map((_, at) => at) }
      : { text: known, unknown: [] };
  });
}
