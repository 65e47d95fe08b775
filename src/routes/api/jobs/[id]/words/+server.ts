import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** What a hearing has heard so far, as it will stand in the draft. */
export const GET = ({ params }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const words = await app.hearing.wordsSoFar(app.jobs.get(params.id));
    return json({
      words: words.map(({ text, startMs, endMs, confidence }) => ({ text, startMs, endMs, confidence }))
    });
  });
