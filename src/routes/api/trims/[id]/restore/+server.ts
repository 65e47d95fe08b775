import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { trimAnswer } from '$lib/server/trims/answer';
import type { RequestEvent } from './$types';

/** Out of the bin. */
export const POST = ({ params }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    app.setTrimBinned(params.id, false);
    const { trim, revision } = app.trims.get(params.id);
    return json({ trim: trimAnswer(trim, revision) });
  });
