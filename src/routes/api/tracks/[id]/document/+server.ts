import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { packTrack } from '$lib/core/track';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { ApiProblem } from '$lib/server/problem';
import type { RequestEvent } from './$types';

const revisionSchema = z.coerce.number().int().min(0).optional();

/**
 * The track in the core's own form, as the interface works on it, what undo and redo would take, and what could not be
 * read; with `packed`, words and cues field by field; with `revision`, the track alone as it was at that.
 */
export const GET = ({ params, url }: RequestEvent) =>
  answer(() => {
    const { tracks } = getApp();
    const asked = revisionSchema.safeParse(url.searchParams.get('revision') ?? undefined);
    if (!asked.success)
      throw new ApiProblem(400, 'bad_request', '`revision` is a whole number: one that the track has had.');
    const revision = asked.data;
    if (revision !== undefined) {
      if (revision > tracks.get(params.id).revision)
        throw new ApiProblem(404, 'unknown_revision', 'The track has not had this revision yet.');
      return json({ track: tracks.trackAt(params.id, revision), revision });
    }
    const { track, ...saved } = tracks.get(params.id);
    return json({
      track: url.searchParams.has('packed') ? packTrack(track) : track,
      ...saved,
      history: tracks.history(params.id),
      breaks: tracks.breaks(params.id)
    });
  });
