import { json } from '@sveltejs/kit';
import { earSettingsSchema } from '$lib/core/ears';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { notFound } from '$lib/server/problem';
import { earAnswer } from '$lib/server/recognisers/models/answer';
import type { RequestEvent } from './$types';

/** What its owner says of a model, the whole of it anew. */
export const PUT = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const settings = await readJson(request, earSettingsSchema);
    const ear = await getApp().ears.describe(params.id, settings);
    if (ear === null) throw notFound('ear', params.id);
    return json({ ear: earAnswer(ear) });
  });
