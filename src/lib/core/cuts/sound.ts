/** A sound that is read in places, for what is too long to be held whole: 16-bit mono at 16 kHz. */
export interface Sound {
  /** Samples. */
  readonly length: number;
  /** As many samples from a place as there are, at most `count`. */
  read(from: number, count: number): Int16Array;
}

/** `count` samples from a place that may lie before the sound or behind it: silence there. */
export function readPadded(sound: Sound, from: number, count: number): Int16Array {
  const first = Math.max(0, from);
  const last = Math.min(sound.length, from + count);
  if (first === from && last === from + count) return sound.read(from, count);
  const padded = new Int16Array(count);
  if (last > first) padded.set(sound.read(first, last - first), first - from);
  return padded;
}
