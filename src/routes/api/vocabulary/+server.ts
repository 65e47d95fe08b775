import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { termsAnswer, termsFromRequest, termsRequest } from '$lib/server/vocabulary';
import type { RequestEvent } from './$types';

export const GET = () => answer(() => json(termsAnswer(getApp().vocabulary.list(null))));

export const PUT = ({ request }: RequestEvent) =>
  answer(async () => {
    const terms = termsFromRequest(await readJson(request, termsRequest));
    getApp().vocabulary.replace(null, terms);
    return json(termsAnswer(terms));
  });
