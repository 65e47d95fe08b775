import { trackIdSchema } from '$lib/core/id';
import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { querySchema } from '$lib/core/search';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { replaceInTracks } from '$lib/server/search';
import type { RequestEvent } from './$types';

const replaceRequest = z.object({
  query: querySchema,
  replacement: z.string().max(1000),
  trackIds: z.array(trackIdSchema).min(1).max(10_000)
});

/** Writes other text at every hit in these tracks: one entry of the log in each, so that each can be undone. */
export const POST = ({ request }: RequestEvent) =>
  answer(async () => {
    const { trackIds, ...asked } = await readJson(request, replaceRequest);
    return json({ tracks: replaceInTracks(getApp(), trackIds, asked) });
  });
