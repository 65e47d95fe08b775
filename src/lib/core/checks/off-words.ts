/** Whether a cue has come away from its words: what its card says of it. */
import { shownWords, type Cue, type Track } from '../track';

/** An edge farther than this from the heard words counts as off its words. */
export const OFF_WORDS_MS = 300;

/** Whether an edge of the cue lies over `OFF_WORDS_MS` inside or outside its heard words; a lingering end is not off. */
export function isOffWords(track: Track, cue: Cue): boolean {
  const heard = shownWords(track, cue).filter((word) => word.timing !== 'estimated');
  const [first, last] = [heard[0], heard.at(-1)];
  if (first === undefined || last === undefined) return false;
  const lingerMs = Math.max(track.rules.lingerMs, track.rules.minDurationMs, OFF_WORDS_MS);
  return (
    Math.abs(cue.startMs - first.startMs) > OFF_WORDS_MS ||
    cue.endMs < last.endMs - OFF_WORDS_MS ||
    cue.endMs > Math.max(last.endMs + lingerMs + 1500, cue.startMs + track.rules.minDurationMs)
  );
}
