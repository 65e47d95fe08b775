import { toSpan } from '$lib/core/time';
import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { answer, check } from '$lib/server/http/answers';
import { sampleOfSource, sourceFromPath } from '$lib/server/media/sources';
import type { RequestEvent } from './$types';

const LONGEST_MS = 30_000;
const asked = z.object({ fromMs: z.coerce.number().int().min(0).default(0) });

/** Up to 30 s of one stream or channel, from `fromMs` on, as a WAV file to be listened to. */
export const GET = ({ params, url, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const recording = app.getRecording(params.id);
    const { fromMs } = check(asked, Object.fromEntries(url.searchParams), 'The query');
    const source = await sourceFromPath(app.files, recording.id, params.source);
    const stretch = toSpan({ startMs: fromMs, endMs: fromMs + LONGEST_MS });
    const wav = await sampleOfSource(app.files, recording, source, { stretch, signal: request.signal });
    return new Response(new Uint8Array(wav), { headers: { 'content-type': 'audio/wav' } });
  });
