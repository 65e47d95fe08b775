/** What breaks the house's rules in a track: expected faults, each with where it is and whether it can be mended at a stroke. */
import type { CueId } from '../id';
import type { Span } from '../time';
import { countCharacters, lineLength, plainLines, shownWords, type Cue, type Track } from '../track';

export type CheckRule =
  | 'reading_speed'
  | 'line_length'
  | 'line_count'
  | 'min_duration'
  | 'max_duration'
  | 'min_gap'
  | 'overlap'
  | 'empty_cue'
  | 'off_words'
  | 'past_end';

export interface Finding extends Span {
  readonly rule: CheckRule;
  readonly severity: 'error' | 'warning' | 'hint';
  readonly cueId: CueId;
  /** A sentence with the figure and the limit. */
  readonly message: string;
  /** Easing or breaking anew can mend it. */
  readonly fixable: boolean;
}

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

const seconds = (ms: number): string => (ms / 1000).toFixed(2);

/** Every finding, in order of time. `durationMs` of the recording. */
export function checkTrack(track: Track, durationMs: number): Finding[] {
  return track.cues.flatMap((cue, at) => checkCue(track, at, durationMs).map((one) => ({ ...one, cueId: cue.id })));
}

/** What breaks the rules in one cue, by its place among the cues. */
export function checkCue(track: Track, at: number, durationMs: number): Omit<Finding, 'cueId'>[] {
  const { rules } = track;
  const cue = track.cues[at]!;
  const before = track.cues[at - 1];
  const found: Omit<Finding, 'cueId'>[] = [];
  const add = (rule: CheckRule, severity: Finding['severity'], message: string, fixable = false): void => {
    found.push({ rule, severity, startMs: cue.startMs, endMs: cue.endMs, message, fixable });
  };
  const lines = plainLines(track, cue);
  const lengthMs = cue.endMs - cue.startMs;
  const characters = countCharacters(lines.join(' '));
  const speed = characters / (lengthMs / 1000);
  if (lines.length === 0) add('empty_cue', 'warning', 'The cue shows no text.');
  // Speeds are told and compared as they are shown: in whole characters a second.
  if (speed > rules.maxCharsPerSecond)
    add(
      'reading_speed',
      'error',
      `${Math.ceil(speed)} characters a second; the limit is ${rules.maxCharsPerSecond}.`,
      true
    );
  if (lines.length > rules.maxLines)
    add('line_count', 'error', `${lines.length} lines; at most ${rules.maxLines} are shown.`, true);
  for (const [index, line] of lines.entries()) {
    const length = lineLength(line, track.language);
    if (length > rules.maxCharsPerLine)
      add(
        'line_length',
        'error',
        `Line ${index + 1} holds ${length} characters; the limit is ${rules.maxCharsPerLine}.`,
        true
      );
  }
  if (lengthMs < rules.minDurationMs)
    add(
      'min_duration',
      'warning',
      `On screen for ${seconds(lengthMs)} s; the least is ${seconds(rules.minDurationMs)} s.`,
      true
    );
  if (lengthMs > rules.maxDurationMs)
    add(
      'max_duration',
      'warning',
      `On screen for ${seconds(lengthMs)} s; the most is ${seconds(rules.maxDurationMs)} s.`,
      true
    );
  if (before !== undefined && before.endMs > cue.startMs)
    add('overlap', 'error', `Begins ${seconds(before.endMs - cue.startMs)} s before the cue ahead of it ends.`);
  else if (before !== undefined && cue.startMs - before.endMs < rules.minGapMs)
    add(
      'min_gap',
      'warning',
      `${cue.startMs - before.endMs} ms behind the cue ahead of it; the least gap is ${rules.minGapMs} ms.`,
      true
    );
  if (cue.endMs > durationMs)
    add('past_end', 'error', `Ends ${seconds(cue.endMs - durationMs)} s after the recording does.`);
  if (isOffWords(track, cue))
    add('off_words', 'hint', `An edge lies more than ${OFF_WORDS_MS / 1000} s from the words.`, true);
  return found;
}
