import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { dictionaryFor } from '$lib/server/doubts/dictionaries';
import { answer } from '$lib/server/http/answers';
import { lineStream, NDJSON } from '$lib/server/http/line-stream';
import type { RequestEvent } from './$types';

/** What deserves a look and was not judged yet; `judged`: how much of what there is now was; `isSpelled`: there is a
 * dictionary of the language. */
export const GET = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { track, revision } = app.tracks.get(params.id);
    const find = async (signal: AbortSignal, onProgress: (share: number) => void) => {
      const terms = app.termsFor(track.recordingId, undefined);
      const all = await app.doubtFinder.find(track, terms, { signal, onProgress });
      const judged = app.judgedDoubts.keysOf(track.id);
      const doubts = all.filter((doubt) => !judged.has(doubt.key));
      app.trackStore.setDoubtCount(track.id, doubts.length);
      const isSpelled = dictionaryFor(track.language) !== null;
      return { revision, doubts, judged: all.length - doubts.length, isSpelled };
    };
    if (request.headers.get('accept') !== NDJSON) return json(await find(request.signal, () => undefined));
    return lineStream(async (write, signal) => {
      write(await find(AbortSignal.any([signal, request.signal]), (progress) => write({ progress })));
    });
  });
