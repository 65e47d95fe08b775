import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { mendTrack } from '$lib/server/tracks/checking';
import type { RequestEvent } from './$types';

const revision = z.int().min(0);
const mendRequest = z.union([
  z.strictObject({ revision, keys: z.array(z.string().min(1).max(2000)).min(1).max(20_000) }),
  z.strictObject({ revision, rule: z.string().min(1).max(40) })
]);

/** Mends single findings by their keys, or all of a rule that can be mended unseen, as one entry of the log. */
export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const asked = await readJson(request, mendRequest);
    return json(await mendTrack(getApp(), params.id, asked, request.signal));
  });
