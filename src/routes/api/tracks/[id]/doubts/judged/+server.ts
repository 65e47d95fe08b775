import { asTrackId } from '$lib/core/id';
import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

const keys = z.object({ keys: z.array(z.string().min(1).max(20_000)).min(1).max(20_000) });

/** These doubts were looked at and stand: they are not offered again. */
export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const asked = await readJson(request, keys);
    const { tracks, judgedDoubts } = getApp();
    tracks.get(params.id);
    judgedDoubts.judge(asTrackId(params.id), asked.keys, Date.now());
    return new Response(null, { status: 204 });
  });

/** Takes such judgements back. */
export const DELETE = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const asked = await readJson(request, keys);
    getApp().judgedDoubts.takeBack(asTrackId(params.id), asked.keys);
    return new Response(null, { status: 204 });
  });
