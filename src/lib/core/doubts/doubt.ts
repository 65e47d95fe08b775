/** What a doubt is: the schema is the type. */
import { msSchema } from '../time';
import { wordIdSchema } from '../id';
import { z } from 'zod';
import { joinWords, type Word } from '../track';

const candidateSchema = z
  .object({
    /** As it would stand in place of the words; `''` leaves them out. */
    text: z.string(),
    source: z.enum(['recogniser', 'vocabulary', 'dictionary', 'rule'])
  })
  .readonly();
/** What may be meant. */
export type Candidate = z.infer<typeof candidateSchema>;

export const doubtSchema = z
  .object({
    /** See `doubtKey`. */
    key: z.string(),
    reason: z.enum(['unsure', 'near_miss', 'spelling', 'repeated', 'capital', 'hesitation', 'sentence_end', 'hole']),
    /** Words that follow one another. */
    wordIds: z.array(wordIdSchema).min(1).readonly(),
    startMs: msSchema,
    endMs: msSchema,
    /** Best first. */
    candidates: z.array(candidateSchema).readonly()
  })
  .readonly();
export type Doubt = z.infer<typeof doubtSchema>;
export type DoubtReason = Doubt['reason'];

/** Made of the reason, the words and their text, so that a judged doubt is recognised later. */
export const doubtKey = (reason: DoubtReason, run: readonly Word[]): string =>
  `${reason} ${run.map((word) => word.id).join(' ')} ${joinWords(run)}`;
