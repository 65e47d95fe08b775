import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** What of the track has left the house, by version, the newest first. */
export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    return json({ versions: app.handedOver.versionsOf(app.tracks.get(params.id).track.id) });
  });
