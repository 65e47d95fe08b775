/** The checks that every surface shows as one works: reading and timing by the track's sheet, faults and warnings alone. */
import { shownWordsOfAll, type Track } from '../track';
import { knowOnly, type CueFinding } from './finding';
import { checkView, running, showCue, viewAt, viewOf, type Running } from './run';
import { CHECKS } from './table';

const NO_HABITS = { dash: null, ellipsis: null, quotes: null };

/** Chosen once: a row of the trellis asks for each of its cues. */
const BY_THE_RULES = CHECKS.filter(
  (check) =>
    'look' in check &&
    (check.needs ?? []).length === 0 &&
    (check.group === 'reading' || check.group === 'timing' || check.id === 'past_end')
);

const byTheRules = (track: Track, durationMs: number): readonly Running[] =>
  running(track, knowOnly(durationMs), track.sheet, NO_HABITS, BY_THE_RULES).checks.filter(
    ({ severity }) => severity !== 'hint'
  );

/** Of one cue, by its place among the cues. */
export const checkCue = (track: Track, at: number, durationMs: number): readonly CueFinding[] =>
  checkView(byTheRules(track, durationMs), viewOf(track, at));

/** Of all cues, in their order. */
export function checkCues(track: Track, durationMs: number): readonly CueFinding[] {
  const words = shownWordsOfAll(track);
  const shown = track.cues.map((cue, at) => showCue(track, cue, words[at]!));
  const checks = byTheRules(track, durationMs);
  return shown.flatMap((_, at) => checkView(checks, viewAt(shown, at)));
}
