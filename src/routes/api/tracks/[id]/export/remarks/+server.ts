import { json } from '@sveltejs/kit';
import { exported, remarksOn } from '$lib/core/formats';
import { getApp } from '$lib/server/app';
import { exportAsked } from '$lib/server/formats/asked';
import { asSeen, withItsSource } from '$lib/server/formats/handing-over';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** What a format cannot say of this track, as the options have it. */
export const GET = ({ params, url }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    const { format, options, trimId, withSource } = exportAsked(url.searchParams);
    const own = app.tracks.get(params.id).track;
    const whole = withSource ? withItsSource(app, own) : own;
    const { track, recording } = asSeen(app, whole, app.getRecording(whole.recordingId), trimId);
    const { title, durationMs } = recording;
    return json({ remarks: remarksOn(exported(track, options, format), format, { ...options, title, durationMs }) });
  });
