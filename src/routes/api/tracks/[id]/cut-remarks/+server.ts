import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** What deserves a look since the track was carried over; none for any other track. */
export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    return json({ remarks: app.cutRemarks.listOf(app.tracks.get(params.id).track.id) });
  });
