/** Finding and replacing in the open track, and in all others. */
import type { WordId } from '$lib/core/id';
import { aroundHit, findHits, hitText, replaceHits, type Hit, type Query } from '$lib/core/search';
import type { Word } from '$lib/core/track';
import { KeptField } from './kept-text.svelte';
import { messageOf } from '$lib/core/message-of';
import { api, type FoundInTrack } from './api';
import { preferences } from './preferences.svelte';
import { stepRound } from './step-round';
import type { TrackView } from './track-view.svelte';
import { phrases } from './phrases';

const NOTHING: readonly Hit[] = [];

export class Finder {
  readonly #view: TrackView;
  readonly #text: KeptField;
  readonly #replacement: KeptField;
  #flags: Omit<Query, 'text'> = $state.raw({ matchCase: false, wholeWord: false, soundsLike: false });
  /** Whether the field to type in has been asked for. */
  isAsked = $state(false);
  at = $state(-1);
  elsewhere: readonly FoundInTrack[] | null = $state.raw(null);
  failure: string | null = $state(null);

  constructor(view: TrackView) {
    this.#view = view;
    this.#text = new KeptField(`find in ${view.session.trackId}`);
    this.#replacement = new KeptField(`write instead in ${view.session.trackId}`);
  }

  readonly query: Query = $derived.by(() => ({ ...this.#flags, text: this.#text.text }));
  get replacement(): string {
    return this.#replacement.text;
  }
  set replacement(text: string) {
    this.#replacement.text = text;
  }

  readonly #words: readonly Word[] = $derived.by(() => this.#view.session.track.words);
  /** Only while they are looked at. */
  readonly hits: readonly Hit[] = $derived.by(() =>
    preferences.readPanel === 'find' ? findHits(this.#words, this.query) : NOTHING
  );
  readonly hitIds: ReadonlySet<WordId> = $derived.by(
    () => new Set(this.hits.flatMap((hit) => this.#words.slice(hit.from, hit.from + hit.count).map((word) => word.id)))
  );
  readonly current: Hit | null = $derived.by(() => this.hits[this.at] ?? null);

  /** From where the playhead is, so that the first hit is the next one. */
  ask({ text, ...flags }: Partial<Query>): void {
    if (text !== undefined) this.#text.text = text;
    this.#flags = { ...this.#flags, ...flags };
    this.elsewhere = null;
    this.at = -1;
  }

  step(by: 1 | -1): void {
    const { hits, at } = this;
    if (hits.length === 0) return this.#view.say(phrases.finder.notFound);
    const words = hits.map((hit) => this.#words[hit.from]!);
    this.show(stepRound(words, by, { at, nowMs: this.#view.player.nowMs }));
  }

  show(at: number): void {
    const hit = this.hits[at];
    if (hit === undefined) return;
    this.at = at;
    this.#view.leaveInHand();
    const run = this.#words.slice(hit.from, hit.from + hit.count);
    this.#view.chooseWords(run.map((word) => word.id));
    this.#view.player.seek(run[0]!.startMs);
    const { before, found, after } = aroundHit(this.#words, hit);
    this.#view.say(phrases.finder.place(at + 1, this.hits.length, before + found + after));
  }

  /** Writes over the hit in hand, and goes on to the next. */
  replaceOne(): void {
    const { current: hit, at } = this;
    if (hit === null) return this.step(1);
    const others = this.hits.length - 1;
    const found = hitText(this.#words, hit);
    if (!this.#view.edit(replaceHits(this.#words, [hit], this.replacement))) return;
    if (this.hits.length === 0) return this.#view.say(phrases.finder.lastReplaced(found));
    // The replacement may hold what is looked for: then the hit is still there, and is passed over.
    this.show((this.hits.length > others ? at + 1 : at) % this.hits.length);
  }

  replaceAll(): void {
    const { hits } = this;
    if (hits.length === 0) return;
    const said = phrases.finder.replacedAll(hits.length);
    if (this.#view.edit(replaceHits(this.#words, hits, this.replacement), said)) this.at = -1;
  }

  async lookElsewhere(): Promise<void> {
    this.failure = null;
    try {
      const found = await api.search(this.query);
      this.elsewhere = found.filter((one) => one.trackId !== this.#view.session.trackId);
    } catch (error) {
      this.failure = messageOf(error);
    }
  }

  async replaceElsewhere(): Promise<void> {
    const trackIds = (this.elsewhere ?? []).map((one) => one.trackId);
    if (trackIds.length === 0) return;
    this.failure = null;
    try {
      const written = await api.replaceIn(trackIds, { query: this.query, replacement: this.replacement });
      const places = written.reduce((sum, one) => sum + one.replaced, 0);
      this.#view.say(phrases.finder.replacedElsewhere(places, written.length));
      await this.lookElsewhere();
    } catch (error) {
      this.failure = messageOf(error);
    }
  }
}
