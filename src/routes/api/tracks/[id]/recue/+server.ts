import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { HOUSE_RULES, rulesSchema } from '$lib/core/track';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { trackAnswer } from '$lib/server/tracks/answer';
import type { RequestEvent } from './$types';

const recueRequest = z.object({
  rules: rulesSchema.unwrap().partial().default({}),
  revision: z.int().min(0).optional()
});

export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const { rules, revision } = await readJson(request, recueRequest);
    const app = getApp();
    const { tracks } = app;
    const names = app.termsFor(tracks.get(params.id).track.recordingId, undefined).map(({ text }) => text);
    tracks.recue(params.id, { ...HOUSE_RULES, ...(rules as Partial<typeof HOUSE_RULES>) }, names, revision);
    const now = tracks.get(params.id);
    return json({ track: trackAnswer(now.track, now.revision) });
  });
