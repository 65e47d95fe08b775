import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** How far pictures would begin and end beside their sound, were they copied instead of encoded. */
export const GET = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { trim, revision } = app.trims.get(params.id);
    const recording = app.getRecording(trim.recordingId);
    const { mostEarlyMs, mostLateMs, earlyCount, passages } = await app.rendering.copying(
      recording,
      trim,
      request.signal
    );
    return json({ revision, passages: passages.length, earlyCount, mostEarlyMs, mostLateMs });
  });
