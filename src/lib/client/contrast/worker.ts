/** A web worker that measures the contrast of all cues: two hours of them would hold up the page. */
import { contrastOfCues } from '$lib/core/layout';
import type { LightMap } from '$lib/core/light';
import { askedSchema, type Answer } from './messages';

let map: LightMap | null = null;

addEventListener('message', ({ data }) => {
  const asked = askedSchema.parse(data);
  if (asked.type === 'light') {
    map = asked;
    return;
  }
  const { id, track, picture, advances } = asked;
  const answer: Answer = { id, cues: map === null ? [] : contrastOfCues(track, { picture, advances, map }) };
  postMessage(answer);
});
