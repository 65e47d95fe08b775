/** Pauses of a recording: where nobody speaks and little is heard. */
import { firstWhere } from '../bisect';
import { LEVEL_BUCKET_MS, LEVEL_BYTES, rmsOf, type SpeechMap } from '../audio';
import { toSpan, type ReckonedSpan, type Span } from '../time';

export interface PauseOptions {
  /** Of the level of the speech, in dB: quieter than that it is a pause. */
  readonly thresholdDb: number;
  readonly leastMs: number;
  /** Left at each side of what is taken out. */
  readonly marginMs: number;
}
export const PAUSE_DEFAULTS: PauseOptions = { thresholdDb: 24, leastMs: 600, marginMs: 120 };

const CLICK_MS = 40;
/** So far from the edges of a quiet stretch the speech map may still say speech: its frames are wide. */
const MAP_REACH_MS = 120;
const SPEECH_FROM = 0.5;
/** Of speech, where no map knows of any. */
const USUAL_SPEECH = 0.1;

/** Amplitude of what is spoken, as the mean power of it; what is quiet between words counts little. */
export function speechLevel(levels: Uint8Array, speech: SpeechMap): number {
  let power = 0;
  let count = 0;
  for (let frame = 0; frame < speech.probabilities.length; frame++) {
    if (speech.probabilities[frame]! < SPEECH_FROM) continue;
    const from = Math.round((frame * speech.frameMs) / LEVEL_BUCKET_MS);
    const to = Math.round(((frame + 1) * speech.frameMs) / LEVEL_BUCKET_MS);
    for (let bucket = from; bucket < to; bucket++) {
      power += rmsOf(levels, bucket) ** 2;
      count++;
    }
  }
  return count === 0 ? USUAL_SPEECH : Math.sqrt(power / count);
}

/** Whole pauses in order, with what stays of them: `pauseToTake` says what goes. */
export function findPauses(
  levels: Uint8Array,
  speech: SpeechMap,
  options: Pick<PauseOptions, 'thresholdDb' | 'leastMs'>
): Span[] {
  const limit = speechLevel(levels, speech) * 10 ** (-options.thresholdDb / 20);
  return quietBelow(levels, limit)
    .flatMap((span) => withoutSpeech(span, speech))
    .filter(({ startMs, endMs }) => endMs - startMs >= options.leastMs)
    .map(toSpan);
}

interface Stretch {
  readonly startMs: number;
  readonly endMs: number;
}

/** Stretches below a level but for clicks. */
function quietBelow(levels: Uint8Array, limit: number): Stretch[] {
  const buckets = Math.floor(levels.length / LEVEL_BYTES);
  const found: Stretch[] = [];
  let from = 0;
  let loud = 0;
  const close = (to: number): void => {
    if (to > from) found.push({ startMs: from * LEVEL_BUCKET_MS, endMs: to * LEVEL_BUCKET_MS });
  };
  for (let bucket = 0; bucket < buckets; bucket++) {
    if (rmsOf(levels, bucket) <= limit) {
      // A sound at its beginning is no click in it.
      if (bucket - loud === from) from = bucket;
      loud = 0;
      continue;
    }
    if (++loud * LEVEL_BUCKET_MS < CLICK_MS) continue;
    close(bucket + 1 - loud);
    from = bucket + 1;
    loud = 0;
  }
  close(buckets - loud);
  return found;
}

/** A voice too soft for the level still is one: the stretch is parted where the map hears it. */
function withoutSpeech({ startMs, endMs }: Stretch, { frameMs, probabilities }: SpeechMap): Stretch[] {
  const parts: Stretch[] = [];
  let fromMs = startMs;
  const first = Math.ceil((startMs + MAP_REACH_MS) / frameMs);
  const last = Math.floor((endMs - MAP_REACH_MS) / frameMs) - 1;
  for (let frame = first; frame <= last; frame++) {
    if ((probabilities[frame] ?? 0) < SPEECH_FROM) continue;
    if (frame * frameMs > fromMs) parts.push({ startMs: fromMs, endMs: frame * frameMs });
    fromMs = (frame + 1) * frameMs;
  }
  return [...parts, { startMs: fromMs, endMs }];
}

/**
 * What of a pause goes: all but its margins, or all but `shortenToMs` of it, half at each side. `null` where nothing does.
 */
export function pauseToTake(
  { startMs, endMs }: Span,
  { marginMs, shortenToMs = 0 }: { readonly marginMs: number; readonly shortenToMs?: number | undefined }
): Span | null {
  const keptMs = Math.max(marginMs, shortenToMs / 2);
  const taken = { startMs: startMs + keptMs, endMs: endMs - keptMs };
  return taken.endMs - taken.startMs < 1 ? null : toSpan(taken);
}

/**
 * What of a stretch lies clear of words, the longest of it: a word whose time is a little off would be gone from the
 * captions, and still be heard. `words` in the order of their middles. `null` where nothing is clear.
 */
export function clearOfWords(span: Span, words: readonly ReckonedSpan[]): Span | null {
  let best: ReckonedSpan | null = null;
  let fromMs: number = span.startMs;
  const consider = (startMs: number, endMs: number): void => {
    if (endMs - startMs >= 1 && (best === null || endMs - startMs > best.endMs - best.startMs))
      best = { startMs, endMs };
  };
  const middle = ({ startMs, endMs }: ReckonedSpan): number => (startMs + endMs) / 2;
  const first = firstWhere(words.length, (at) => middle(words[at]!) >= span.startMs);
  for (let at = first; at < words.length && middle(words[at]!) < span.endMs; at++) {
    consider(fromMs, Math.max(fromMs, words[at]!.startMs));
    fromMs = Math.max(fromMs, words[at]!.endMs);
  }
  consider(fromMs, span.endMs);
  return best === null ? null : toSpan(best);
}
