/** What a document to be read or printed consists of: plain parts, in order. */
import { z } from 'zod';

/** Text in the document's language, or in another one (BCP 47). */
const phraseSchema = z.union([z.string(), z.object({ text: z.string(), language: z.string() }).readonly()]);
export type Phrase = z.infer<typeof phraseSchema>;

const list = <S extends z.ZodType>(item: S) => z.array(item).readonly();

const partSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('heading'), level: z.union([z.literal(2), z.literal(3)]), text: phraseSchema }),
  z.object({
    kind: z.literal('paragraph'),
    text: phraseSchema,
    /** When it is said, told in a column of its own; `null`: not told. */
    startMs: z.number().nullable(),
    tone: z.enum(['plain', 'soft', 'sound'])
  }),
  z.object({
    kind: z.literal('facts'),
    name: z.string(),
    facts: list(z.object({ label: z.string(), value: phraseSchema }))
  }),
  z.object({
    kind: z.literal('table'),
    name: z.string(),
    /** `share`: of the width, beside the others'. */
    columns: list(z.object({ head: z.string(), share: z.number().positive() })),
    rows: list(list(phraseSchema))
  }),
  z.object({
    kind: z.literal('bars'),
    name: z.string(),
    bars: list(z.object({ label: z.string(), count: z.number(), isOutside: z.boolean() }))
  })
]);
export type Part = z.infer<typeof partSchema>;

export const paperSchema = z.object({ title: z.string(), language: z.string(), parts: list(partSchema) }).readonly();
export type Paper = z.infer<typeof paperSchema>;

export const textOf = (phrase: Phrase): string => (typeof phrase === 'string' ? phrase : phrase.text);
