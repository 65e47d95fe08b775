/** What is known of a recording, as it is of a trim: its waveform, where there is speech, instants and stretches of it. */
import { firstWhere } from '../bisect';
import { LEVEL_BUCKET_MS, LEVEL_BYTES, type SpeechMap } from '../audio';
import { toSpan, wholeMs, type Ms, type ReckonedSpan, type Span } from '../time';
import type { TrimMap } from './map';

/** The recorded time that is heard at a trimmed one; of the room at any quiet moment of it; `null` where nothing is. */
function heardAt({ laid }: TrimMap, at: number, trimmedMs: number, room: Span | undefined): number | null {
  const { plays, fromMs, startMs } = laid[at]!;
  if (plays === 'nothing') return null;
  if (plays === 'sound') return trimmedMs - startMs + fromMs!;
  return room === undefined ? null : room.startMs + ((trimmedMs - startMs) % (room.endMs - room.startMs));
}

/** Goes through trimmed time in steps. */
function* steps(
  map: TrimMap,
  stepMs: number
): Generator<{ readonly step: number; readonly at: number; readonly ms: number }> {
  let at = 0;
  for (let step = 0; step * stepMs < map.lengthMs; step++) {
    const ms = step * stepMs;
    while (map.laid[at]!.endMs <= ms) at++;
    yield { step, at, ms };
  }
}

/** Levels in the same form. `room`: where the room is heard alone. */
export function trimLevels(levels: Uint8Array, map: TrimMap, room?: Span): Uint8Array {
  const trimmed = new Uint8Array(Math.ceil(map.lengthMs / LEVEL_BUCKET_MS) * LEVEL_BYTES);
  for (const { step, at, ms } of steps(map, LEVEL_BUCKET_MS)) {
    const heardMs = heardAt(map, at, ms, room);
    if (heardMs === null) continue;
    const from = Math.floor(heardMs / LEVEL_BUCKET_MS) * LEVEL_BYTES;
    trimmed.set(levels.subarray(from, from + LEVEL_BYTES), step * LEVEL_BYTES);
  }
  return trimmed;
}

export function trimSpeech({ frameMs, probabilities }: SpeechMap, map: TrimMap): SpeechMap {
  const trimmed = new Float32Array(Math.ceil(map.lengthMs / frameMs));
  for (const { step, at, ms } of steps(map, frameMs)) {
    const heardMs = heardAt(map, at, ms, undefined);
    if (heardMs !== null) trimmed[step] = probabilities[Math.floor(heardMs / frameMs)] ?? 0;
  }
  return { frameMs, probabilities: trimmed };
}

/** Where the parts of stretches are that are heard, in order; those that meet are one. */
export function trimSpans(spans: readonly ReckonedSpan[], { laid }: TrimMap): Span[] {
  const sorted = spans.toSorted((a, b) => a.startMs - b.startMs);
  const trimmed: { startMs: number; endMs: number }[] = [];
  for (const { plays, fromMs, startMs, endMs } of laid) {
    if (plays !== 'sound' || fromMs === null) continue;
    const toMs = fromMs + endMs - startMs;
    const first = firstWhere(sorted.length, (at) => sorted[at]!.endMs > fromMs);
    for (let at = first; at < sorted.length && sorted[at]!.startMs < toMs; at++) {
      const span = {
        startMs: Math.max(sorted[at]!.startMs, fromMs) - fromMs + startMs,
        endMs: Math.min(sorted[at]!.endMs, toMs) - fromMs + startMs
      };
      const last = trimmed.at(-1);
      if (last !== undefined && span.startMs <= last.endMs) last.endMs = Math.max(last.endMs, span.endMs);
      else if (span.endMs > span.startMs) trimmed.push(span);
    }
  }
  return trimmed.map(toSpan);
}

/** Every time at which one of the instants plays, in order. */
export const trimInstants = (instantsMs: readonly number[], map: TrimMap): Ms[] =>
  instantsMs
    .flatMap((ms) => map.trimmedAt(ms))
    .sort((a, b) => a - b)
    .map(wholeMs);
