import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { notFound } from '$lib/server/problem';
import { trackAnswer } from '$lib/server/tracks/answer';
import type { RequestEvent } from './$types';

export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const { track, revision } = getApp().tracks.get(params.id);
    return json({ track: trackAnswer(track, revision) });
  });

/** Into the bin; `?forever=1` takes out of the bin what is never to come back. */
export const DELETE = ({ params, url }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    const summary = app.trackStore.findSummary(params.id);
    if (summary === null) throw notFound('track', params.id);
    if (url.searchParams.has('forever')) {
      app.tracks.close([summary.id]);
      app.trackStore.remove(summary.id);
    } else app.trackStore.setBinned(summary.id, Date.now());
    app.changed(summary.recordingId);
    return new Response(null, { status: 204 });
  });
