/** How a cue comes, goes and follows the voice: what of it is seen at a time. */
import { lookOfCue, shownWords, type Cue, type Look, type Placement, type Track } from '../track';
import type { Span } from '../time';

export interface CueMotion {
  readonly startMs: number;
  readonly endMs: number;
  /** Of the shown words, in their order. */
  readonly words: readonly Span[];
  readonly motion: Look['motion'];
  readonly placement: Placement;
}

/** Equal states are drawn alike. */
export interface MotionState {
  /** So many words are seen, from the first. */
  readonly shownWords: number;
  /** The word that is being spoken, where it is marked. */
  readonly spokenWord: number | null;
  /** 0 to 1, of all that is drawn. */
  readonly alpha: number;
  /** Downwards, in em. */
  readonly shiftEm: number;
}

/** Where it neither comes nor goes. */
const SETTLED = { alpha: 1, shiftEm: 0 };

/** All of it, at rest. */
export const AT_REST: MotionState = { shownWords: Number.POSITIVE_INFINITY, spokenWord: null, ...SETTLED };

/** From how far a cue rises, in em. */
const RISE_EM = 0.9;

export function motionOf(track: Track, cue: Cue): CueMotion {
  const { motion, placement } = lookOfCue(track, cue);
  return {
    startMs: cue.startMs,
    endMs: cue.endMs,
    words: shownWords(track, cue).map(({ startMs, endMs }) => ({ startMs, endMs })),
    motion,
    placement
  };
}

/**
 * What is seen at `tMs`; `null` where the cue is not on the picture. `holdsStill`: for who asked for less motion: it comes
 * and goes at once, and all of its words are there.
 */
export function stateAt(cue: CueMotion, tMs: number, holdsStill = false): MotionState | null {
  if (tMs < cue.startMs || tMs >= cue.endMs) return null;
  const { follow } = cue.motion;
  const all = cue.words.length;
  if (holdsStill) return { ...AT_REST, shownWords: all };
  const begun = follow === 'none' ? all : countBegun(cue, tMs);
  return {
    ...arrivalAt(cue, tMs),
    shownWords: follow === 'appear' ? begun : all,
    spokenWord: (follow === 'color' || follow === 'box') && begun > 0 ? begun - 1 : null
  };
}

/** Words whose time has come. The first one comes with its cue, whenever it is spoken. */
function countBegun({ words }: CueMotion, tMs: number): number {
  let begun = words.length === 0 ? 0 : 1;
  while (begun < words.length && words[begun]!.startMs <= tMs) begun++;
  return begun;
}

function arrivalAt({ startMs, endMs, motion, placement }: CueMotion, tMs: number): typeof SETTLED {
  // A short cue is fully there for a moment at least.
  const lengthMs = Math.min(motion.lengthMs, (endMs - startMs) / 2);
  if (lengthMs === 0) return SETTLED;
  const [kind, done] =
    tMs - startMs < lengthMs
      ? [motion.come, (tMs - startMs) / lengthMs]
      : endMs - tMs < lengthMs
        ? [motion.go, (endMs - tMs) / lengthMs]
        : (['cut', 1] as const);
  if (kind === 'cut') return SETTLED;
  // Slower towards its rest.
  const eased = 1 - (1 - done) ** 2;
  return { alpha: eased, shiftEm: kind === 'rise' ? (1 - eased) * RISE_EM * edgeOf(placement) : 0 };
}

/** Towards which edge of the picture it is nearer: 1 below, -1 above. */
const edgeOf = (placement: Placement): 1 | -1 =>
  typeof placement === 'string' ? (placement.startsWith('top') ? -1 : 1) : placement.yPercent < 50 ? -1 : 1;
