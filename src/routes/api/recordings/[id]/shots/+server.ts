import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { findShots } from '$lib/server/media/shots';
import type { RequestEvent } from './$types';

/** When the picture changes from one shot to another; found at the first call, which takes a while, and kept. */
export const GET = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const recording = await app.preparing.prepared(params.id, request.signal);
    return json({ shotsMs: recording.media.hasVideo ? await findShots(app.files, recording) : [] });
  });
