import { json } from '@sveltejs/kit';
import { exported, remarksOn } from '$lib/core/formats';
import { getApp } from '$lib/server/app';
import { exportAsked } from '$lib/server/formats/asked';
import { asSeen } from '$lib/server/formats/handing-over';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** What a format cannot say of this track, as the options have it. */
export const GET = ({ params, url }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    const whole = app.tracks.get(params.id).track;
    const { format, options, trimId } = exportAsked(url.searchParams);
    const { track, recording } = asSeen(app, whole, app.getRecording(whole.recordingId), trimId);
    const { title, durationMs } = recording;
    return json({ remarks: remarksOn(exported(track, options, format), format, { ...options, title, durationMs }) });
  });
