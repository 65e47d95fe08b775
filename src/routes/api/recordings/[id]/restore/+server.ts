import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { recordingAnswer } from '$lib/server/recordings/answer';
import { answer } from '$lib/server/http/answers';
import { notFound } from '$lib/server/problem';
import type { RequestEvent } from './$types';

/** Out of the bin, as it was. */
export const POST = ({ params }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const recording = app.recordings.find(params.id);
    if (recording === null) throw notFound('recording', params.id);
    await app.setBinned([recording], false);
    return json({ recording: recordingAnswer(app, app.getRecording(recording.id)) });
  });
