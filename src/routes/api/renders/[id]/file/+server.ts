import * as contentDisposition from 'content-disposition';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { sendFile } from '$lib/server/http/send-file';
import type { RequestEvent } from './$types';

export const GET = ({ params, request, url }: RequestEvent) =>
  answer(() => {
    const { files, rendering } = getApp();
    const { recordingId, id, mime, name } = rendering.get(params.id);
    // Played in its place by who wants to see it, saved by who asks for it.
    const type = url.searchParams.has('inline') ? 'inline' : 'attachment';
    return sendFile(request, files.renderPath(recordingId, id), {
      'content-type': mime,
      'content-disposition': contentDisposition.create(name, { type }),
      'cache-control': 'private, max-age=3600'
    });
  });
