import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** The trim as it is kept, with what undo and redo would take. */
export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const { trims } = getApp();
    const { trim, revision } = trims.get(params.id);
    return json({ trim, revision, history: trims.history(params.id), breaks: trims.breaks(params.id) });
  });
