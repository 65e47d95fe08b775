import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { sendFile } from '$lib/server/http/send-file';
import type { RequestEvent } from './$types';

/** The light map as bytes; 202 with the job that makes it, where there is none yet. */
export const GET = ({ params, request }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    const { lighting, jobs } = app;
    const recording = app.getRecording(params.id);
    const path = lighting.findPath(recording);
    return path === null
      ? json({ job: jobs.answerOf(lighting.begin(recording)) }, { status: 202 })
      : sendFile(request, path, {
          'content-type': 'application/octet-stream',
          'cache-control': 'private, max-age=3600'
        });
  });
