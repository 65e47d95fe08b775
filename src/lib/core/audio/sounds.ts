/** Loud stretches in which nobody speaks: what a described sound may be wanted for. */
import { type ReckonedSpan, type Span, toSpan } from '../time';
import { compand, LEVEL_BUCKET_MS, LEVEL_BYTES } from './levels';

export const SOUND_DEFAULTS = {
  /** dB above the recording's own quiet, the level that a tenth of it stays below. */
  aboveQuietDb: 14,
  /** Quieter than this (dBFS) nobody hears it, so it is no sound. */
  leastDb: -48,
  minLengthMs: 200,
  /** Strokes closer than this are one sound. */
  joinMs: 900,
  /** Speech begins and ends more quietly than the map says. */
  awayFromSpeechMs: 150
};

/** Stretches of sound without speech, in order, louder than the recording's quiet by far. */
export function findSounds(
  levels: Uint8Array,
  speech: readonly ReckonedSpan[],
  options: Partial<typeof SOUND_DEFAULTS> = {}
): Span[] {
  const { aboveQuietDb, leastDb, minLengthMs, joinMs, awayFromSpeechMs } = { ...SOUND_DEFAULTS, ...options };
  const buckets = levels.length / LEVEL_BYTES;
  const rms = (bucket: number): number => levels[bucket * LEVEL_BYTES + 2]!;
  const counts = new Uint32Array(128);
  for (let bucket = 0; bucket < buckets; bucket++) counts[rms(bucket)]!++;
  let quiet = 0;
  for (let seen = counts[0]!; seen < buckets / 10 && quiet < 127; seen += counts[++quiet]!);
  // Levels are stored as square roots, so a factor of the amplitude becomes its square root.
  const limit = Math.max(compand(10 ** (leastDb / 20)), quiet * 10 ** (aboveQuietDb / 40));
  const found: { startMs: number; endMs: number }[] = [];
  let speechAt = 0;
  for (let bucket = 0; bucket < buckets; bucket++) {
    const nowMs = bucket * LEVEL_BUCKET_MS;
    while (speechAt < speech.length && speech[speechAt]!.endMs + awayFromSpeechMs <= nowMs) speechAt++;
    const next = speech[speechAt];
    const isSpeech = next !== undefined && next.startMs - awayFromSpeechMs <= nowMs;
    if (isSpeech || rms(bucket) < limit) continue;
    const last = found.at(-1);
    const spokenBetween = last !== undefined && (speech[speechAt - 1]?.endMs ?? 0) > last.endMs;
    if (last !== undefined && !spokenBetween && nowMs - last.endMs <= joinMs) last.endMs = nowMs + LEVEL_BUCKET_MS;
    else found.push({ startMs: nowMs, endMs: nowMs + LEVEL_BUCKET_MS });
  }
  return found.filter((sound) => sound.endMs - sound.startMs >= minLengthMs).map(toSpan);
}

/** What is heard most, in the brackets of a described sound. */
export const SOUND_PALETTE: readonly string[] = [
  '[music]',
  '[bell strikes]',
  '[applause]',
  '[laughter]',
  '[footsteps]',
  '[door closes]',
  '[ticking]',
  '[machine hums]',
  '[knocking]',
  '[wind]',
  '[birds sing]',
  '[phone rings]'
];
