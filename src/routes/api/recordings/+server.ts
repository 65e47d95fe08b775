import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { recordingAnswer } from '$lib/server/recordings/answer';
import { answer } from '$lib/server/http/answers';
import { ApiProblem } from '$lib/server/problem';
import type { RequestEvent } from './$types';

/** `?bin=1`: those in the bin. */
export const GET = ({ url }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    return json({
      recordings: app.recordings
        .list({ isBinned: url.searchParams.has('bin') })
        .map((recording) => recordingAnswer(app, recording))
    });
  });

/** `?cutOf=ID`: it is the next cut of that recording. */
export const POST = ({ request, url }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const announced = request.headers.get('content-length');
    const { recording, job } = await app.takeUpload({
      fileName: url.searchParams.get('name') ?? '',
      body: request.body,
      announcedBytes: announced === null ? null : Number(announced),
      cutOf: url.searchParams.get('cutOf')
    });
    if (/\brespond-async\b/.test(request.headers.get('prefer') ?? '')) {
      return json({ recording: recordingAnswer(app, recording), job: app.jobs.answerOf(job) }, { status: 202 });
    }
    try {
      return json(
        { recording: recordingAnswer(app, await app.preparing.prepared(recording.id, request.signal)) },
        { status: 201 }
      );
    } catch (error) {
      // The caller learns here that the media cannot be used: no failed recording is left for her to find.
      const now = app.recordings.find(recording.id);
      if (error instanceof ApiProblem && now?.state === 'failed' && !app.preparing.canGoOn(now))
        await app.removeRecording(recording.id);
      throw error;
    }
  });
