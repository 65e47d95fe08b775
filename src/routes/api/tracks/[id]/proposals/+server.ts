import { json } from '@sveltejs/kit';
import { proposedPassages } from '$lib/core/hearing';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** New hearings of the track, each with the passages in which it differs from the track as it is now. */
export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    const { track, revision } = app.tracks.get(params.id);
    const proposals = app.proposals.listOf(track.id).map(({ id, words, stretch, madeAtMs }) => ({
      id,
      madeAtMs,
      passages: proposedPassages(track, words, stretch).map(({ startMs, endMs, wordIds, now, heard, isCorrected }) => ({
        startMs,
        endMs,
        wordIds,
        now,
        heard,
        isCorrected
      }))
    }));
    return json({ revision, proposals });
  });
