import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { languageTagSchema } from '$lib/core/track';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { trackSummaryAnswer } from '$lib/server/recordings/answer';
import { trackAnswer } from '$lib/server/tracks/answer';
import type { RequestEvent } from './$types';

/** Longer is no translation of anything that is spoken in a day. */
const MOST_CHARACTERS = 2_000_000;

const beginRequest = z.object({
  language: languageTagSchema,
  title: z.string().trim().min(1).max(300).optional(),
  from: z.enum(['empty', 'source', 'engine', 'text']),
  engine: z.string().optional(),
  text: z.string().max(MOST_CHARACTERS).optional(),
  /** What the caller has agreed to pay, where the engine bills. */
  spendCents: z.int().min(0).optional()
});

/** The translations of a track, with how far each is. */
export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const { tracks, trackStore, translating } = getApp();
    const { track } = tracks.get(params.id);
    const translations = trackStore
      .listOf(track.recordingId)
      .filter(({ sourceTrackId }) => sourceTrackId === track.id)
      .map((summary) => ({ ...trackSummaryAnswer(summary), progress: translating.progress(summary.id) }));
    return json({ translations });
  });

export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const asked = await readJson(request, beginRequest);
    const { recordingId, title } = app.tracks.get(params.id).track;
    const { track, job } = await app.translating.begin(
      params.id,
      {
        ...{
          language: asked.language,
          from: asked.from,
          engine: asked.engine,
          text: asked.text,
          spendCents: asked.spendCents
        },
        title: asked.title ?? title,
        recordingDurationMs: app.getRecording(recordingId).durationMs
      },
      request.signal
    );
    if (job !== null) return json({ job: app.jobs.answerOf(job), trackId: track.id }, { status: 202 });
    return json({ track: trackAnswer(track, app.tracks.get(track.id).revision) }, { status: 201 });
  });
