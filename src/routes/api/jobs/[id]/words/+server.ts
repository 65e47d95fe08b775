import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { answer, check } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

const wordsQuery = z.object({ fromMs: z.coerce.number().int().min(0).default(0) });

/** What a hearing has heard so far, of the chunks that begin at `fromMs` or later, as it will stand in the draft. */
export const GET = ({ params, url }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { fromMs } = check(wordsQuery, Object.fromEntries(url.searchParams), 'The query');
    const words = await app.hearing.wordsSoFar(app.jobs.get(params.id), fromMs);
    return json({
      /** Whether a track can be begun that grows while it is corrected. */
      canBegin: app.hearing.growing.canBegin(params.id),
      words: words.map(({ text, startMs, endMs, confidence }) => ({ text, startMs, endMs, confidence }))
    });
  });
