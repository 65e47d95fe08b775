import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { notFound } from '$lib/server/problem';
import type { RequestEvent } from './$types';

/** The track as it was, in the core's own form. */
export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const { tracks, trackStore } = getApp();
    tracks.get(params.id);
    const version = trackStore.findVersion(params.id, params.versionId);
    if (version === null) throw notFound('version', params.versionId);
    return json({ version, track: tracks.trackAt(params.id, version.revision) });
  });
