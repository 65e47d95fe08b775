import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { ApiProblem } from '$lib/server/problem';
import type { RequestEvent } from './$types';

/** One byte range of RFC 9110 §14.1.2; `null` where the header asks for none that can be had in one piece. */
function parseRange(header: string | null, bytes: number): { start: number; end: number } | 'unsatisfiable' | null {
  const found = /^bytes=(\d*)-(\d*)$/.exec(header ?? '');
  if (found === null || (found[1] === '' && found[2] === '')) return null;
  const start = found[1] === '' ? Math.max(0, bytes - Number(found[2])) : Number(found[1]);
  const end = found[1] === '' || found[2] === '' ? bytes - 1 : Math.min(bytes - 1, Number(found[2]));
  return start > end || start >= bytes ? 'unsatisfiable' : { start, end };
}

export const GET = ({ params, request }: RequestEvent) =>
  answer(async () => {
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
    const { mime } = recording.media;
    const path = recording.hasProxy ? app.files.proxyPath(recording.id) : app.files.mediaPath(recording.id);
    const { size: bytes } = await stat(path);
    const headers = { 'content-type': mime, 'accept-ranges': 'bytes', 'cache-control': 'private, max-age=3600' };
    const range = parseRange(request.headers.get('range'), bytes);
    if (range === 'unsatisfiable')
      return new Response(null, { status: 416, headers: { ...headers, 'content-range': `bytes */${bytes}` } });
    const { start, end } = range ?? { start: 0, end: bytes - 1 };
    const body = Readable.toWeb(createReadStream(path, { start, end })) as ReadableStream;
    return new Response(body, {
      status: range === null ? 200 : 206,
      headers: {
        ...headers,
        'content-length': String(end - start + 1),
        ...(range !== null && { 'content-range': `bytes ${start}-${end}/${bytes}` })
      }
    });
  });
