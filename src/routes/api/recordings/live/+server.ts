import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { languageTagSchema } from '$lib/core/track';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { narrationAnswer } from '$lib/server/recordings/narration-answer';
import type { RequestEvent } from './$types';

/** Those that are being spoken, or were broken off. */
export const GET = () =>
  answer(async () => {
    const { narrations } = getApp();
    return json({ narrations: await Promise.all(narrations.list().map((one) => narrationAnswer(narrations, one))) });
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
    return json({ narration: await narrationAnswer(narrations, narration) }, { status: 201 });
  });
