/** When the captions on a picture change from one frame to the next. */
import { motionOf, stateAt, type CueMotion, type MotionState } from '../layout';
import { cuesAt, type Cue, type Track } from '../track';

export interface SeenCue {
  readonly cue: Cue;
  readonly state: MotionState;
}

export interface CaptionChange {
  /** When the first frame that shows it is seen. */
  readonly frameMs: number;
  /** Between two frames, so that no rounding of their times shows it too early or too late. */
  readonly atMs: number;
  readonly seen: readonly SeenCue[];
}

/**
 * The changes, one at least, which comes first. `frameTimesMs` in order; what is seen at a frame is what the preview shows
 * when that frame is on the picture. `besides`: what else it shows at a time, as a text that is another where it changes.
 */
export function* captionChanges(
  track: Track,
  frameTimesMs: readonly number[],
  besides: (ms: number) => string = () => ''
): Generator<CaptionChange> {
  const motions = new WeakMap<Cue, CueMotion>();
  const motionFor = (cue: Cue): CueMotion => {
    const known = motions.get(cue) ?? motionOf(track, cue);
    motions.set(cue, known);
    return known;
  };
  let shown: string | null = null;
  let beforeMs = 0;
  for (const frameMs of frameTimesMs) {
    const ms = Math.round(frameMs);
    const seen = cuesAt(track.cues, ms).flatMap((cue): readonly SeenCue[] => {
      const state = stateAt(motionFor(cue), ms);
      return state === null ? [] : [{ cue, state }];
    });
    const cues = seen
      .map(({ cue, state }) => `${cue.id} ${state.shownWords} ${state.spokenWord} ${state.alpha} ${state.shiftEm}`)
      .join('|');
    const now = `${besides(ms)} ${cues}`;
    if (now !== shown) yield { atMs: shown === null ? 0 : (beforeMs + frameMs) / 2, frameMs: ms, seen };
    shown = now;
    beforeMs = frameMs;
  }
  if (shown === null) yield { atMs: 0, frameMs: 0, seen: [] };
}
