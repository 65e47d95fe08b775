import * as contentDisposition from 'content-disposition';
import { exportFileName, findFormat, type FormatOption } from '$lib/core/formats';
import { getApp } from '$lib/server/app';
import { writeFormat } from '$lib/server/formats/write';
import { answer, notSupported } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** The track as a file; options are 0 or 1. */
export const GET = ({ params, url }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { track } = app.tracks.get(params.id);
    const { searchParams } = url;
    const asked = searchParams.get('format') ?? 'srt';
    const format = findFormat(asked);
    if (format === undefined) return notSupported(`Writing “${asked}”`);
    const recording = app.recordings.find(track.recordingId)!;
    const { title } = recording;
    const isSet = (option: FormatOption): boolean =>
      searchParams.has(option) ? searchParams.get(option) !== '0' : format.defaults[option];
    const options = { title, times: isSet('times'), speakers: isSet('speakers') };
    const file = await writeFormat(format, track, options);
    const name = exportFileName(recording, track, app.trackStore.listOf(track.recordingId), format.extension);
    return new Response(typeof file === 'string' ? file : new Uint8Array(file), {
      headers: { 'content-type': format.mime, 'content-disposition': contentDisposition.create(name) }
    });
  });
