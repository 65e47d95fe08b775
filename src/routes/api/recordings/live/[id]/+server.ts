import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { narrationAnswer } from '$lib/server/recordings/narration-answer';
import { leftOutSchema } from '$lib/server/store/narrations';
import type { RequestEvent } from './$types';

/** With the words that stand. */
export const GET = ({ params }: RequestEvent) =>
  answer(async () => {
    const { narrations } = getApp();
    const narration = await narrationAnswer(narrations, narrations.get(params.id));
    return json({ narration, words: narrations.words(params.id) });
  });

/** What was said anew, all of it. */
export const PATCH = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const { narrations } = getApp();
    narrations.setLeftOut(params.id, (await readJson(request, z.object({ leftOut: leftOutSchema }))).leftOut);
    return json({ narration: await narrationAnswer(narrations, narrations.get(params.id)) });
  });
