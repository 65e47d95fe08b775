import { json } from '@sveltejs/kit';
import { checkCues } from '$lib/core/checks';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    const { track } = app.tracks.get(params.id);
    return json({ findings: checkCues(track, app.getRecording(track.recordingId).durationMs) });
  });
