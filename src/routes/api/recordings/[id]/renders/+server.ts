import { json } from '@sveltejs/kit';
import { renderRequestSchema } from '$lib/core/rendering';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { renderAnswer } from '$lib/server/rendering/answer';
import type { RequestEvent } from './$types';

/** What was rendered of the recording, the newest first. */
export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    return json({ renders: app.renders.listOf(app.getRecording(params.id).id).map(renderAnswer) });
  });

export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const recording = app.getRecording(params.id);
    const asked = app.rendering.settled(await readJson(request, renderRequestSchema));
    app.rendering.check(recording, asked);
    await app.rendering.checkCodec(recording, asked);
    return json({ job: app.jobs.answerOf(app.jobs.add('render', recording.id, asked)) }, { status: 202 });
  });
