import { asTrackId } from '$lib/core/id';
import { randomUUID } from 'node:crypto';
import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { proposedPassages, takePassages } from '$lib/core/hearing';
import type { Track } from '$lib/core/track';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { savedAnswer } from '$lib/server/tracks/answer';
import { ApiProblem, notFound } from '$lib/server/problem';
import type { RequestEvent } from './$types';

const taking = z.object({
  revision: z.int().min(0),
  /** `all` but those that were corrected, or the passages that begin at these words. */
  take: z.union([z.literal('all'), z.array(z.string()).min(1).max(100_000)])
});

/** Takes passages of a new hearing, as one change. */
export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { revision, take } = await readJson(request, taking);
    const proposal = app.proposals.find(asTrackId(params.id), params.proposalId);
    if (proposal === null) throw notFound('proposal', params.proposalId);
    const takeFrom = (track: Track) => {
      const passages = proposedPassages(track, proposal.words, proposal.stretch).filter((passage) =>
        take === 'all' ? !passage.isCorrected : take.includes(passage.wordIds[0]!)
      );
      if (passages.length > 0) return takePassages(passages, randomUUID);
      throw new ApiProblem(409, 'nothing_to_take', 'The track differs from the new hearing in none of these passages.');
    };
    return json(savedAnswer(app.tracks.applyOwn(params.id, takeFrom, revision)));
  });

/** Puts a new hearing away. */
export const DELETE = ({ params }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    const proposal = app.proposals.find(asTrackId(params.id), params.proposalId);
    if (proposal === null) throw notFound('proposal', params.proposalId);
    app.proposals.remove(proposal.id);
    return new Response(null, { status: 204 });
  });
