import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { trimCommandSchema } from '$lib/core/trims';
import { getApp } from '$lib/server/app';
import { answer, check, readJson } from '$lib/server/http/answers';
import { savedTrimAnswer } from '$lib/server/trims/answer';
import type { RequestEvent } from './$types';

const editsRequest = z.object({
  revision: z.int().min(0),
  edits: z.array(trimCommandSchema).min(1).max(1000),
  batchId: z.uuid().optional()
});

export const GET = ({ params, url }: RequestEvent) =>
  answer(() => {
    const after = check(z.coerce.number().int().min(0), url.searchParams.get('after') ?? '0', 'after');
    const { trims } = getApp();
    const { revision, entries } = trims.entriesAfter(params.id, after);
    return json({
      revision,
      entries: entries.map(({ commands, madeAtMs: _, ...entry }) => ({ ...entry, edits: commands })),
      history: trims.history(params.id)
    });
  });

export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const { edits: commands, ...asked } = await readJson(request, editsRequest);
    return json(savedTrimAnswer(getApp().trims.apply(params.id, { ...asked, commands })));
  });
