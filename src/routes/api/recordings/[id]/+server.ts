import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { recordingAnswer } from '$lib/server/recordings/answer';
import { answer, readJson } from '$lib/server/http/answers';
import { notFound } from '$lib/server/problem';
import type { RequestEvent } from './$types';

export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    return json({ recording: recordingAnswer(app, app.getRecording(params.id)) });
  });

export const PATCH = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { title } = await readJson(request, z.object({ title: z.string().trim().min(1).max(200) }));
    app.recordings.setTitle(app.getRecording(params.id).id, title);
    app.changed(params.id);
    return json({ recording: recordingAnswer(app, app.getRecording(params.id)) });
  });

/** Into the bin; `?forever=1` takes out of the bin what is never to come back. */
export const DELETE = ({ params, url }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    if (url.searchParams.has('forever')) {
      if (app.recordings.find(params.id) === null) throw notFound('recording', params.id);
      await app.removeRecording(params.id);
    } else await app.setBinned([app.getRecording(params.id)], true);
    return new Response(null, { status: 204 });
  });
