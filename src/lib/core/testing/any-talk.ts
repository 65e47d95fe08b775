/** A made-up talk: when somebody speaks, the speech map of it, and captions as they would be made for it. */
import type { SpeechMap } from '../audio';
import { type Span, toSpan } from '../time';

/** Mulberry32: the same numbers for the same seed. */
export function numbers(seed: number): () => number {
  let state = seed | 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

export interface MadeTalk {
  readonly cues: readonly Span[];
  readonly speech: SpeechMap;
  readonly durationMs: number;
}

const FRAME_MS = 32;
/** A model of speech says so a little after a voice begins. */
const LATE_MS = 30;

/** `unrest` 0 to 1: how often the speech map takes something else for a voice, and misses one. */
export function makeSpokenTalk(durationMs: number, seed: number, unrest = 0.05): MadeTalk {
  const random = numbers(seed);
  const cues: Span[] = [];
  const probabilities = new Float64Array(Math.ceil(durationMs / FRAME_MS)).map(() => 0.02 + random() * unrest);
  for (let ms = 500 + random() * 3000; ms < durationMs - 4000;) {
    const lengthMs = 600 + random() * 4500;
    const endMs = ms + lengthMs;
    for (let frame = Math.round((ms + LATE_MS) / FRAME_MS); frame < endMs / FRAME_MS; frame++)
      probabilities[frame] = random() < unrest * 0.3 ? 0.2 : 0.9 + random() * 0.1;
    for (let fromMs = ms; fromMs < endMs;) {
      const wantedMs = 1200 + random() * 3500;
      const isLast = fromMs + wantedMs >= endMs - 300;
      const toMs = isLast ? endMs + random() * 500 : fromMs + wantedMs - 80;
      cues.push(toSpan({ startMs: fromMs + (random() - 0.5) * 60, endMs: toMs }));
      fromMs = isLast ? endMs : fromMs + wantedMs;
    }
    ms = endMs + (random() < 0.15 ? 2000 + random() * 6000 : 200 + random() * 1200);
  }
  for (let frame = 0; frame < probabilities.length; frame++)
    if (random() < unrest * 0.1) probabilities.fill(0.6, frame, frame + 8);
  return { cues, speech: { frameMs: FRAME_MS, probabilities }, durationMs };
}
