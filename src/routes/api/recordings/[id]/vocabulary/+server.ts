import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { termsAnswer, termsFromRequest, termsRequest } from '$lib/server/vocabulary';
import type { RequestEvent } from './$types';

export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    return json(termsAnswer(app.vocabulary.list(app.getRecording(params.id).id)));
  });

export const PUT = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { id } = app.getRecording(params.id);
    const terms = termsFromRequest(await readJson(request, termsRequest));
    app.vocabulary.replace(id, terms);
    return json(termsAnswer(terms));
  });
