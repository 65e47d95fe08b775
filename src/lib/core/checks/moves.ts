/** Times that mendings give to cues: never into a neighbour, never past the recording. */
import type { ClientCommand } from '../commands';
import { toSpan, type ReckonedSpan } from '../time';
import type { Given } from './check';
import type { CueView, ShownCue } from './finding';

/** A cue may begin as much before its words, and stay as long behind them, to be read. */
const EARLIER_MS = 200;
const LATER_MS = 1500;

/** One cue with other times; nothing where they are the same, or leave nothing of it. */
export function timed({ cue }: Pick<ShownCue, 'cue'>, times: Partial<ReckonedSpan>): readonly ClientCommand[] {
  const span = toSpan({ startMs: times.startMs ?? cue.startMs, endMs: times.endMs ?? cue.endMs });
  const isSame = span.startMs === cue.startMs && span.endMs === cue.endMs;
  if (cue.locked || isSame || span.startMs < 0 || span.endMs - span.startMs < 100) return [];
  return [{ type: 'timeCues', times: [{ cueId: cue.id, ...span }] }];
}

/** From where to where a cue may reach without coming nearer to its neighbours than the least gap. */
export function roomOf({ cue, before, next }: CueView, { track, knowledge }: Given<never>): ReckonedSpan {
  const gapMs = track.rules.minGapMs;
  return {
    startMs: Math.min(cue.startMs, before === null ? 0 : before.cue.endMs + gapMs),
    endMs: Math.max(cue.endMs, Math.min(knowledge.durationMs, next === null ? Infinity : next.cue.startMs - gapMs))
  };
}

/** Made so long, first at its end, then a little at its start; nothing where there is no such room. */
export function lengthenTo(view: CueView, given: Given<never>, wantedMs: number): readonly ClientCommand[] {
  const { cue } = view;
  const room = roomOf(view, given);
  const endMs = Math.max(cue.endMs, Math.min(room.endMs, cue.endMs + LATER_MS, cue.startMs + wantedMs));
  const startMs = Math.min(cue.startMs, Math.max(room.startMs, cue.startMs - EARLIER_MS, endMs - wantedMs));
  return endMs - startMs < wantedMs ? [] : timed(view, { startMs, endMs });
}
