/** Which cues are on the picture at a time. */
import { lastStartingBy } from '../time';
import type { Cue } from './track';

/** The latest end up to each cue, by list of cues: tells how far back one that is still there can stand. */
const latestEnds = new WeakMap<readonly Cue[], readonly number[]>();

function endsOf(cues: readonly Cue[]): readonly number[] {
  const known = latestEnds.get(cues);
  if (known !== undefined) return known;
  let latest = 0;
  const ends = cues.map(({ endMs }) => (latest = Math.max(latest, endMs)));
  latestEnds.set(cues, ends);
  return ends;
}

/** The cues with `startMs <= ms < endMs`, in their order. */
export function cuesAt(cues: readonly Cue[], ms: number): readonly Cue[] {
  const ends = endsOf(cues);
  const showing: Cue[] = [];
  for (let at = lastStartingBy(cues, ms); at >= 0 && ends[at]! > ms; at--)
    if (cues[at]!.endMs > ms) showing.unshift(cues[at]!);
  return showing;
}
