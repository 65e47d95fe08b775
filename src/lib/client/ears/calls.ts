/** The server's calls for speech models of the user's own. */
import { z } from 'zod';
import type { EarSettings } from '$lib/core/ears';
import { call, post } from '../api';

const earSchema = z.object({
  id: z.string(),
  folder: z.string(),
  name: z.string(),
  languages: z.array(z.string()),
  sizeBytes: z.number(),
  note: z.string().optional(),
  /** Left out where the folder holds no model. */
  family: z.string().optional(),
  writes: z.enum(['bare words', 'text']).optional(),
  can: z.object({ times: z.boolean(), confidence: z.boolean(), hotwords: z.boolean() }).optional(),
  state: z.enum(['trying', 'ready', 'unusable']),
  loadMs: z.number().optional(),
  reason: z.string().optional()
});
export type Ear = Readonly<z.infer<typeof earSchema>>;

const listSchema = z.object({ folder: z.string(), ears: z.array(earSchema) });
export type EarList = Readonly<z.infer<typeof listSchema>>;

export const earCalls = {
  list: (): Promise<EarList> => call(listSchema, '/api/ears'),
  describe: async (id: string, settings: EarSettings): Promise<Ear> =>
    (
      await call(z.object({ ear: earSchema }), `/api/ears/${encodeURIComponent(id)}`, {
        ...post(settings),
        method: 'PUT'
      })
    ).ear
};
