import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { jobAnswer } from '$lib/server/jobs/runner';
import type { RequestEvent } from './$types';

export const GET = ({ params }: RequestEvent) => answer(() => json({ job: jobAnswer(getApp().jobs.get(params.id)) }));

export const DELETE = ({ params }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    const job = app.jobs.cancel(params.id);
    app.changed(job.recordingId);
    return json({ job: jobAnswer(job) }, { status: 202 });
  });
