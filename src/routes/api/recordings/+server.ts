import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { recordingAnswer } from '$lib/server/recordings/answer';
import { answer, check, readJson } from '$lib/server/http/answers';
import { ApiProblem, notFound } from '$lib/server/problem';
import { LIBRARY_SORTS, WORK_STATES } from '$lib/server/store/library';
import type { RequestEvent } from './$types';

/** A search waits so long for what was edited just now. */
const LONGEST_CATCH_UP_MS = 300;

const listRequest = z.object({
  text: z.string().trim().max(200).default(''),
  language: z.string().max(40).optional(),
  work: z.enum(WORK_STATES).optional(),
  project: z.string().max(64).optional(),
  sort: z.enum(LIBRARY_SORTS).default('added'),
  offset: z.coerce.number().int().min(0).default(0),
  limit: z.coerce.number().int().min(1).max(500).optional()
});

/** All of them, or with `limit` a page; `?bin=1`: those in the bin; `?ids=1`: their ids alone, of all pages. */
export const GET = ({ url }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    const asked = check(listRequest, Object.fromEntries(url.searchParams), 'The request');
    const behind = asked.text === '' ? 0 : app.digesting.catchUp(LONGEST_CATCH_UP_MS);
    const query = {
      isBinned: url.searchParams.has('bin'),
      isReversed: url.searchParams.has('reversed'),
      text: asked.text,
      language: asked.language ?? null,
      work: asked.work ?? null,
      projectId: asked.project ?? null,
      sort: asked.sort,
      offset: asked.offset,
      limit: asked.limit ?? null
    };
    if (url.searchParams.has('ids')) return json({ ids: app.library.ids(query) });
    const { listed, total } = app.library.page(query);
    return json({
      recordings: listed.map(({ recording, work, spoken }) => ({
        ...recordingAnswer(app, recording),
        work,
        ...(recording.cutOf !== null && { cutOfTitle: app.recordings.find(recording.cutOf)?.title }),
        ...(spoken !== null && { spoken })
      })),
      total,
      languages: app.library.languages(),
      notSearchedYet: behind
    });
  });

const changeRequest = z
  .object({
    ids: z.array(z.string().max(64)).min(1).max(50_000),
    projectId: z.string().max(64).nullable().optional(),
    isBinned: z.boolean().optional()
  })
  .refine(({ projectId, isBinned }) => projectId !== undefined || isBinned !== undefined, {
    message: 'say what to change: projectId or isBinned'
  });

/** Changes many at once: all of them, or, where one is not there, none. Answers what they were. */
export const PATCH = ({ request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { ids, projectId, isBinned } = await readJson(request, changeRequest);
    const recordings = ids.map((id) => {
      const recording = app.recordings.find(id);
      if (recording === null) throw notFound('recording', id);
      return recording;
    });
    if (typeof projectId === 'string' && app.projects.find(projectId) === null) throw notFound('project', projectId);
    if (projectId !== undefined) app.changeAll(recordings, ({ id }) => app.recordings.setProject(id, projectId));
    if (isBinned !== undefined) {
      const others = recordings.filter(({ binnedAtMs }) => isBinned !== (binnedAtMs !== null));
      await app.setBinned(others, isBinned);
    }
    return json({ were: recordings.map((one) => ({ id: one.id, projectId: one.projectId })) });
  });

/** `?cutOf=ID`: it is the next cut of that recording. */
export const POST = ({ request, url }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const announced = request.headers.get('content-length');
    const { recording, job } = await app.takeUpload({
      fileName: url.searchParams.get('name') ?? '',
      body: request.body,
      announcedBytes: announced === null ? null : Number(announced),
      cutOf: url.searchParams.get('cutOf')
    });
    if (/\brespond-async\b/.test(request.headers.get('prefer') ?? '')) {
      return json({ recording: recordingAnswer(app, recording), job: app.jobs.answerOf(job) }, { status: 202 });
    }
    try {
      return json(
        { recording: recordingAnswer(app, await app.preparing.prepared(recording.id, request.signal)) },
        { status: 201 }
      );
    } catch (error) {
      // The caller learns here that the media cannot be used: no failed recording is left for her to find.
      const now = app.recordings.find(recording.id);
      if (error instanceof ApiProblem && now?.state === 'failed' && !app.preparing.canGoOn(now))
        await app.removeRecording(recording.id);
      throw error;
    }
  });
