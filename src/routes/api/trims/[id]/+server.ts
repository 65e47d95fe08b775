import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { trimAnswer } from '$lib/server/trims/answer';
import type { RequestEvent } from './$types';

export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const { trim, revision } = getApp().trims.get(params.id);
    return json({ trim: trimAnswer(trim, revision) });
  });

/** Into the bin. */
export const DELETE = ({ params }: RequestEvent) =>
  answer(() => {
    getApp().setTrimBinned(params.id, true);
    return new Response(null, { status: 204 });
  });
