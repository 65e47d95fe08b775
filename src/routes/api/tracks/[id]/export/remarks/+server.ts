import { json } from '@sveltejs/kit';
import { exported, remarksOn } from '$lib/core/formats';
import { getApp } from '$lib/server/app';
import { exportAsked } from '$lib/server/formats/asked';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** What a format cannot say of this track, as the options have it. */
export const GET = ({ params, url }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    const { track } = app.tracks.get(params.id);
    const { format, options } = exportAsked(url.searchParams);
    const { title, durationMs } = app.getRecording(track.recordingId);
    return json({ remarks: remarksOn(exported(track, options, format), format, { ...options, title, durationMs }) });
  });
