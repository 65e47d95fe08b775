import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** Goes on with a preparation that was cancelled or could not be ended. */
export const POST = ({ params }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    return json({ job: app.jobs.answerOf(app.preparing.goOn(params.id)) }, { status: 202 });
  });
