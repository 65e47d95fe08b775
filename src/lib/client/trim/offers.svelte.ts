/** What is offered to be taken out: pauses, hesitations, words that were looked for; all at once, or one by one. */
import type { WordId } from '$lib/core/id';
import { wholeMs, type Ms, type Span } from '$lib/core/time';
import {
  clearOfWords,
  findHesitations,
  findPauses,
  mapOf,
  PAUSE_DEFAULTS,
  pauseToTake,
  resolveTrimCommands,
  spansOfWords,
  type Hesitation,
  type PauseOptions,
  type PieceSpan,
  type TrimMap
} from '$lib/core/trims';
import { phrases } from '../phrases';
import { preferences } from '../preferences.svelte';
import { stepRound } from '../step-round';
import type { TrackView } from '../track-view.svelte';
import { AROUND_JOIN_MS } from './joins.svelte';
import type { TrimInHand } from './in-hand';

interface Offer {
  readonly startMs: Ms;
  readonly span: PieceSpan;
  /** Less of it, where that can be asked for. */
  readonly shorter?: PieceSpan | null;
  readonly text: string;
}

/** Played before what is offered. */
const LEAD_MS = 1000;

export class Offers {
  readonly #trimming: TrimInHand;
  readonly #view: TrackView;
  /** What would be taken out, shown before it is. */
  tried: readonly PieceSpan[] | null = $state.raw(null);
  pauseOptions: PauseOptions & { readonly shortenToMs: number } = $state.raw({ ...PAUSE_DEFAULTS, shortenToMs: 300 });
  /** What is gone through one by one. */
  going: 'pauses' | 'hesitations' | 'words' | null = $state(null);
  /** In hand; -1 for none. */
  at = $state(-1);
  /** Gone through and kept, by their beginning. */
  #kept: ReadonlySet<number> = $state.raw(new Set());
  /** Where the words that were looked for are. */
  #found: readonly PieceSpan[] = $state.raw([]);
  /** What sounds like a hesitation, and has no word. */
  shapes: readonly Span[] = $state.raw([]);

  constructor(trimming: TrimInHand, view: TrackView) {
    this.#trimming = trimming;
    this.#view = view;
  }

