import { exportFileName, formatSrt, formatWebVtt } from '$lib/core/formats';
import { getApp } from '$lib/server/app';
import { answer, notSupported } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

const writers = {
  srt: { write: formatSrt, mime: 'application/x-subrip' },
  vtt: { write: formatWebVtt, mime: 'text/vtt' }
};
const isWritten = (format: string): format is keyof typeof writers => Object.hasOwn(writers, format);

export const GET = ({ params, url }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    const { track } = app.tracks.get(params.id);
    const format = url.searchParams.get('format') ?? 'srt';
    if (!isWritten(format)) return notSupported(`Writing “${format}”`);
    const name = exportFileName(app.recordings.find(track.recordingId)!.title, track.language, format);
    const ascii = name.replace(/[^\x20-\x7e]/g, '_');
    return new Response(writers[format].write(track), {
      headers: {
        'content-type': `${writers[format].mime}; charset=utf-8`,
        'content-disposition': `attachment; filename="${ascii}"; filename*=UTF-8''${encodeURIComponent(name)}`
      }
    });
  });
