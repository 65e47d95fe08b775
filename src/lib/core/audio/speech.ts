/** Where there is speech, from its probability frame by frame, and where a recording can be parted without parting a word. */
import { clamp, toSpan, type ReckonedSpan, type Span } from '../time';

export interface SpeechMap {
  readonly frameMs: number;
  /** 0 to 1, a frame each, from 0 ms. */
  readonly probabilities: ArrayLike<number>;
}

export const SPEECH_DEFAULTS = {
  /** Speech begins at this probability and goes on until it stays below `offBelow` for `minPauseMs`. */
  onFrom: 0.5,
  offBelow: 0.35,
  minPauseMs: 160,
  minSpeechMs: 90,
  /** Kept before and after: onsets and endings are quieter than the model likes. */
  padMs: 40
};

/** Stretches of speech in order, none touching another. */
export function speechRegions(
  map: SpeechMap,
  durationMs: number,
  options: Partial<typeof SPEECH_DEFAULTS> = {}
): Span[] {
  const { onFrom, offBelow, minPauseMs, minSpeechMs, padMs } = { ...SPEECH_DEFAULTS, ...options };
  const regions: { startMs: number; endMs: number }[] = [];
  let from = -1;
  let quietFrom = -1;
  const close = (endMs: number): void => {
    if (endMs - from >= minSpeechMs) {
      const startMs = Math.max(0, from - padMs);
      const last = regions.at(-1);
      if (last !== undefined && startMs <= last.endMs) last.endMs = Math.min(durationMs, endMs + padMs);
      else regions.push({ startMs, endMs: Math.min(durationMs, endMs + padMs) });
    }
    from = -1;
    quietFrom = -1;
  };
  for (let frame = 0; frame < map.probabilities.length; frame++) {
    const probability = map.probabilities[frame]!;
    const nowMs = frame * map.frameMs;
    if (from < 0) {
      if (probability >= onFrom) from = nowMs;
    } else if (probability >= offBelow) quietFrom = -1;
    else {
      if (quietFrom < 0) quietFrom = nowMs;
      if (nowMs + map.frameMs - quietFrom >= minPauseMs) close(quietFrom);
    }
  }
  if (from >= 0) close(quietFrom >= 0 ? quietFrom : map.probabilities.length * map.frameMs);
  return regions.filter((region) => region.endMs > region.startMs).map(toSpan);
}

export interface ChunkOptions {
  /** A chunk is closed at the next good pause from here on. */
  readonly targetMs: number;
  /** And at the least likely speech before here, where there is no pause. */
  readonly maxMs: number;
}

/**
 * The speech as chunks, in order, that do not overlap: parted at pauses, and inside speech only where it goes on for
 * longer than `maxMs`. Silence longer than 1.5 s between chunks is in none of them.
 */
export function chunksBetweenPauses(regions: readonly ReckonedSpan[], map: SpeechMap, options: ChunkOptions): Span[] {
  const marginMs = 300;
  const chunks: ReckonedSpan[] = [];
  let open: { startMs: number; endMs: number } | null = null;
  const close = (): void => {
    if (open !== null) chunks.push(open);
    open = null;
  };
  regions.forEach((region, at) => {
    const before = regions[at - 1]?.endMs ?? 0;
    const after = regions[at + 1]?.startMs ?? Number.POSITIVE_INFINITY;
    const endMs = Math.min(region.endMs + marginMs, (region.endMs + after) / 2);
    if (open !== null && (region.startMs - before > 1500 || region.endMs - open.startMs > options.targetMs)) close();
    open ??= { startMs: Math.max(region.startMs - marginMs, (before + region.startMs) / 2), endMs };
    open.endMs = endMs;
    while (open.endMs - open.startMs > options.maxMs) {
      const partMs = leastLikelySpeech(map, open.startMs + options.maxMs * 0.6, open.startMs + options.maxMs);
      chunks.push({ startMs: open.startMs, endMs: partMs });
      open = { startMs: partMs, endMs };
    }
  });
  close();
  return chunks.map(({ startMs, endMs }) => toSpan({ startMs: Math.max(0, startMs), endMs }));
}

/** The middle of the frame in which speech is least likely, over three frames, between two times. */
export function leastLikelySpeech(map: SpeechMap, fromMs: number, toMs: number): number {
  const frames = map.probabilities.length;
  const first = clamp(Math.ceil(fromMs / map.frameMs), 0, frames - 1);
  const last = clamp(Math.floor(toMs / map.frameMs) - 1, first, frames - 1);
  let best = last;
  let least = Number.POSITIVE_INFINITY;
  for (let frame = first; frame <= last; frame++) {
    const here =
      map.probabilities[frame]! * 2 + (map.probabilities[frame - 1] ?? 0) + (map.probabilities[frame + 1] ?? 0);
    if (here <= least) {
      least = here;
      best = frame;
    }
  }
  return clamp(Math.round((best + 0.5) * map.frameMs), Math.ceil(fromMs), Math.floor(toMs));
}
