import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { crossingsOf } from '$lib/server/trims/evidence';
import type { RequestEvent } from './$types';

/** Where the waveform crosses zero: a byte a bucket of 5 ms, the milliseconds from its beginning. */
export const GET = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { id } = await app.preparing.prepared(params.id, request.signal);
    const crossings = await crossingsOf(app.files, id, request.signal);
    return new Response(new Uint8Array(crossings), {
      headers: { 'content-type': 'application/octet-stream', 'cache-control': 'private, max-age=3600' }
    });
  });
