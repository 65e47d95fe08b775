import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { recordingAnswer } from '$lib/server/recordings/answer';
import type { RequestEvent } from './$types';

/** What was rendered of a trim becomes a recording of its own, its tracks carried over. */
export const POST = ({ params }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { recording, job } = await app.bringIn(params.id);
    return json({ recording: recordingAnswer(app, recording), job: app.jobs.answerOf(job) }, { status: 202 });
  });
