import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { trackAnswer } from '$lib/server/tracks/answer';
import type { RequestEvent } from './$types';

export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const { track, revision } = getApp().tracks.get(params.id);
    return json({ track: trackAnswer(track, revision) });
  });
