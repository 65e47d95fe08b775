import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { languageTagSchema } from '$lib/core/track';
import { glossaryTermSchema } from '$lib/core/translating';
import { getApp } from '$lib/server/app';
import { answer, check, readJson } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

const MOST_TERMS = 5000;
const pairRequest = z.object({ from: languageTagSchema, to: languageTagSchema });
const termsRequest = pairRequest.extend({ terms: z.array(glossaryTermSchema).max(MOST_TERMS) });

export const GET = ({ url }: RequestEvent) =>
  answer(() => {
    const pair = check(pairRequest, Object.fromEntries(url.searchParams), 'The query');
    return json({ terms: getApp().glossary.list(pair) });
  });

/** The terms of a pair of languages, the whole list anew. */
export const PUT = ({ request }: RequestEvent) =>
  answer(async () => {
    const { terms, ...pair } = await readJson(request, termsRequest);
    const { glossary } = getApp();
    glossary.replace(pair, terms);
    return json({ terms: glossary.list(pair) });
  });
