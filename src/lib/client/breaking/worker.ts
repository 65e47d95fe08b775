/** A web worker that breaks tracks anew: two hours of words would hold up the page. */
import { recue } from '$lib/core/cueing';
import { askedSchema, type Answer } from './messages';

addEventListener('message', ({ data }) => {
  const { id, track, rules, cueIds } = askedSchema.parse(data);
  const scope = cueIds === undefined ? undefined : new Set(cueIds);
  const answer: Answer = { id, cues: recue(track, rules, () => crypto.randomUUID(), scope) };
  postMessage(answer);
});
