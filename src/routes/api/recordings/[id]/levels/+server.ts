import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** The waveform: three bytes a bucket of 5 ms (least, greatest, RMS), square-root companded. */
export const GET = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { id } = await app.preparing.prepared(params.id, request.signal);
    const levels = await app.files.readLevels(id);
    return new Response(new Uint8Array(levels), {
      headers: { 'content-type': 'application/octet-stream', 'cache-control': 'private, max-age=3600' }
    });
  });
