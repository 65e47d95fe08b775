import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** Goes back to the version, as one entry of the log. */
export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const { revision } = await readJson(request, z.object({ revision: z.int().min(0) }));
    const { tracks } = getApp();
    const version = tracks.getVersion(params.id, params.versionId);
    return json({ revision: tracks.goBackTo(params.id, version, revision).revision });
  });
