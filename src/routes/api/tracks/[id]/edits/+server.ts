import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { clientEditSchema } from '$lib/core/edits';
import { getApp } from '$lib/server/app';
import { answer, check, readJson } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

const editsRequest = z.object({
  revision: z.int().min(0),
  edits: z.array(clientEditSchema).min(1).max(10_000),
  batchId: z.uuid().optional()
});

export const GET = ({ params, url }: RequestEvent) =>
  answer(() => {
    const after = check(z.coerce.number().int().min(0), url.searchParams.get('after') ?? '0', 'after');
    const { tracks } = getApp();
    const { revision, entries } = tracks.entriesAfter(params.id, after);
    return json({
      revision,
      entries: entries.map(({ revision, edits, label, kind, batchId }) => ({ revision, edits, label, kind, batchId })),
      history: tracks.history(params.id)
    });
  });

export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const asked = await readJson(request, editsRequest);
    const { revision, edits, history } = getApp().tracks.applyClientEdits(params.id, asked);
    return json({ revision, edits, history });
  });
