/** What is under voices and between them, for a recogniser, not meant for listening. */
import type { Ms, Span } from '../time';

export type Background = 'music' | 'noise';

/** What nobody speaks in goes down by 30 dB, and no further: a recogniser that hears nothing at all loses its bearings. */
const QUIET_GAIN = 0.03;
/** From one to the other in this many samples. */
const RAMP = 320;

/** The sound with what lies outside the speech held down; `fromMs`: the time of its first sample; 16 kHz. */
export function quietenOutside(samples: Int16Array, fromMs: Ms, speech: readonly Span[]): Int16Array {
  const first = fromMs * 16;
  let at = 0;
  return samples.map((sample, index) => {
    const place = first + index;
    while (at < speech.length && speech[at]!.endMs * 16 <= place) at++;
    const before = at > 0 ? place - speech[at - 1]!.endMs * 16 : Number.POSITIVE_INFINITY;
    const ahead = at < speech.length ? speech[at]!.startMs * 16 - place : Number.POSITIVE_INFINITY;
    const away = Math.max(0, Math.min(before, ahead));
    return Math.round(sample * Math.max(QUIET_GAIN, 1 - away / RAMP));
  });
}
