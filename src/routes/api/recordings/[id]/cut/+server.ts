import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { loadComparison } from '$lib/server/media/cuts';
import type { RequestEvent } from './$types';

/** Where the sound of the cut before is in this one; waits until it is known. */
export const GET = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const cutOf = await app.preparing.compared(params.id, request.signal);
    return json({ cutOf, ...(await loadComparison(app.files, params.id)) });
  });
