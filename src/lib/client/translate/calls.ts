/** Calls of translations, their answers checked. */
import { z } from 'zod';
import { type TrackId, trackIdSchema } from '$lib/core/id';
import { glossaryTermSchema, type GlossaryTerm } from '$lib/core/translating';
import { call, jobSchema, post, trackSummarySchema, type Job } from '../api';

const pairSchema = z.object({
  from: z.string(),
  to: z.string(),
  worth: z.enum(['good', 'rough']),
  via: z.string().optional()
});
export type TranslatorPair = z.infer<typeof pairSchema>;

const translatorSchema = z.object({
  id: z.string(),
  name: z.string(),
  sendsText: z.boolean(),
  price: z.object({ centsPerThousand: z.number(), balanceCents: z.number(), currency: z.string() }).optional(),
  pairs: z.array(pairSchema),
  missing: z.array(pairSchema.extend({ install: z.string() })),
  available: z.boolean(),
  reason: z.string().optional()
});
export type TranslatorFacts = z.infer<typeof translatorSchema>;

const progressSchema = z.object({
  rows: z.number(),
  states: z.object({ empty: z.number(), machine: z.number(), mine: z.number(), done: z.number() }),
  changed: z.number()
});
const translationSchema = trackSummarySchema.extend({ progress: progressSchema });
export type TranslationSummary = z.infer<typeof translationSchema>;

const quoteSchema = z
  .object({
    characters: z.number(),
    costCents: z.number(),
    balanceAfterCents: z.number(),
    currency: z.string()
  })
  .nullable();
export type TextQuote = NonNullable<z.infer<typeof quoteSchema>>;

const partSchema = z.object({ text: z.string(), firstRow: z.number(), rows: z.number() });
export type ClipboardPart = z.infer<typeof partSchema>;
const pastedSchema = z.object({
  rows: z.array(z.object({ row: z.number(), text: z.string(), sure: z.boolean() })),
  left: z.array(z.string())
});
export type Pasted = z.infer<typeof pastedSchema>;

const recalledSchema = z.object({ source: z.string(), target: z.string(), likeness: z.number() });
export type Recalled = z.infer<typeof recalledSchema>;

export interface BeginAsked {
  readonly language: string;
  readonly title?: string;
  readonly from: 'empty' | 'source' | 'engine' | 'text';
  readonly engine?: string;
  readonly text?: string;
  readonly spendCents?: number;
}

export const translateCalls = {
  translators: async () =>
    (await call(z.object({ translators: z.array(translatorSchema) }), '/api/translators')).translators,
  translations: async (sourceId: TrackId) =>
    (await call(z.object({ translations: z.array(translationSchema) }), `/api/tracks/${sourceId}/translations`))
      .translations,
  /** The new track, and the work that drafts it where an engine does. */
  begin: async (sourceId: TrackId, asked: BeginAsked): Promise<{ trackId: TrackId; job: Job | null }> => {
    const answer = await call(
      z.union([
        z.object({ job: jobSchema, trackId: trackIdSchema }),
        z.object({ track: z.object({ id: trackIdSchema }) })
      ]),
      `/api/tracks/${sourceId}/translations`,
      post(asked)
    );
    return 'job' in answer ? answer : { trackId: answer.track.id, job: null };
  },
  quote: async (trackId: TrackId, engine: string, isWhole: boolean) =>
    (
      await call(
        z.object({ quote: quoteSchema }),
        `/api/tracks/${trackId}/drafts?engine=${encodeURIComponent(engine)}${isWhole ? '&all=1' : ''}`
      )
    ).quote,
  draft: async (trackId: TrackId, asked: { readonly engine: string; readonly spendCents?: number }) =>
    (await call(z.object({ job: jobSchema }), `/api/tracks/${trackId}/drafts`, post(asked))).job,
  parts: async (trackId: TrackId, mostCharacters: number) =>
    (
      await call(
        z.object({ parts: z.array(partSchema) }),
        `/api/tracks/${trackId}/clipboard?mostCharacters=${mostCharacters}`
      )
    ).parts,
  /** What was pasted, as it would be laid on the rows. */
  tryPasted: (trackId: TrackId, asked: { readonly text: string; readonly firstRow: number; readonly rows: number }) =>
    call(pastedSchema, `/api/tracks/${trackId}/clipboard`, post({ ...asked, dryRun: true })),
  takePasted: (
    trackId: TrackId,
    asked: {
      readonly text: string;
      readonly firstRow: number;
      readonly rows: number;
      readonly keepSource: boolean;
      readonly overwrite: boolean;
      readonly only: readonly number[];
    }
  ) => call(pastedSchema, `/api/tracks/${trackId}/clipboard`, post(asked)),
  recall: async (trackId: TrackId, text: string): Promise<readonly Recalled[]> =>
    (
      await call(
        z.object({ recalled: z.array(z.array(recalledSchema)) }),
        `/api/tracks/${trackId}/recall`,
        post({ texts: [text] })
      )
    ).recalled[0] ?? [],
  terms: async (from: string, to: string): Promise<readonly GlossaryTerm[]> =>
    (
      await call(
        z.object({ terms: z.array(glossaryTermSchema) }),
        `/api/glossary?from=${encodeURIComponent(from)}&to=${encodeURIComponent(to)}`
      )
    ).terms,
  keepTerms: async (from: string, to: string, terms: readonly GlossaryTerm[]): Promise<readonly GlossaryTerm[]> =>
    (
      await call(z.object({ terms: z.array(glossaryTermSchema) }), '/api/glossary', {
        ...post({ from, to, terms }),
        method: 'PUT'
      })
    ).terms
};
