import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

const siteVideoRequest = z.object({ videoId: z.string().min(1).max(100).nullable() });

/** The video that the recording is shown as, its captions there, and what was sent of them from here. */
export const GET = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { publications, publishing } = app;
    const { id } = app.getRecording(params.id);
    const videoId = publications.videoOf(id);
    if (videoId === null) return json({ video: null, publications: [] });
    return json({
      video: { ...(await publishing.site.video(videoId, request.signal)), watchUrl: publishing.site.watchUrl(videoId) },
      publications: publications.listOf(id, videoId).map(({ content: _, ...told }) => told)
    });
  });

export const PUT = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { id } = app.getRecording(params.id);
    const { videoId } = await readJson(request, siteVideoRequest);
    // One that there is not is refused by the site.
    if (videoId !== null) await app.publishing.site.video(videoId, request.signal);
    app.publications.setVideo(id, videoId);
    return json({ videoId });
  });
