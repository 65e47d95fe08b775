import { json } from '@sveltejs/kit';
import { speechRegions } from '$lib/core/audio';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { loadSpeech } from '$lib/server/media/prepare';
import type { RequestEvent } from './$types';

/** Answers when the speech map is there. */
export const GET = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { id, durationMs } = app.getRecording(params.id);
    await app.preparing.speechMapped(id, request.signal);
    const speech = await loadSpeech(app.files.speechPath(id));
    return json({
      frameMs: speech.frameMs,
      probabilities: speech.probabilities.map((probability) => Math.round(probability * 1000) / 1000),
      regions: speechRegions(speech, durationMs)
    });
  });
