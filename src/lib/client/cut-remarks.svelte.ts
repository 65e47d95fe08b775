/** What deserves a look in a track that was carried over from the cut before, gone through one by one. */
import { toSpan } from '$lib/core/time';
import { api, type CutRemark } from './api';
import type { HearingAgain } from './hearing-again.svelte';
import { stepRound } from './step-round';
import type { TrackView } from './track-view.svelte';
import { phrases } from './phrases';

/** As much as is heard again in one go. */
const MOST_HEARD_MS = 30_000;
const LEAST_HEARD_MS = 300;

export class CutRemarks {
  readonly #view: TrackView;
  readonly #again: HearingAgain;
  list: readonly CutRemark[] = $state.raw([]);
  /** The one in hand; -1 for none. */
  at = $state(-1);
  readonly left: number = $derived(this.list.filter((remark) => !remark.isLookedAt).length);
  readonly current: CutRemark | null = $derived(this.list[this.at] ?? null);

  constructor(view: TrackView, again: HearingAgain) {
    this.#view = view;
    this.#again = again;
  }

  async load(): Promise<void> {
    this.list = await api.cutRemarks(this.#view.session.trackId);
  }

  choose(at: number): void {
    const remark = this.list[at];
    if (remark === undefined) return;
    this.at = at;
    const { track } = this.#view;
    const cue = track.cues.find(({ id }) => remark.cueIds.includes(id));
    if (cue === undefined) this.#view.seek(remark.startMs);
    else this.#view.chooseCue(cue, { seek: true });
  }

  /** To the next one that is still to be looked at, around the end. */
  step(by: 1 | -1): void {
    const left = this.list.filter((remark) => !remark.isLookedAt);
    if (left.length === 0) return this.#view.say(phrases.cutRemarks.nothingLeft);
    const at = this.current === null ? -1 : left.indexOf(this.current);
    const next = left[stepRound(left, by, { at, nowMs: this.current?.startMs ?? this.#view.player.nowMs })]!;
    this.choose(this.list.indexOf(next));
    this.#view.say(tellRemark(next));
  }

  /** Ticks the one in hand off and goes on, or takes the tick back. */
  async toggleLookedAt(): Promise<void> {
    const { current, at } = this;
    if (current === null) return;
    const isLookedAt = !current.isLookedAt;
    await api.lookAtCutRemark(this.#view.session.trackId, current.position, isLookedAt);
    this.list = this.list.with(at, { ...current, isLookedAt });
    if (isLookedAt && this.left > 0) this.step(1);
  }

  /** Hears what of a new stretch no cue holds yet, from its beginning. */
  hear({ startMs, endMs }: CutRemark): void {
    const held = this.#view.track.cues.filter((cue) => cue.startMs < endMs && cue.endMs > startMs);
    const fromMs = Math.max(startMs, ...held.map((cue) => cue.endMs));
    const toMs = Math.min(endMs, fromMs + MOST_HEARD_MS);
    if (toMs - fromMs < LEAST_HEARD_MS) return this.#view.say(phrases.cutRemarks.allCaptioned);
    this.#view.player.seek(fromMs);
    this.#again.open({ words: [], cueId: null, ...toSpan({ startMs: fromMs, endMs: toMs }) });
  }
}

const TITLES: Readonly<Record<CutRemark['kind'], string>> = {
  'left out': phrases.cutRemarks.leftOut,
  shortened: phrases.cutRemarks.shortened,
  parted: phrases.cutRemarks.parted,
  'new sound': phrases.cutRemarks.newSound
};
export const remarkTitle = ({ kind, text }: CutRemark): string =>
  kind === 'shortened' && text === '' ? phrases.cutRemarks.timeGone : TITLES[kind];
export const tellRemark = (remark: CutRemark): string =>
  remark.text === '' ? `${remarkTitle(remark)}.` : `${remarkTitle(remark)}: ${remark.text}`;
