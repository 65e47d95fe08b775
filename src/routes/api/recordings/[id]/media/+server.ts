import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { sendFile } from '$lib/server/http/send-file';
import { ApiProblem } from '$lib/server/problem';
import type { RequestEvent } from './$types';

export const GET = ({ params, request }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    const recording = app.getRecording(params.id);
    if (recording.state === 'failed')
      throw new ApiProblem(422, 'unsupported_media', recording.failure ?? 'The recording failed.');
    if (recording.hasProxy && recording.state === 'preparing')
      throw new ApiProblem(
        409,
        'not_prepared',
        'The copy that browsers play is still being made; ask again when it is ready.'
      );
    const path = recording.hasProxy ? app.files.proxyPath(recording.id) : app.files.mediaPath(recording.id);
    return sendFile(request, path, {
      'content-type': recording.media.mime,
      'cache-control': 'private, max-age=3600'
    });
  });
