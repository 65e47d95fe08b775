import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** The track in the core's own form, as the interface works on it, what undo and redo would take, and what could not be read. */
export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const { tracks } = getApp();
    return json({
      ...tracks.get(params.id),
      history: tracks.history(params.id),
      breaks: tracks.breaks(params.id)
    });
  });
