import { z } from 'zod';

/** What is looked for. */
export const querySchema = z
  .object({
    text: z.string().min(1).max(1000),
    matchCase: z.boolean(),
    wholeWord: z.boolean(),
    /** Whatever it is written as: by how English says it, over as many words as it takes. */
    soundsLike: z.boolean()
  })
  .readonly();
export type Query = z.infer<typeof querySchema>;
