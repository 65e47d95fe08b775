import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { ApiProblem } from '$lib/server/problem';
import { captionChange } from '$lib/server/sites/simulated/protocol';
import type { RequestEvent } from './$types';

function videoOf(recordingId: string): string {
  const app = getApp();
  const videoId = app.publications.videoOf(app.getRecording(recordingId).id);
  if (videoId === null) throw new ApiProblem(422, 'no_video', 'Choose the video of the site first.');
  return videoId;
}

/** Published, taken down, shown by itself. */
export const PATCH = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const change = await readJson(request, captionChange);
    const { site } = getApp().publishing;
    return json({ caption: await site.change(videoOf(params.id), params.captionId, change, request.signal) });
  });

export const DELETE = ({ params, request }: RequestEvent) =>
  answer(async () => {
    await getApp().publishing.site.remove(videoOf(params.id), params.captionId, request.signal);
    return new Response(null, { status: 204 });
  });
