/** What becomes of a track: its words and cues where their sound plays, and what of it deserves a look. */
import { carryOver, type CutRemark, type SharedStretch } from '../cuts';
import { wholeMs } from '../time';
import { type Track } from '../track';
import { mapOf } from './map';
import type { Trim } from './trim';

/** A track as it is of a trim. Times are trimmed; ids are the track's own but for what plays again. */
export interface TrimmedTrack {
  readonly track: Track;
  /** Made when they are asked for. */
  readonly remarks: () => readonly CutRemark[];
}

/** What is heard, as it lies in recorded time; what goes on through a join of one sound is one stretch. */
export function heardStretches(trim: Pick<Trim, 'pieces'>): SharedStretch[] {
  const heard: SharedStretch[] = [];
  for (const { plays, fromMs, startMs, endMs } of mapOf(trim).laid) {
    if (plays !== 'sound' || fromMs === null) continue;
    const last = heard.at(-1);
    const goesOn =
      last !== undefined && last.newMs + last.lengthMs === startMs && last.oldMs + last.lengthMs === fromMs;
    if (goesOn) heard[heard.length - 1] = { ...last, lengthMs: wholeMs(last.lengthMs + endMs - startMs) };
    else heard.push({ newMs: startMs, oldMs: fromMs, lengthMs: wholeMs(endMs - startMs), state: 'kept' });
  }
  return heard;
}

/** The track as it is of the trim. A word is heard where its middle is, a described sound wherever half a second of it is. */
export function trimTrack(track: Track, trim: Pick<Trim, 'pieces'>): TrimmedTrack {
  let again = 0;
  const { words, cues, remarks } = carryOver(
    track,
    { shared: heardStretches(trim), added: [] },
    () => `again-${again++}`
  );
  return { track: { ...track, words, cues }, remarks };
}
