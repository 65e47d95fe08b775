import { json } from '@sveltejs/kit';
import { publishRequestSchema } from '$lib/core/publishing';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { ApiProblem } from '$lib/server/problem';
import type { RequestEvent } from './$types';

/** Sends captions to the video site, and publishes them there. */
export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const recording = app.getRecording(params.id);
    const asked = await readJson(request, publishRequestSchema);
    if (app.tracks.get(asked.trackId).track.recordingId !== recording.id)
      throw new ApiProblem(422, 'unknown_track', 'This track belongs to another recording.');
    if (asked.publicationId !== undefined) app.publishing.get(asked.publicationId);
    void app.publishing.site;
    return json({ job: app.jobs.answerOf(app.jobs.add('publish', recording.id, asked)) }, { status: 202 });
  });
