/** The server's calls for what is being spoken. */
import { z } from 'zod';
import { liveWordSchema } from '$lib/core/narration';
import { msSchema, type Span } from '$lib/core/time';
import { call, jobSchema, post, recordingSchema, type Recording } from '../api';

const narrationSchema = z.object({
  id: z.string(),
  title: z.string(),
  language: z.string(),
  script: z.string(),
  leftOut: z.array(z.object({ startMs: msSchema, endMs: msSchema })),
  createdAtMs: z.number(),
  storedBytes: z.number()
});
/** What is being spoken, or was broken off. */
export type Narration = Readonly<z.infer<typeof narrationSchema>>;

const oneSchema = z.object({ narration: narrationSchema });
const heardSchema = oneSchema.extend({ words: z.array(liveWordSchema), pending: z.array(liveWordSchema) });
const writtenSchema = z.object({
  storedBytes: z.number(),
  settled: z.array(liveWordSchema),
  pending: z.array(liveWordSchema),
  isHeard: z.boolean(),
  roomMs: z.number()
});
export type Written = Readonly<z.infer<typeof writtenSchema>>;

const PATH = '/api/recordings/live';

export const narrationCalls = {
  begin: async (about: Pick<Narration, 'title' | 'language' | 'script'>): Promise<Narration> =>
    (await call(oneSchema, PATH, post(about))).narration,
  list: async (): Promise<Narration[]> =>
    (await call(z.object({ narrations: z.array(narrationSchema) }), PATH)).narrations,
  /** `known`: how many of the words that stand are here. */
  get: (id: string, known: number) => call(heardSchema, `${PATH}/${id}?known=${known}`),
  write: (id: string, offsetBytes: number, bytes: Uint8Array<ArrayBuffer>, known: number): Promise<Written> =>
    call(writtenSchema, `${PATH}/${id}/${offsetBytes}?known=${known}`, { method: 'PUT', body: bytes }),
  setLeftOut: (id: string, leftOut: readonly Span[]): Promise<unknown> =>
    call(oneSchema, `${PATH}/${id}`, { ...post({ leftOut }), method: 'PATCH' }),
  end: async (id: string): Promise<Recording> =>
    (await call(z.object({ recording: recordingSchema, job: jobSchema }), `${PATH}/${id}/end`, { method: 'POST' }))
      .recording
};
