import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

const keys = z.array(z.string().min(1).max(2000)).min(1).max(20_000);
const acceptRequest = z.strictObject({ keys, reason: z.string().trim().max(500).default('') });
const takeBackRequest = z.strictObject({ keys });

/** What stands, and why. */
export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const { tracks, acceptedFindings } = getApp();
    const reasons = acceptedFindings.reasonsOf(tracks.get(params.id).track.id);
    return json({ accepted: [...reasons].map(([key, reason]) => ({ key, reason })) });
  });

/** These findings stand, for a reason: they come up again when their text changes. */
export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const { keys, reason } = await readJson(request, acceptRequest);
    const { tracks, acceptedFindings, digesting } = getApp();
    const { id } = tracks.get(params.id).track;
    acceptedFindings.accept(id, keys, { reason, atMs: Date.now() });
    digesting.renew(id);
    return new Response(null, { status: 204 });
  });

/** Takes that back. */
export const DELETE = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const { keys } = await readJson(request, takeBackRequest);
    const { tracks, acceptedFindings, digesting } = getApp();
    const { id } = tracks.get(params.id).track;
    acceptedFindings.takeBack(id, keys);
    digesting.renew(id);
    return new Response(null, { status: 204 });
  });
