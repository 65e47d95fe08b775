import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { commandSchema, type Command } from '$lib/core/commands';
import { getApp } from '$lib/server/app';
import { answer, check, readJson } from '$lib/server/http/answers';
import { trackAnswer } from '$lib/server/tracks/answer';
import type { RequestEvent } from './$types';

const retimeRequest = z.object({
  shiftMs: z.number().optional(),
  speed: z.number().optional(),
  fromMs: z.number().optional(),
  toMs: z.number().optional(),
  /** As `sync-estimate` gives them, instead of the fields above. */
  segments: z
    .array(z.object({ fromMs: z.number(), toMs: z.number(), shiftMs: z.number(), speed: z.number() }))
    .optional(),
  revision: z.int().min(0).optional()
});

export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const { revision, segments, shiftMs = 0, speed = 1, ...range } = await readJson(request, retimeRequest);
    const edit: unknown =
      segments === undefined
        ? { type: 'retime', shiftMs, speed, ...range }
        : { type: 'retimePieces', pieces: segments };
    const checked: Command = check(commandSchema, edit, 'The request');
    const { tracks } = getApp();
    tracks.applyOwn(params.id, () => [checked], revision);
    const now = tracks.get(params.id);
    return json({ track: trackAnswer(now.track, now.revision) });
  });