  readonly hesitations: readonly Hesitation[] = $derived.by(() =>
    findHesitations(this.#view.track, preferences.fillerPhrases)
  );
  /** The pauses of the recording, by the values in hand. */
  readonly #pauses: readonly Span[] = $derived.by(() => {
    const { sound } = this.#view;
    return sound === null ? [] : findPauses(sound.levels, sound.speech, this.pauseOptions);
  });
  /** What is gone through: those that still play, with what would go of each. */
  readonly list: readonly Offer[] = $derived.by(() => {
    const { map } = this.#trimming;
    if (map === null || this.going === null) return [];
    const all = {
      pauses: () => this.#pauseOffers(),
      hesitations: () => this.#hesitationOffers(),
      words: () => this.#found.map((span) => ({ startMs: span.fromMs, span, text: phrases.trimming.foundWord }))
    }[this.going]();
    return all.filter(({ span, startMs }) => isPlayed(map, span) && !this.#kept.has(startMs));
  });
  /** What the values in hand would save, in ms. */
  readonly wouldSaveMs: number = $derived.by(() => {
    const { trim, map } = this.#trimming;
    const { tried } = this;
    if (trim === null || tried === null || map === null || tried.length === 0) return 0;
    const done = resolveTrimCommands(trim, [{ type: 'takeOut', spans: tried }]);
    return done.ok ? map.lengthMs - mapOf(done.value).lengthMs : 0;
  });

  /** Gone through, a pause goes but for its margins, unless it is only to be shortened. */
  #pauseOffers(): Offer[] {
    return this.#pauses.flatMap((pause) => {
      const taken = this.#takenOf(pause, 0);
      const shortened = this.#takenOf(pause);
      const text = phrases.trimming.pauseOf(pause.endMs - pause.startMs);
      if (taken === null) return [];
      const shorter = shortened === null ? null : spanOf(shortened);
      return [{ startMs: taken.startMs, span: spanOf(taken), shorter, text }];
    });
  }

  #takenOf(pause: Span, shortenToMs = this.pauseOptions.shortenToMs): Span | null {
    const taken = pauseToTake(pause, { ...this.pauseOptions, shortenToMs });
    return taken === null ? null : clearOfWords(taken, this.#trimming.words.words);
  }

  #hesitationOffers(): Offer[] {
    const heard = this.hesitations.flatMap(({ kind, wordIds, text }) =>
      this.#spansOf(wordIds).map((span) => ({
        startMs: wholeMs(span.fromMs),
        span,
        text: phrases.trimming.hesitation(kind, text)
      }))
    );
    const shapes = this.shapes.map((shape) => ({
      ...{ startMs: shape.startMs, span: spanOf(shape) },
      text: phrases.trimming.hesitationByShape
    }));
    return [...heard, ...shapes].sort((a, b) => a.startMs - b.startMs);
  }

  readonly #spansOf = (wordIds: readonly WordId[]): readonly PieceSpan[] =>
    spansOfWords(this.#view.track, wordIds, this.#trimming.cutSound, this.#view.recording.durationMs);

  // All at once.

  setPauseOptions(change: Partial<typeof this.pauseOptions>): void {
    this.pauseOptions = { ...this.pauseOptions, ...change };
    this.tryPauses();
  }
  tryPauses(): void {
    this.tried = this.#pauses.flatMap((pause) => {
      const taken = this.#takenOf(pause);
      return taken === null ? [] : [spanOf(taken)];
    });
  }

  /** Those that were heard as words, of some kinds. */
  tryHesitations(kinds: ReadonlySet<Hesitation['kind']>): void {
    this.tried = this.hesitations
      .filter(({ kind }) => kinds.has(kind))
      .flatMap(({ wordIds }) => this.#spansOf(wordIds));
  }

  /** Any word or phrase, wherever it is said; how often that is. */
  tryWords(text: string): number {
    const found = findHesitations(this.#view.track, [text]).filter(({ kind }) => kind === 'phrase');
    this.#found = found.flatMap(({ wordIds }) => this.#spansOf(wordIds));
    this.tried = this.#found;
    return found.length;
  }

  takeTried(): void {
    const { tried } = this;
    if (tried === null || tried.length === 0) return this.#trimming.say(phrases.trimming.nothingTried);
    const savedMs = this.wouldSaveMs;
    if (!this.#trimming.edit({ type: 'takeOut', spans: tried })) return;
    this.tried = null;
    this.#trimming.say(phrases.trimming.taken(tried.length, savedMs));
  }

  // One by one.

  goThrough(what: 'pauses' | 'hesitations' | 'words'): void {
    this.going = what;
    this.tried = null;
    this.#kept = new Set();
    this.at = -1;
    this.step(1);
  }

  letGo(): void {
    this.tried = null;
    this.going = null;
    this.at = -1;
  }

  step(by: 1 | -1): void {
    const { list } = this;
    if (list.length === 0) {
      this.tried = null;
      this.at = -1;
      return this.#trimming.say(phrases.trimming.noneLeft);
    }
    this.at = stepRound(list, by, { at: Math.min(this.at, list.length - 1), nowMs: this.#view.player.nowMs });
    this.#show();
  }

  #show(): void {
    const offer = this.list[this.at];
    if (offer === undefined) return;
    this.tried = [offer.span];
    this.#trimming.choice = { keys: null, spans: [offer.span] };
    this.#view.player.seek(Math.max(0, offer.span.fromMs - LEAD_MS));
    this.#trimming.say(offer.text);
  }

  /** What is in hand goes, is shortened, or stays; then the next. */
  judge(how: 'take' | 'shorten' | 'keep'): void {
    const offer = this.list[this.at];
    if (offer === undefined) return this.#trimming.say(phrases.trimming.nothingInHand);
    const span = how === 'shorten' ? (offer.shorter ?? null) : offer.span;
    if (span === null) return this.#trimming.say(phrases.trimming.notShorter);
    if (how !== 'take') this.#kept = new Set([...this.#kept, offer.startMs]);
    if (how !== 'keep' && !this.#trimming.edit({ type: 'takeOut', spans: [span] })) return;
    this.at = Math.min(this.at, this.list.length - 1);
    if (this.list.length === 0) this.step(1);
    else this.#show();
  }

  /** How it would sound without what is in hand. */
  hear(): void {
    const { trim } = this.#trimming;
    const [span] = this.tried ?? [];
    if (trim === null || span === undefined) return;
    const without = resolveTrimCommands(trim, [{ type: 'takeOut', spans: [span] }]);
    if (!without.ok) return;
    const atMs = mapOf(without.value).trimmedAt(Math.max(0, span.fromMs - 1))[0] ?? 0;
    this.#trimming.playOnce(atMs - AROUND_JOIN_MS, atMs + AROUND_JOIN_MS, without.value);
  }
}

const spanOf = ({ startMs, endMs }: Span): PieceSpan & { readonly fromMs: Ms; readonly toMs: Ms } => ({
  fromMs: startMs,
  toMs: endMs
});

/** Whether any of a recorded stretch is heard. */
const isPlayed = (map: TrimMap, { fromMs, toMs }: PieceSpan): boolean =>
  map.trimmedAt((fromMs + toMs) / 2).some((ms) => map.laid[map.indexAt(ms)]?.plays === 'sound');
