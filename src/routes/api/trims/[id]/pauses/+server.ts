import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { findPauses, PAUSE_DEFAULTS, pauseToTake } from '$lib/core/trims';
import { getApp } from '$lib/server/app';
import { answer, check } from '$lib/server/http/answers';
import { soundKnown } from '$lib/server/trims/evidence';
import type { RequestEvent } from './$types';

const asked = z.object({
  thresholdDb: z.coerce.number().min(0).max(90).default(PAUSE_DEFAULTS.thresholdDb),
  leastMs: z.coerce.number().min(1).max(600_000).default(PAUSE_DEFAULTS.leastMs),
  marginMs: z.coerce.number().min(0).max(60_000).default(PAUSE_DEFAULTS.marginMs),
  shortenToMs: z.coerce.number().min(0).max(600_000).default(0)
});

/** What pauses of the recording could go, in recorded time, margins left out. */
export const GET = ({ params, url, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { trim } = app.trims.get(params.id);
    const options = check(asked, Object.fromEntries(url.searchParams), 'The query');
    const { levels, speech } = await soundKnown(app, trim.recordingId, request.signal);
    return json({ pauses: findPauses(levels, speech, options).flatMap((pause) => pauseToTake(pause, options) ?? []) });
  });
