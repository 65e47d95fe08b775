import { open } from 'node:fs/promises';
import { z } from 'zod';
import { speechSpectrum } from '$lib/core/audio';
import { getApp } from '$lib/server/app';
import { answer, check } from '$lib/server/http/answers';
import { DECODED_RATE_HZ } from '$lib/server/media/ffmpeg';
import { ApiProblem } from '$lib/server/problem';
import type { RequestEvent } from './$types';

const LONGEST_MS = 60_000;
const ms = z.coerce.number().int().min(0);

/** The spectrum of a stretch: 48 bytes a column of 10 ms, the lowest band first. */
export const GET = ({ params, request, url }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { id } = await app.preparing.prepared(params.id, request.signal);
    const fromMs = check(ms, url.searchParams.get('fromMs') ?? '', 'fromMs');
    const toMs = check(ms, url.searchParams.get('toMs') ?? '', 'toMs');
    if (toMs <= fromMs || toMs - fromMs > LONGEST_MS)
      throw new ApiProblem(422, 'bad_times', `Ask for a stretch of at most ${LONGEST_MS / 1000} seconds.`);
    const samplesPerMs = DECODED_RATE_HZ / 1000;
    const samples = new Int16Array((toMs - fromMs) * samplesPerMs);
    const file = await open(app.files.soundPath(id), 'r');
    try {
      await file.read(new Uint8Array(samples.buffer), 0, samples.byteLength, fromMs * samplesPerMs * 2);
    } finally {
      await file.close();
    }
    return new Response(new Uint8Array(speechSpectrum(samples)), {
      headers: { 'content-type': 'application/octet-stream', 'cache-control': 'private, max-age=3600' }
    });
  });
