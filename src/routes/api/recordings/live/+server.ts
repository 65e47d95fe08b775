import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { languageTagSchema } from '$lib/core/track';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** Those that are being spoken, or were broken off. */
export const GET = () =>
  answer(async () => {
    const { narrations } = getApp();
    return json({ narrations: await narrations.list() });
  });

const beginRequest = z.object({
  title: z.string().trim().min(1).max(200),
  language: languageTagSchema,
  script: z.string().max(2_000_000).default('')
});

export const POST = ({ request }: RequestEvent) =>
  answer(async () => {
    const { narrations } = getApp();
    const narration = await narrations.begin(await readJson(request, beginRequest));
    return json({ narration }, { status: 201 });
  });
