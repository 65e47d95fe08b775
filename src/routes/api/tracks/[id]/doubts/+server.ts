import { asTrackId } from '$lib/core/id';
import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** What deserves a look and was not judged yet; `judged`: how much of what there is now was. */
export const GET = ({ params }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { track, revision } = app.tracks.get(params.id);
    const all = await app.doubtFinder.find(track, app.termsFor(track.recordingId, undefined));
    const judged = app.judgedDoubts.keysOf(asTrackId(params.id));
    const doubts = all.filter((doubt) => !judged.has(doubt.key));
    return json({ revision, doubts, judged: all.length - doubts.length });
  });
