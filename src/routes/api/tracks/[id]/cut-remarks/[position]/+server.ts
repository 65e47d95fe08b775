import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { answer, check, readJson } from '$lib/server/http/answers';
import { notFound } from '$lib/server/problem';
import type { RequestEvent } from './$types';

export const PATCH = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { isLookedAt } = await readJson(request, z.object({ isLookedAt: z.boolean() }));
    const position = check(z.coerce.number().pipe(z.int().min(0)), params.position, 'The path');
    const { id } = app.tracks.get(params.id).track;
    if (!app.cutRemarks.setLookedAt(id, position, isLookedAt ? Date.now() : null))
      throw notFound('remark', params.position);
    return new Response(null, { status: 204 });
  });
