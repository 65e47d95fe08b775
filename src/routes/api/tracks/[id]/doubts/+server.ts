import { asTrackId } from '$lib/core/id';
import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { dictionaryFor } from '$lib/server/doubts/dictionaries';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** What deserves a look and was not judged yet; `judged`: how much of what there is now was; `isSpelled`: there is a
 * dictionary of the language. */
export const GET = ({ params }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { track, revision } = app.tracks.get(params.id);
    const all = await app.doubtFinder.find(track, app.termsFor(track.recordingId, undefined));
    const judged = app.judgedDoubts.keysOf(asTrackId(params.id));
    const doubts = all.filter((doubt) => !judged.has(doubt.key));
    app.trackStore.setDoubtCount(track.id, doubts.length);
    const isSpelled = dictionaryFor(track.language) !== null;
    return json({ revision, doubts, judged: all.length - doubts.length, isSpelled });
  });
