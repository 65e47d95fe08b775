import { randomUUID } from 'node:crypto';
import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const { tracks, trackStore } = getApp();
    tracks.get(params.id);
    return json({ versions: trackStore.versionsOf(params.id) });
  });

const versionRequest = z.object({ title: z.string().trim().min(1).max(200) });

/** Names the track as it is now. */
export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const { title } = await readJson(request, versionRequest);
    const { tracks, trackStore } = getApp();
    const { revision } = tracks.get(params.id);
    const version = { id: randomUUID(), title, revision, madeAtMs: Date.now() };
    trackStore.insertVersion(params.id, version);
    return json({ version }, { status: 201 });
  });
