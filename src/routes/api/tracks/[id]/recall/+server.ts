import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

const recallRequest = z.object({ texts: z.array(z.string().max(10_000)).max(100) });

/** What was said before in this house that is like each text, with its translations. */
export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const { texts } = await readJson(request, recallRequest);
    const recalled = getApp().translating.recall(params.id, texts);
    return json({
      recalled: recalled.map((own) => own.map(({ remembered, likeness }) => ({ ...remembered, likeness })))
    });
  });
