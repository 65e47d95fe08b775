import { json } from '@sveltejs/kit';
import { FORMATS, remarksOn } from '$lib/core/formats';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { notFound } from '$lib/server/problem';
import type { RequestEvent } from './$types';

/** What a format cannot say of this track. */
export const GET = ({ params, url }: RequestEvent) =>
  answer(() => {
    const format = url.searchParams.get('format') ?? '';
    if (!FORMATS.some(({ id }) => id === format)) throw notFound('format', format);
    return json({ remarks: remarksOn(getApp().tracks.get(params.id).track, format) });
  });
