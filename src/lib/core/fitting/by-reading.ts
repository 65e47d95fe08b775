/** Laying a script on the sound by a reading of it: for languages that no engine hears. */
import { type ReckonedSpan, toSpan } from '../time';
import type { FittedWord } from './fit';
import { withoutForms, type ScriptWord } from './script';
import { warp, type Frames, type Warp } from './warp';

export interface Reading {
  /** When each of the script's words is read; `null` for a sign that is not. */
  readonly words: readonly (ReckonedSpan | null)[];
  readonly frameMs: number;
}

/** Where the reading rests this long, the speech may rest too. */
const READ_PAUSE_MS = 80;
/** So far from a pause of the speech a word that a pause of the reading parts from the next is still taken to lie at it. */
const NEAR_PAUSE_MS = 250;

/** Words in a row that are pressed into less than this share of their time are not spoken. */
const LEAST_SHARE = 0.28;
const LEAST_RUN = 3;

/** The script's words where the warp lays them. `msOfFrame`: the time of each frame of the sound that was laid under. */
export function placeByReading(
  script: readonly ScriptWord[],
  reading: Reading,
  { path }: Warp,
  msOfFrame: ArrayLike<number>
): readonly FittedWord[] {
  const frameOf = (readMs: number): number =>
    path[Math.min(path.length - 1, Math.max(0, Math.round(readMs / reading.frameMs)))] ?? 0;
  const resumes = framesAfterPauses(msOfFrame, reading.frameMs);
  const nearby = NEAR_PAUSE_MS / reading.frameMs;
  const nextTo = (frame: number): number | undefined =>
    resumes.filter((at) => Math.abs(at - frame) <= nearby).sort((a, b) => Math.abs(a - frame) - Math.abs(b - frame))[0];
  const isPause = (one: ReckonedSpan | null | undefined, next: ReckonedSpan | null | undefined): boolean =>
    !one || !next || next.startMs - one.endMs >= READ_PAUSE_MS;
  let leastMs = 0;
  const words = script.map((word, at): FittedWord => {
    const read = reading.words[at];
    if (!read) return { ...withoutForms(word), ...toSpan({ startMs: leastMs, endMs: leastMs }), place: 'estimated' };
    // Silence is not in the frames: there what comes before a pause and what comes after it touch.
    const [from, to] = [frameOf(read.startMs), frameOf(read.endMs)];
    const resumed = isPause(reading.words[at - 1], read) ? nextTo(from) : undefined;
    const paused = isPause(read, reading.words[at + 1]) ? nextTo(to) : undefined;
    const startMs = Math.max(leastMs, Math.round(msOfFrame[resumed ?? from] ?? 0));
    const endMs = Math.max(startMs, Math.round(msOfFrame[paused === undefined ? to : paused - 1] ?? 0));
    leastMs = startMs;
    return { ...withoutForms(word), ...toSpan({ startMs, endMs }), place: 'fitted' };
  });
  const isPressed = words.map((word, at) => {
    const read = reading.words[at];
    return read ? word.endMs - word.startMs < LEAST_SHARE * (read.endMs - read.startMs) : null;
  });
  for (let from = 0; from < words.length; from++) {
    if (isPressed[from] !== true) continue;
    let to = from;
    while (to < words.length && isPressed[to] !== false) to++;
    if (to - from >= LEAST_RUN) for (let at = from; at < to; at++) words[at] = { ...words[at]!, place: 'not spoken' };
    from = to;
  }
  return words;
}

/** The first frames behind what was left out. */
const framesAfterPauses = (msOfFrame: ArrayLike<number>, frameMs: number): readonly number[] =>
  Array.from(msOfFrame).flatMap((ms, frame) =>
    frame > 0 && ms - msOfFrame[frame - 1]! > frameMs * 1.5 ? [frame] : []
  );

/**
 * How well a reading lies on the sound, by how well the same reading does backwards: near 1 for words that are not
 * spoken there, whoever reads them; less for those that are.
 */
export function strangeness(reading: Frames, sound: Frames, { cost }: Warp): number {
  const { count, width, values } = reading;
  const backwards = new Float32Array(values.length);
  for (let frame = 0; frame < count; frame++)
    backwards.set(values.subarray(frame * width, (frame + 1) * width), (count - 1 - frame) * width);
  return cost / warp({ count, width, values: backwards }, sound).cost;
}
