import { clamp, type Span, toSpan } from '../time';
import type { Rules } from '../track';

export interface SpokenCue {
  readonly firstStartMs: number;
  readonly lastEndMs: number;
  readonly characters: number;
}

/** A frame at 24 a second: nothing shorter is ever on the screen. */
const FRAME_MS = 42;

/**
 * Times of a cue from its words: it starts on the first word's onset and lingers after the last to a readable length,
 * as far as the gap before the next cue, and never past the longest duration. It is never shorter than a frame: the gap
 * before the next cue gives way first, and two onsets within a frame overlap.
 * `nextStartMs` is the onset of the next cue's first word, or `null` for the last.
 */
export function timeCue(cue: SpokenCue, nextStartMs: number | null, rules: Rules): Span {
  const startMs = cue.firstStartMs;
  const readableMs = Math.max(rules.minDurationMs, Math.ceil((cue.characters * 1000) / rules.maxCharsPerSecond));
  const wanted = Math.max(cue.lastEndMs + rules.lingerMs, startMs + readableMs);
  const longest = startMs + rules.maxDurationMs;
  const latest =
    nextStartMs === null || nextStartMs <= startMs ? longest : Math.min(longest, nextStartMs - rules.minGapMs);
  return toSpan({ startMs, endMs: clamp(wanted, startMs + FRAME_MS, Math.max(startMs + FRAME_MS, latest)) });
}
