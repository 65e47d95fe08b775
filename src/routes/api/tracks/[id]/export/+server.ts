import * as contentDisposition from 'content-disposition';
import {
  exportFileName,
  formatSrt,
  formatTranscriptHtml,
  formatTranscriptText,
  formatWebVtt,
  type TranscriptOptions
} from '$lib/core/formats';
import type { Track } from '$lib/core/track';
import { getApp } from '$lib/server/app';
import { answer, notSupported } from '$lib/server/http/answers';
import { transcriptDocx } from '$lib/server/transcripts/docx';
import { transcriptPdf } from '$lib/server/transcripts/pdf';
import type { RequestEvent } from './$types';

type Options = TranscriptOptions & { readonly title: string };
interface Writer {
  readonly mime: string;
  readonly write: (track: Track, options: Options) => string | Promise<Buffer>;
}
const writers = {
  srt: { write: (track) => formatSrt(track), mime: 'application/x-subrip; charset=utf-8' },
  vtt: { write: (track) => formatWebVtt(track), mime: 'text/vtt; charset=utf-8' },
  txt: { write: formatTranscriptText, mime: 'text/plain; charset=utf-8' },
  html: { write: formatTranscriptHtml, mime: 'text/html; charset=utf-8' },
  docx: {
    write: transcriptDocx,
    mime: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document'
  },
  pdf: { write: transcriptPdf, mime: 'application/pdf' }
} satisfies Record<string, Writer>;
const isWritten = (format: string): format is keyof typeof writers => Object.hasOwn(writers, format);

/** `times` and `speakers`, 0 or 1, are of transcripts. */
export const GET = ({ params, url }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { track } = app.tracks.get(params.id);
    const { searchParams } = url;
    const format = searchParams.get('format') ?? 'srt';
    if (!isWritten(format)) return notSupported(`Writing “${format}”`);
    const { title } = app.recordings.find(track.recordingId)!;
    const name = exportFileName(title, track.language, format);
    // Plain text is most often wanted as text alone.
    const times = (searchParams.get('times') ?? (format === 'txt' ? '0' : '1')) === '1';
    const options = { title, times, speakers: searchParams.get('speakers') !== '0' };
    const file = await writers[format].write(track, options);
    return new Response(typeof file === 'string' ? file : new Uint8Array(file), {
      headers: {
        'content-type': writers[format].mime,
        'content-disposition': contentDisposition.create(name)
      }
    });
  });
