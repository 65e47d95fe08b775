import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { answer, check } from '$lib/server/http/answers';
import { heardBlock } from '$lib/server/trims/blocks';
import type { RequestEvent } from './$types';

const asked = z.object({ block: z.coerce.number().int().min(0).max(100_000) });

/** A block of the sound as it is heard, for what plays it out of order: see `core/trims/blocks`. */
export const GET = ({ params, url, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const recording = app.getRecording(params.id);
    const { block } = check(asked, Object.fromEntries(url.searchParams), 'The query');
    const samples = await heardBlock(app.files, recording, block, request.signal);
    return new Response(samples, {
      // A recording's media never changes.
      headers: { 'content-type': 'application/octet-stream', 'cache-control': 'private, max-age=86400, immutable' }
    });
  });
