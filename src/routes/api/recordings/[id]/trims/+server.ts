import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { ApiProblem, notFound } from '$lib/server/problem';
import { trimAnswer, trimSummaryAnswer } from '$lib/server/trims/answer';
import type { RequestEvent } from './$types';

/** Those in use; `?bin=1`: those in the bin. */
export const GET = ({ params, url }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    const isBinned = url.searchParams.has('bin');
    return json({ trims: app.trimStore.listOf(app.getRecording(params.id).id, { isBinned }).map(trimSummaryAnswer) });
  });

const MOST_TRIMS = 500;
const title = z.string().trim().min(1).max(200);
/** A new one that keeps everything, or one of the recording's own once more. */
const trimRequest = z.union([z.strictObject({ copyOf: z.string().max(64), title }), z.strictObject({ title })]);

export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const asked = await readJson(request, trimRequest);
    // Its length is known for sure when it is prepared.
    const recording = await app.preparing.prepared(params.id, request.signal);
    if (app.trimStore.listOf(recording.id).length >= MOST_TRIMS)
      throw new ApiProblem(422, 'too_many', `A recording has ${MOST_TRIMS} trims at most: delete some first.`);
    if ('copyOf' in asked && app.trimStore.find(asked.copyOf)?.recordingId !== recording.id)
      throw notFound('trim', asked.copyOf);
    const { id } =
      'copyOf' in asked ? app.trims.duplicate(asked.copyOf, asked.title) : app.trims.create(recording, asked.title);
    app.changed(recording.id);
    const { trim, revision } = app.trims.get(id);
    return json({ trim: trimAnswer(trim, revision) }, { status: 201 });
  });
