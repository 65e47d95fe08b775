import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { notFound } from '$lib/server/problem';
import type { RequestEvent } from './$types';

/** Out of the bin, as it was. */
export const POST = ({ params }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    const summary = app.trackStore.findSummary(params.id);
    if (summary === null) throw notFound('track', params.id);
    app.trackStore.setBinned(summary.id, null);
    app.changed(summary.recordingId);
    return new Response(null, { status: 204 });
  });
