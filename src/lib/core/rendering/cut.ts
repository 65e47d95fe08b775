/** The picture of a trim, to the frame: which frames of the recording are shown, and when. */
import { firstWhere } from '../bisect';
import type { TrimMap } from '../trims';

/** Frames of one stretch of the recording that are shown one after the other. Times are in ms. */
export interface PicturePart {
  /** Recorded time, between two frames: those from here… */
  readonly fromMs: number;
  /** …to here are shown. */
  readonly toMs: number;
  /** A frame of this recorded time, or of an earlier one, … */
  readonly sourceMs: number;
  /** …is shown at this trimmed time. */
  readonly shownMs: number;
}

/** Parts in the order of the recording: they come out of it in one pass. */
export interface PictureRun {
  readonly parts: readonly PicturePart[];
}

export interface PictureCut {
  readonly runs: readonly PictureRun[];
  /** When each frame of what is made is shown. */
  readonly frameTimesMs: readonly number[];
  readonly lengthMs: number;
}

/** A gap that is longer than this is jumped over, not decoded through. */
const JUMP_MS = 60_000;

/** Whether frames stand at a steady rate, but for what a container rounds. */
export function isSteady(frameTimesMs: readonly number[], rate: number): boolean {
  const [firstMs] = frameTimesMs;
  const frameMs = 1000 / rate;
  return firstMs !== undefined && frameTimesMs.every((ms, at) => Math.abs(ms - firstMs - at * frameMs) < frameMs * 0.6);
}

/**
 * `frameTimesMs`: of the recording, in order, one at least. `rate`: of frames that are steady, which those of the trim then
 * are as well; `null`: each frame keeps its own time in its piece.
 */
export function cutPicture(
  { laid, lengthMs }: TrimMap,
  frameTimesMs: readonly number[],
  rate: number | null
): PictureCut {
  const times = frameTimesMs;
  const runs: PicturePart[][] = [];
  const shownMs: number[] = [];
  const border = (frame: number): number =>
    frame <= 0
      ? (times[0] ?? 0) - 1000
      : frame >= times.length
        ? times.at(-1)! + 1000
        : (times[frame - 1]! + times[frame]!) / 2;
  let lastFrame = -1;
  const add = (first: number, end: number, at: Pick<PicturePart, 'sourceMs' | 'shownMs'>): void => {
    const last = runs.at(-1);
    const part = { fromMs: border(first), toMs: border(end), ...at };
    const isFollowing = last !== undefined && first > lastFrame && part.fromMs - last.at(-1)!.toMs < JUMP_MS;
    if (isFollowing) last.push(part);
    else runs.push([part]);
    lastFrame = end - 1;
  };
  const slots = rate === null ? 0 : Math.ceil((lengthMs * rate) / 1000 - 1e-6);
  for (const { fromMs, startMs, endMs } of laid) {
    if (fromMs === null) continue;
    const shift = fromMs - startMs;
    if (rate === null) {
      // The frame that is seen at its beginning is shown from there on.
      let first = Math.max(0, lastBy(times, fromMs));
      if (first === lastFrame && shownMs.length > 0) first++;
      const end = lastBy(times, endMs + shift - 0.5) + 1;
      if (end <= first) continue;
      const sourceMs = Math.max(fromMs, 0);
      add(first, end, { sourceMs, shownMs: startMs });
      for (let frame = first; frame < end; frame++) shownMs.push(startMs + Math.max(0, times[frame]! - sourceMs));
      continue;
    }
    const frameMs = 1000 / rate;
    const firstSlot = Math.ceil(startMs / frameMs - 1e-6);
    const endSlot = Math.min(slots, Math.ceil(endMs / frameMs - 1e-6));
    // The nearest one: its picture is off its sound by half a frame at most.
    let first = Math.max(0, lastBy(times, firstSlot * frameMs + shift + frameMs / 2));
    let slot = firstSlot;
    if (first === lastFrame) {
      first++;
      slot++;
    }
    const end = Math.min(times.length, first + endSlot - slot);
    if (end > first) add(first, end, { sourceMs: times[first]!, shownMs: slot * frameMs });
  }
  if (runs.length === 0 && lengthMs > 0 && times.length > 0) {
    // Nothing of it has a picture: the nearest one stands.
    const only = Math.max(0, lastBy(times, laid.find(({ fromMs }) => fromMs !== null)?.fromMs ?? 0));
    add(only, only + 1, { sourceMs: times[only]!, shownMs: 0 });
    shownMs.push(0);
  }
  return {
    runs: runs.map((parts) => ({ parts })),
    frameTimesMs: rate === null ? fromZero(shownMs) : Array.from({ length: slots }, (_, slot) => (slot * 1000) / rate),
    lengthMs
  };
}

/** What is seen first is seen from the beginning. */
const fromZero = ([first, ...others]: readonly number[]): number[] => (first === undefined ? [] : [0, ...others]);

/** Index of the last time at or before another; -1 for none. */
const lastBy = (times: readonly number[], ms: number): number => firstWhere(times.length, (at) => times[at]! > ms) - 1;
