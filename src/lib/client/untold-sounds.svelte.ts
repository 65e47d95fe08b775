/** Loud stretches without speech that no cue tells of, gone through one by one: a number says what each is. */
import { findSounds, SOUND_PALETTE } from '$lib/core/audio';
import { formatClock, lastStartingBy, overlapMs, type Span, toSpan } from '$lib/core/time';
import type { PageCommands } from './page-commands';
import { stepRound } from './step-round';
import type { TrackView } from './track-view.svelte';
import { phrases } from './phrases';

const AROUND_MS = 200;
/** What has a number. */
export const NUMBERED_SOUNDS = SOUND_PALETTE.slice(0, 9);

export class UntoldSounds {
  readonly #view: TrackView;
  readonly #page: PageCommands;
  readonly #found: readonly Span[] = $derived.by(() => {
    const { sound } = this.#view;
    return sound === null ? [] : findSounds(sound.levels, sound.speech.regions);
  });
  readonly list: readonly Span[] = $derived.by(() => {
    const { cues } = this.#view.track;
    return this.#found.filter((sound) => {
      const last = lastStartingBy(cues, sound.endMs);
      for (let at = last; at >= 0 && at > last - 4; at--)
        if (overlapMs(cues[at]!, sound) > 0.3 * (sound.endMs - sound.startMs)) return false;
      return true;
    });
  });
  /** The one in hand. */
  current: Span | null = $state.raw(null);

  constructor(view: TrackView, page: PageCommands) {
    this.#view = view;
    this.#page = page;
  }

  /** Goes on from the one in hand, else from the playhead, and plays it round and round. */
  step(by: 1 | -1): void {
    const { list } = this;
    const { player } = this.#view;
    if (list.length === 0) {
      this.leave();
      const isRead = this.#view.sound !== null;
      return this.#view.say(isRead ? phrases.untoldSounds.allDescribed : phrases.untoldSounds.stillReading);
    }
    const at = list.findIndex((sound) => sound === this.current);
    const next = list[stepRound(list, by, { at, nowMs: player.nowMs })]!;
    this.current = next;
    this.#view.seek(next.startMs);
    player.setLoop(toSpan({ startMs: Math.max(0, next.startMs - AROUND_MS), endMs: next.endMs + AROUND_MS }));
    player.play();
    this.#view.say(phrases.untoldSounds.whatIsIt(formatClock(next.startMs)));
  }

  /** Makes the one in hand a cue by its number among the descriptions, and goes on. */
  take(number: number): void {
    const description = NUMBERED_SOUNDS[number - 1];
    if (description !== undefined) this.describe(description);
  }

  describe(description: string): void {
    const sound = this.current;
    if (sound === null) return;
    this.#page.describeSound(description, sound);
    this.leave();
    if (this.list.length > 0) this.step(1);
  }

  leave(): void {
    if (this.current === null) return;
    this.current = null;
    this.#view.player.setLoop(null);
  }
}
