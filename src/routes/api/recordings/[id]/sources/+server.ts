import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { listSources } from '$lib/server/media/sources';
import type { RequestEvent } from './$types';

/** The streams and channels of the recording's sound. */
export const GET = ({ params }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    return json({ sources: await listSources(app.files, app.getRecording(params.id).id) });
  });
