import { parseFontKey } from '$lib/core/faces';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { sendFile } from '$lib/server/http/send-file';
import { notFound } from '$lib/server/problem';
import type { RequestEvent } from './$types';

/** A font file by its key, such as `atkinson-600i`: what it holds never changes. */
export const GET = ({ params, request }: RequestEvent) =>
  answer(() => {
    const file = parseFontKey(params.key);
    const path = file === null ? null : getApp().faces.pathOf(file);
    if (path === null) throw notFound('font', params.key);
    return sendFile(request, path, {
      'content-type': 'font/ttf',
      'cache-control': 'private, max-age=31536000, immutable'
    });
  });
