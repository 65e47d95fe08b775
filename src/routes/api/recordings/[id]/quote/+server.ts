import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { answer, check } from '$lib/server/http/answers';
import { notFound } from '$lib/server/problem';
import { quoteFor } from '$lib/server/quote';
import type { RequestEvent } from './$types';

const asked = z.object({
  engine: z.string(),
  fromMs: z.coerce.number().int().min(0).optional(),
  toMs: z.coerce.number().int().min(1).optional()
});

/** What hearing the recording, or a stretch of it, would cost; `quote` is `null` where nothing is billed. */
export const GET = ({ params, url }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { durationMs } = app.getRecording(params.id);
    const { engine, fromMs = 0, toMs = durationMs } = check(asked, Object.fromEntries(url.searchParams), 'The query');
    const facts = await app.engineFacts(engine);
    if (facts === null) throw notFound('engine', engine);
    return json({ quote: quoteFor(facts, Math.max(1, Math.min(toMs, durationMs) - fromMs)) });
  });
