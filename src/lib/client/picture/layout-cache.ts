/** Cues laid out for a picture, kept while nothing that they depend on has changed. */
import {
  AT_REST,
  blockOf,
  compose,
  motionOf,
  standApart,
  stateAt,
  type Composed,
  type CueMotion,
  type MotionState,
  type PictureSize
} from '$lib/core/layout';
import type { CueId } from '$lib/core/id';
import { cuesAt, type Cue, type Track } from '$lib/core/track';
import { fonts } from './fonts.svelte';

export interface LaidOut {
  readonly cueId: CueId;
  readonly composed: Composed;
  readonly motion: CueMotion;
}

/** A cue as it is seen at a time, moved down by so many px so that it lies on no other. */
export interface Shot extends LaidOut {
  readonly state: MotionState;
  readonly downPx: number;
}

/** Cues that were on the picture last. */
const MOST_KEPT = 60;

interface Kept {
  readonly track: Track;
  /** What it was laid out from, as a text. */
  readonly from: string;
  readonly laid: LaidOut;
}

export class LayoutCache {
  readonly #kept = new Map<CueId, Kept>();

  /** Asks for fonts that it lacks; they raise `fonts.version` when they have come. */
  layOut(track: Track, cue: Cue, size: PictureSize): LaidOut {
    const known = this.#kept.get(cue.id);
    const around = `${fonts.version} ${size.width} ${size.height}`;
    if (known?.track === track && known.from.startsWith(around)) return known.laid;
    const block = blockOf(track, cue);
    // An edit elsewhere in the track leaves it as it is.
    const from = around + JSON.stringify(block);
    const composed = known?.from === from ? known.laid.composed : compose(block, size, fonts);
    if (composed.wanted.length > 0) void fonts.want(composed.wanted);
    const laid = { cueId: cue.id, composed, motion: motionOf(track, cue) };
    if (this.#kept.size >= MOST_KEPT) this.#kept.clear();
    this.#kept.set(cue.id, { track, from, laid });
    return laid;
  }

  /** What is on the picture at `ms`. `instead`: a cue that is shown, at rest, while no other is. */
  shotsAt(
    track: Track,
    ms: number,
    {
      size,
      holdsStill,
      instead
    }: { readonly size: PictureSize; readonly holdsStill: boolean; readonly instead: Cue | null }
  ): readonly Shot[] {
    const showing = cuesAt(track.cues, ms);
    const seen =
      showing.length === 0 && instead !== null
        ? [{ ...this.layOut(track, instead, size), state: AT_REST }]
        : showing.flatMap((cue) => {
            const laid = this.layOut(track, cue, size);
            const state = stateAt(laid.motion, ms, holdsStill);
            return state === null ? [] : [{ ...laid, state }];
          });
    const down = standApart(seen.map(({ composed }) => composed.drawing));
    return seen.map((one, at) => ({ ...one, downPx: down[at]! }));
  }
}
