import { json } from '@sveltejs/kit';
import * as contentDisposition from 'content-disposition';
import { exportFileName } from '$lib/core/formats';
import { formatPaperHtml, type Paper } from '$lib/core/paper';
import { getApp } from '$lib/server/app';
import { writePdf } from '$lib/server/formats/pdf';
import { answer, notSupported } from '$lib/server/http/answers';
import { reportOf } from '$lib/server/tracks/reporting';
import type { RequestEvent } from './$types';

const FORMS: Readonly<Record<string, { readonly mime: string; readonly write: typeof writePdf }>> = {
  html: {
    mime: 'text/html; charset=utf-8',
    write: (paper) => Promise.resolve(new TextEncoder().encode(formatPaperHtml(paper)))
  },
  pdf: { mime: 'application/pdf', write: writePdf }
};

/** What was checked, by which sheet, and what was found: as parts, or as a file to be shown or kept. */
export const GET = ({ params, url, request: { signal } }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const asked = url.searchParams.get('format') ?? 'json';
    const form = Object.hasOwn(FORMS, asked) ? FORMS[asked] : undefined;
    if (form === undefined && asked !== 'json') return notSupported(`A report as “${asked}”`);
    const paper: Paper = await reportOf(app, params.id, url.searchParams.get('sheet'), signal);
    if (form === undefined) return json({ paper });
    const { track } = app.tracks.get(params.id);
    const recording = app.recordings.find(track.recordingId)!;
    const name = exportFileName(recording, track, app.trackStore.listOf(recording.id), `check.${asked}`);
    return new Response(new Uint8Array(await form.write(paper, signal)), {
      headers: { 'content-type': form.mime, 'content-disposition': contentDisposition.create(name) }
    });
  });
