import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { contrastOfTrack } from '$lib/server/tracks/contrast';
import type { RequestEvent } from './$types';

/** How well each cue can be read on its picture; waits for the light map. */
export const GET = ({ params }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { track } = app.tracks.get(params.id);
    const recording = app.getRecording(track.recordingId);
    const map = await app.lighting.mapped(recording);
    return json({ cues: contrastOfTrack(track, recording, map, app.faces.ownFiles()) });
  });
