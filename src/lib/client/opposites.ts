/**
 * Commands that have an opposite (push and pull a word), or are their own (a comma set and taken off). Right behind each
 * other, and with the same in hand, the second takes back exactly what the first did: lines, times and capitals that the
 * first had to choose come back too.
 */
import { applyChanges, changesBetween } from '$lib/core/changes';
import { trackShape, type Track, type TrackChange } from '$lib/core/track';
import type { Choice, TrackView } from './track-view.svelte';
import { phrases } from './phrases';

interface Done {
  readonly by: string;
  readonly inHand: string;
  /** What was chosen before. */
  readonly choice: Choice;
  /** As they come out of `changesOf`. */
  readonly changes: string;
  readonly inverse: readonly TrackChange[];
}

/** So many are remembered. */
const MOST_DONE = 30;

export class Opposites {
  readonly #view: TrackView;
  readonly #inHand: () => string;
  #done: readonly Done[] = [];

  /** `inHand` names what commands would act on now. */
  constructor(view: TrackView, inHand: () => string) {
    this.#view = view;
    this.#inHand = inHand;
  }

  /** Takes back what one of `takesBack` did, else acts. */
  run({ id, takesBack = [] }: { readonly id: string; readonly takesBack?: readonly string[] }, act: () => void): void {
    const before = this.#view.track;
    const inHand = this.#inHand();
    const last = this.#done.findLast((one) => takesBack.includes(one.by) && one.inHand === inHand);
    if (last !== undefined) this.#done = this.#done.filter((one) => one !== last);
    if (last !== undefined && changesOf(before, last.inverse) === last.changes) {
      if (this.#view.edit([{ type: 'takeBack', changes: last.inverse }], phrases.opposites.asBefore))
        this.#view.choose(last.choice);
      return;
    }
    const { choice } = this.#view;
    act();
    const { track } = this.#view;
    const inverse = changesBetween(track, before, trackShape);
    const changes = changesOf(track, inverse);
    if (inverse.length === 0 || changes === null) return;
    this.#done = [...this.#done.slice(1 - MOST_DONE), { by: id, inHand: this.#inHand(), choice, changes, inverse }];
  }
}

/** What these changes would take away from the track; `null` where they do not fit it. */
function changesOf(track: Track, inverse: readonly TrackChange[]): string | null {
  const back = applyChanges(track, inverse);
  return back.ok ? JSON.stringify(back.value.inverse) : null;
}
