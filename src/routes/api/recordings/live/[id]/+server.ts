import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { answer, check, readJson } from '$lib/server/http/answers';
import { leftOutSchema } from '$lib/server/store/narrations';
import type { RequestEvent } from './$types';

const wordsRequest = z.object({ known: z.coerce.number().int().min(0).default(0) });

/** With the words that stand and that the asker does not have. */
export const GET = ({ params, url }: RequestEvent) =>
  answer(async () => {
    const { narrations } = getApp();
    const { known } = check(wordsRequest, Object.fromEntries(url.searchParams), 'The request');
    return json({ narration: await narrations.get(params.id), ...narrations.words(params.id, known) });
  });

/** What was said anew, all of it. */
export const PATCH = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const { narrations } = getApp();
    narrations.setLeftOut(params.id, (await readJson(request, z.object({ leftOut: leftOutSchema }))).leftOut);
    return json({ narration: await narrations.get(params.id) });
  });
