import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { strictSheetSchema } from '$lib/core/checks';
import { clientCommandSchema } from '$lib/core/commands';
import { getApp } from '$lib/server/app';
import { answer, check, readJson } from '$lib/server/http/answers';
import { savedAnswer } from '$lib/server/tracks/answer';
import type { RequestEvent } from './$types';

const editsRequest = z.object({
  revision: z.int().min(0),
  edits: z.array(clientCommandSchema).min(1).max(10_000),
  batchId: z.uuid().optional()
});

export const GET = ({ params, url }: RequestEvent) =>
  answer(() => {
    const after = check(z.coerce.number().int().min(0), url.searchParams.get('after') ?? '0', 'after');
    const { tracks } = getApp();
    const { revision, entries } = tracks.entriesAfter(params.id, after);
    return json({
      revision,
      entries: entries.map(({ revision, commands, changes, label, kind, batchId }) => ({
        ...{ revision, edits: commands, changes, label, kind, batchId }
      })),
      history: tracks.history(params.id)
    });
  });

export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const { edits: commands, ...asked } = await readJson(request, editsRequest);
    // The core keeps any sheet that has the form of one; which checks there are is known here.
    for (const command of commands)
      if (command.type === 'setSheet') check(strictSheetSchema, command.sheet, 'The sheet');
    return json(savedAnswer(getApp().tracks.applyClientCommands(params.id, { ...asked, commands })));
  });
