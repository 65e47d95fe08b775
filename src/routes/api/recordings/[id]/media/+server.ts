import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import parseRange from 'range-parser';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { ApiProblem } from '$lib/server/problem';
import type { RequestEvent } from './$types';

/** The first of the byte ranges that are asked for; `null` for the whole. */
function firstRange(header: string | null, bytes: number): { start: number; end: number } | 'unsatisfiable' | null {
  const ranges = header === null ? -2 : parseRange(bytes, header);
  if (ranges === -1) return 'unsatisfiable';
  // What cannot be read is passed over, RFC 9110 §14.2.
  return ranges === -2 || ranges.type !== 'bytes' ? null : (ranges[0] ?? null);
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
    const range = firstRange(request.headers.get('range'), bytes);
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
