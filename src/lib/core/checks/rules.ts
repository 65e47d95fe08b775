/** The checks that every surface shows as one works: reading and timing by the house's rules, faults and warnings alone. */
import { shownWords, shownWordsOfAll, type Track } from '../track';
import { knowOnly, type CueFinding } from './finding';
import { checkView, running, showCue, viewAt, type Running } from './run';

const NO_HABITS = { dash: null, ellipsis: null, quotes: null };

const byTheRules = (track: Track, durationMs: number): readonly Running[] =>
  running(track, knowOnly(durationMs), {}, NO_HABITS).checks.filter(
    ({ check, severity }) =>
      severity !== 'hint' &&
      !('lookAtAll' in check) &&
      (check.group === 'reading' || check.group === 'timing' || check.id === 'past_end')
  );

/** Of one cue, by its place among the cues. */
export function checkCue(track: Track, at: number, durationMs: number): readonly CueFinding[] {
  const shown = [at - 1, at, at + 1].map((index) => {
    const cue = track.cues[index];
    return cue === undefined ? null : showCue(track, cue, shownWords(track, cue));
  });
  return checkView(byTheRules(track, durationMs), { ...shown[1]!, before: shown[0]!, next: shown[2]! });
}

/** Of all cues, in their order. */
export function checkCues(track: Track, durationMs: number): readonly CueFinding[] {
  const words = shownWordsOfAll(track);
  const shown = track.cues.map((cue, at) => showCue(track, cue, words[at]!));
  const checks = byTheRules(track, durationMs);
  return shown.flatMap((_, at) => checkView(checks, viewAt(shown, at)));
}
