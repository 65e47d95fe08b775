/** Laying a script on the sound by a reading of it: for languages that no engine hears. */
import type { Ms, Span } from '../time';
import type { FittedWord } from './fit';
import type { ScriptWord } from './script';
import { warp, type Frames, type Warp } from './warp';

export interface Reading {
  /** When each of the script's words is read; `null` for a sign that is not. */
  readonly words: readonly (Span | null)[];
  readonly frameMs: Ms;
}

/** Words in a row that are pressed into less than this share of their time are not spoken. */
const LEAST_SHARE = 0.28;
const LEAST_RUN = 3;

/** The script's words where the warp lays them. `msOfFrame`: the time of each frame of the sound that was laid under. */
export function placeByReading(
  script: readonly ScriptWord[],
  reading: Reading,
  { path }: Warp,
  msOfFrame: ArrayLike<Ms>
): readonly FittedWord[] {
  const soundMs = (readMs: Ms): Ms => {
    const frame = Math.min(path.length - 1, Math.max(0, Math.round(readMs / reading.frameMs)));
    return msOfFrame[path[frame]!] ?? 0;
  };
  let leastMs = 0;
  const words = script.map(({ text, startsParagraph }, at): FittedWord => {
    const read = reading.words[at];
    if (!read) return { text, startsParagraph, startMs: leastMs, endMs: leastMs, place: 'estimated' };
    const startMs = Math.max(leastMs, Math.round(soundMs(read.startMs)));
    const endMs = Math.max(startMs, Math.round(soundMs(read.endMs)));
    leastMs = startMs;
    return { text, startsParagraph, startMs, endMs, place: 'fitted' };
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
