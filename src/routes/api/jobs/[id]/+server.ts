import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

export const GET = ({ params }: RequestEvent) =>
  answer(() => json({ job: getApp().jobs.answerOf(getApp().jobs.get(params.id)) }));

/** With `?keep=heard` a hearing leaves a track of what it had heard. */
export const DELETE = ({ params, url }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const wasOpen = ['queued', 'running'].includes(app.jobs.get(params.id).state);
    const job = app.jobs.cancel(params.id);
    if (wasOpen && job.kind === 'hear' && url.searchParams.get('keep') === 'heard') await app.hearing.keepHeard(job);
    app.changed(job.recordingId);
    return json({ job: app.jobs.answerOf(app.jobs.get(params.id)) }, { status: 202 });
  });
