import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { answer, check, readJson } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

const quoteRequest = z.object({ engine: z.string(), all: z.literal('1').optional() });
const draftRequest = z.object({ engine: z.string(), spendCents: z.int().min(0).optional() });

/** What a draft would cost: of the rows of a translation that nobody has touched; `all=1`, of all that a track says. */
export const GET = ({ params, url }: RequestEvent) =>
  answer(async () => {
    const { engine, all } = check(quoteRequest, Object.fromEntries(url.searchParams), 'The query');
    const { translating } = getApp();
    return json({
      quote: await (all === undefined
        ? translating.quote(params.id, engine)
        : translating.quoteOfAll(params.id, engine))
    });
  });

export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { engine, spendCents } = await readJson(request, draftRequest);
    const job = await app.translating.draft(params.id, { engine, spendCents });
    return json({ job: app.jobs.answerOf(job), trackId: params.id }, { status: 202 });
  });
