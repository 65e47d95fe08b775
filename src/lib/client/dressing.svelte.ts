/** Giving captions their look: for whom, what of it is their own, and trying a value before it is taken. */
import type { ClientCommand } from '$lib/core/commands';
import { groupLacking, type LackingLetters } from '$lib/core/layout';
import {
  changeOverrides,
  lookOfCue,
  overriddenValues,
  overrideLook,
  type Look,
  type LookChange,
  type LookOverrides
} from '$lib/core/track';
import { untrack } from 'svelte';
import type { CueCommands } from './cue-commands.svelte';
import { preferences } from './preferences.svelte';
import type { Shot } from './picture/layout-cache';
import type { TrackView } from './track-view.svelte';
import { phrases } from './phrases';

/** For whom a value is set. */
export type Scope = 'track' | 'speaker' | 'cues';

const MOST_RECENT = 12;

export class Dressing {
  readonly #view: TrackView;
  readonly #cues: CueCommands;
  /** What was asked for; a scope that has nobody in it falls back to the track. */
  #asked: Scope = $state('track');
  #speakerId: string | null = $state(null);

  constructor(view: TrackView, cues: CueCommands) {
    this.#view = view;
    this.#cues = cues;
  }

  get scope(): Scope {
    if (this.#asked === 'speaker' && this.speaker === null) return 'track';
    return this.#asked === 'cues' && this.#cues.chosen.length === 0 ? 'track' : this.#asked;
  }
  set scope(to: Scope) {
    this.#view.trial.leave();
    this.#asked = to;
  }

  get speaker() {
    const { speakers } = this.#view.drawn;
    return speakers.find(({ id }) => id === this.#speakerId) ?? speakers[0] ?? null;
  }
  chooseSpeaker(id: string): void {
    this.#speakerId = id;
    this.scope = 'speaker';
  }

  /** The look as those in scope have it; of several cues, the first one's. */
  readonly look: Look = $derived.by(() => {
    const track = this.#view.drawn;
    const [cue] = this.#cues.chosen;
    if (this.scope === 'speaker') return overrideLook(track.look, this.speaker?.look ?? null);
    if (this.scope === 'track' || cue === undefined) return track.look;
    return lookOfCue(track, track.cues.find(({ id }) => id === cue.id) ?? cue);
  });

  /** What those in scope override; of several cues, what any of them does. */
  readonly #overrides: readonly LookOverrides[] = $derived.by(() => {
    const track = this.#view.drawn;
    if (this.scope === 'track') return [];
    if (this.scope === 'speaker') return this.speaker?.look === null ? [] : [this.speaker!.look];
    const chosen = this.#cues.chosenIds;
    return track.cues
      .filter(({ id }) => chosen.has(id))
      .flatMap(({ look, placement }) => {
        const own = placement === null ? look : changeOverrides(look, { placement });
        return own === null ? [] : [own];
      });
  });
  /** Names of the values that are their own. */
  readonly own: ReadonlySet<string> = $derived.by(() => new Set(this.#overrides.flatMap(overriddenValues)));

  #seen: readonly Shot[] = $state.raw([]);
  /** What is on the picture, as it was laid out last. */
  get seen(): readonly Shot[] {
    return this.#seen;
  }
  set seen(shots: readonly Shot[]) {
    const before = untrack(() => this.#seen);
    const isSame =
      shots.length === before.length && shots.every(({ composed }, at) => composed === before[at]!.composed);
    if (!isSame) this.#seen = shots;
  }

  /** Letters on the picture that their face lacks, by the face that draws them. */
  readonly lacking: readonly LackingLetters[] = $derived.by(() =>
    groupLacking(this.#seen.flatMap(({ composed }) => composed.lacking))
  );
  readonly isShrunk: boolean = $derived.by(() => this.#seen.some(({ composed }) => composed.isShrunk));

  /** Shows a value on the picture without taking it. */
  try(change: LookChange): void {
    this.#view.trial.try([this.#command(change)]);
  }

  /** Sets values for those in scope, as one entry. */
  set(change: LookChange): void {
    this.#view.trial.leave();
    this.#remember(change);
    this.#view.edit([this.#command(change)]);
  }

  /** Lets single values go, so that they are as the others' again. */
  letGo(change: LookChange): void {
    this.#view.edit([this.#command(change)], phrases.dressing.asOthers);
  }

  /** Lets all values of those in scope go. */
  letAllGo(): void {
    const { scope } = this;
    if (scope === 'speaker')
      this.#view.edit([{ type: 'setSpeakerLook', speakerId: this.speaker!.id, look: null }], phrases.dressing.asOthers);
    else if (scope === 'cues')
      this.#view.edit(
        [{ type: 'setCueLooks', cueIds: [...this.#cues.chosenIds], look: null }],
        phrases.dressing.asOthers
      );
  }

  /** A whole look for all of the track, copied from a kept one. */
  takeWhole(look: Look, from: { readonly name: string; readonly version: number }): void {
    this.#view.trial.leave();
    this.#view.edit([{ type: 'setLook', look, from }], phrases.dressing.taken(from.name));
  }
  tryWhole(look: Look): void {
    this.#view.trial.try([{ type: 'setLook', look }]);
  }

  /** The picture's element, while it is there. */
  picture: HTMLElement | null = null;

  async toggleFullScreen(): Promise<void> {
    if (document.fullscreenElement !== null) await document.exitFullscreen();
    else await this.picture?.requestFullscreen();
  }

  leaveTrial(): void {
    this.#view.trial.leave();
  }

  #command(look: LookChange): ClientCommand {
    const { scope } = this;
    if (scope === 'speaker') return { type: 'setSpeakerLook', speakerId: this.speaker!.id, look };
    if (scope === 'cues') return { type: 'setCueLooks', cueIds: [...this.#cues.chosenIds], look };
    return { type: 'setLook', look };
  }

  #remember(change: LookChange): void {
    const used = [change.color, change.outline?.color, change.shadow?.color, change.box?.color];
    const colors = [...used, change.motion?.followColor].filter((color) => typeof color === 'string');
    const [color] = colors;
    // A kept look brings many at once: only what was chosen by hand is recent.
    if (colors.length !== 1 || color === undefined) return;
    const others = preferences.recentColors.filter((one) => one !== color);
    preferences.set({ recentColors: [color, ...others].slice(0, MOST_RECENT) });
  }
}
