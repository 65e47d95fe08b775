import { createHash } from 'node:crypto';
import * as contentDisposition from 'content-disposition';
import { exportFileName } from '$lib/core/formats';
import { getApp } from '$lib/server/app';
import { exportAsked } from '$lib/server/formats/asked';
import { writeFormat } from '$lib/server/formats/write';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** The track as a file. What is handed over is noted. */
export const GET = ({ params, url, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { track, revision } = app.tracks.get(params.id);
    const { format, options } = exportAsked(url.searchParams);
    const recording = app.getRecording(track.recordingId);
    const { title, durationMs } = recording;
    const file = await writeFormat(format, track, { ...options, title, durationMs }, request.signal);
    const name = exportFileName(recording, track, app.trackStore.listOf(track.recordingId), format.extension);
    app.handedOver.note(track.id, {
      ...{ name, format: format.id, revision, bytes: file.length, atMs: Date.now() },
      sha256: createHash('sha256').update(file).digest('hex')
    });
    return new Response(new Uint8Array(file), {
      headers: { 'content-type': format.mime, 'content-disposition': contentDisposition.create(name) }
    });
  });
