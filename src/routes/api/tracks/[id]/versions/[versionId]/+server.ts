import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** The track as it was, in the core's own form. */
export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const { tracks } = getApp();
    const version = tracks.getVersion(params.id, params.versionId);
    return json({ version, track: tracks.trackAt(params.id, version.revision) });
  });
