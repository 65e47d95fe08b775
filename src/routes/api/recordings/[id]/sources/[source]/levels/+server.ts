import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { levelsOfSource, sourceFromPath } from '$lib/server/media/sources';
import type { RequestEvent } from './$types';

/** The waveform of one stream or channel, in the form of the recording's levels. */
export const GET = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const recording = app.getRecording(params.id);
    const source = await sourceFromPath(app.files, recording.id, params.source);
    const levels = await levelsOfSource(app.files, recording, source, {
      durationMs: recording.durationMs,
      signal: request.signal
    });
    return new Response(new Uint8Array(levels), {
      headers: { 'content-type': 'application/octet-stream', 'cache-control': 'private, max-age=3600' }
    });
  });
