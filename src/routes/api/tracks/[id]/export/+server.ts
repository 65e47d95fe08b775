import * as contentDisposition from 'content-disposition';
import { exportFileName } from '$lib/core/formats';
import { getApp } from '$lib/server/app';
import { exportAsked } from '$lib/server/formats/asked';
import { going, noteHandedOver, writeGoing } from '$lib/server/formats/handing-over';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** The track as a file. What is handed over is noted. */
export const GET = ({ params, url, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { format, options, ...asked } = exportAsked(url.searchParams);
    const goes = going(app, params.id, asked);
    const { recording, track } = goes;
    const name = exportFileName(recording, track, app.trackStore.listOf(recording.id), format.extension);
    const { file, noted } = await writeGoing(goes, { format, options, name }, request.signal);
    noteHandedOver(app, goes, [noted]);
    return new Response(new Uint8Array(file), {
      headers: { 'content-type': format.mime, 'content-disposition': contentDisposition.create(name) }
    });
  });
