import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { recordingAnswer } from '$lib/server/recordings/answer';
import type { RequestEvent } from './$types';

/** It is a recording from here on, under the same id, still to be prepared. */
export const POST = ({ params }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { recording, job } = await app.endNarration(params.id);
    return json({ recording: recordingAnswer(app, recording), job: app.jobs.answerOf(job) }, { status: 202 });
  });
