/** The trims of a recording at work: which is open, what of it is chosen or tried, and what is done with it. */
import { messageOf } from '$lib/core/message-of';
import type { Result } from '$lib/core/result';
import { clamp, formatClock, wholeMs, type Ms, type Span } from '$lib/core/time';
import type { Track } from '$lib/core/track';
import {
  clearOfWords,
  findHesitations,
  findPauses,
  joinsOf,
  mapOf,
  PAUSE_DEFAULTS,
  pauseToTake,
  quietEdge,
  resolveTrimCommands,
  spansOfWords,
  trimTrack,
  type CutSound,
  type Hesitation,
  type JudgedJoin,
  type Pause,
  type PauseOptions,
  type PieceSpan,
  type Trim,
  type TrimCommand,
  type TrimMap,
  type TrimmedTrack
} from '$lib/core/trims';
import { api, type TrimSummary } from '../api';
import { listenToServer } from '../events';
import { preferences } from '../preferences.svelte';
import { whenHandsRest } from '../rest';
import { TrimSession } from '../session/trim-session.svelte';
import { stepRound } from '../step-round';
import type { TrackView } from '../track-view.svelte';
import { phrases } from '../phrases';
import { TrimDrive } from './drive.svelte';
import { TrimPlayback } from './playback.svelte';
import { byMiddle, isChosen, textOf, type ChosenToken, type Paragraph, type Token } from './text';

/** What is chosen: tokens of the text from one to another, or a stretch of recorded time. */
export interface TrimChoice {
  readonly keys: readonly [string, string] | null;
  readonly spans: readonly PieceSpan[];
  /** Put-in pauses among the tokens. */
  readonly pauseIds?: readonly string[];
}

/** What is offered to be taken out, one by one. */
interface Offer {
  readonly startMs: Ms;
  readonly span: PieceSpan;
  /** Less of it, where that can be asked for. */
  readonly shorter?: PieceSpan | null;
  readonly text: string;
}

/** Played before and behind a join. */
const AROUND_JOIN_MS = 1500;
const PUT_IN_MS = 500;
const STEP_MS = 10;

export class Trimming {
  readonly #view: TrackView;
  list: readonly TrimSummary[] = $state.raw([]);
  session: TrimSession | null = $state.raw(null);
  failure: string | null = $state(null);
  /** Of which trim Time, Check and Hand over show the track; `null`: as it was recorded. */
  seenAs: string | null = $state(null);
  /** The trims that are looked at, by id: as they were fetched last. */
  #seen: Trim | null = $state.raw(null);
  #crossings: Uint8Array | null = $state.raw(null);
  choice: TrimChoice | null = $state.raw(null);
  /** What would be taken out, shown before it is. */
  tried: readonly PieceSpan[] | null = $state.raw(null);
  pauseOptions: PauseOptions & { readonly shortenToMs: number } = $state.raw({ ...PAUSE_DEFAULTS, shortenToMs: 300 });
  /** What is gone through one by one: pauses or hesitations. */
  going: 'pauses' | 'hesitations' | 'words' | null = $state(null);
  /** Where the words that were looked for are. */
  #found: readonly PieceSpan[] = $state.raw([]);
  at = $state(-1);
  /** Gone through and kept, by their beginning. */
  kept: ReadonlySet<number> = $state.raw(new Set());
  shapes: readonly Span[] = $state.raw([]);
  judged: readonly JudgedJoin[] = $state.raw([]);
  joinAt = $state(-1);
  /** A passage that is picked up, in trimmed time. */
  pickedUp: { readonly fromMs: Ms; readonly toMs: Ms } | null = $state.raw(null);
  #marks: { readonly in: number | null; readonly out: number | null } = $state.raw({ in: null, out: null });
  #playback: TrimPlayback | null = null;
  #drive: TrimDrive | null = $state.raw(null);
  #paragraphs: readonly Paragraph[] = [];

  constructor(view: TrackView) {
    this.#view = view;
    view.drawInstead = () => this.drawn;
  }

  get trim(): Trim | null {
    return this.session?.document ?? null;
  }
  readonly map: TrimMap | null = $derived.by(() => (this.trim === null ? null : mapOf(this.trim)));
  readonly #words = $derived.by(() => byMiddle(this.#view.track));
  readonly hesitations: readonly Hesitation[] = $derived.by(() =>
    findHesitations(this.#view.track, preferences.fillerPhrases)
  );
  readonly text: readonly Paragraph[] = $derived.by(() => {
    const { trim } = this;
    if (trim === null) return [];
    const speakers = new Map(this.#view.track.speakers.map(({ id, name }) => [id, name]));
    this.#paragraphs = textOf(trim, this.#words, {
      speakers,
      hesitations: this.hesitations,
      before: this.#paragraphs
    });
    return this.#paragraphs;
  });
  readonly tokens: readonly Token[] = $derived.by(() => this.text.flatMap(({ tokens }) => tokens));
  readonly #places: ReadonlyMap<string, number> = $derived.by(
    () => new Map(this.tokens.map(({ key }, at) => [key, at]))
  );
  readonly #cutSound: CutSound | null = $derived.by(() => {
    const { sound } = this.#view;
    return sound === null ? null : { levels: sound.levels, crossings: this.#crossings };
  });
  /** The pauses of the recording, by the values in hand. */
  readonly pauses: readonly Span[] = $derived.by(() => {
    const { sound } = this.#view;
    return sound === null ? [] : findPauses(sound.levels, sound.speech, this.pauseOptions);
  });
  /** What is gone through: those that still play, with what would go of each. */
  readonly offers: readonly Offer[] = $derived.by(() => {
    const { map } = this;
    if (map === null || this.going === null) return [];
    const all = {
      pauses: () => this.#pauseOffers(),
      hesitations: () => this.#hesitationOffers(),
      words: () => this.#found.map((span) => ({ startMs: span.fromMs, span, text: phrases.trimming.foundWord }))
    }[this.going]();
    return all.filter(({ span, startMs }) => isPlayed(map, span) && !this.kept.has(startMs));
  });
  /** The joins of the present trim, with what was judged of them. */
  readonly joins: readonly (Pick<JudgedJoin, 'atMs' | 'faults' | 'better' | 'fadeMs'> & {
    readonly startMs: Ms;
    readonly afterId: string;
    readonly beforeId: string;
  })[] = $derived.by(() => {
    const { map, trim } = this;
    if (map === null || trim === null) return [];
    const judged = new Map(this.judged.map((one) => [`${one.beforeId} ${one.afterId}`, one]));
    return joinsOf(map).map(({ atMs, before, after }) => {
      const known = judged.get(`${before.piece.id} ${after.piece.id}`);
      return {
        ...{ atMs, startMs: atMs, beforeId: before.piece.id, afterId: after.piece.id },
        fadeMs: after.piece.fadeMs ?? trim.fadeMs,
        faults: known?.faults ?? [],
        better: known?.better ?? []
      };
    });
  });
  readonly becomes: TrimmedTrack | null = $derived.by(() =>
    this.trim === null ? null : trimTrack(this.#view.track, this.trim)
  );
  /** What the values in hand would save, in ms. */
  readonly wouldSaveMs: number = $derived.by(() => {
    const { trim, tried, map } = this;
    if (trim === null || tried === null || map === null || tried.length === 0) return 0;
    const done = resolveTrimCommands(trim, [{ type: 'takeOut', spans: tried }]);
    return done.ok ? map.lengthMs - mapOf(done.value).lengthMs : 0;
  });

  /** Begins to work: the trims are listed, one is opened, and the trim is what is heard. Returns a function that ends it. */
  enter(): () => void {
    const { player, recording } = this.#view;
    let isGone = false;
    const open = async (): Promise<void> => {
      try {
        await this.loadList();
        const first = this.list.find(({ id }) => id === this.session?.id) ?? this.list[0];
        const id = first?.id ?? (await api.addTrim(recording.id, { title: phrases.trimming.firstTitle }));
        if (first === undefined) await this.loadList();
        if (!isGone) await this.open(id);
        this.#crossings ??= await api.crossings(recording.id);
        this.shapes = await api.hesitationShapes(this.#view.session.trackId);
      } catch (error) {
        this.failure = messageOf(error);
      }
    };
    void open();
    const stop = listenToServer({
      onRecordings: ({ recordingId }) => {
        if (recordingId === recording.id) void this.loadList().catch(() => undefined);
      }
    });
    return () => {
      isGone = true;
      stop();
      player.driveBy(null);
      this.#playback?.close();
      [this.#playback, this.#drive] = [null, null];
      this.session?.close();
      this.session = null;
      this.letGo();
    };
  }

  async loadList(): Promise<void> {
    this.list = await api.trims(this.#view.recording.id);
  }

  async open(id: string): Promise<void> {
    if (this.session?.id === id && this.#playback !== null) return;
    const session = await TrimSession.open(id);
    this.session?.close();
    this.session = session;
    this.judged = [];
    this.joinAt = -1;
    this.choice = null;
    this.#playback?.close();
    this.#playback = new TrimPlayback(this.#view.recording, session.document);
    this.#drive = new TrimDrive(this.#playback, () => this.#view.player.rate);
    this.#view.player.driveBy(this.#drive);
  }

  /** Plays the trim as it is now; an effect of the place. */
  follow(): void {
    const { trim } = this;
    if (trim !== null) this.#playback?.show(trim);
    if (this.#view.sound !== null) this.#playback?.know(this.#view.sound);
  }

  /** Asks which joins are likely to be heard, once hands rest; returns a function that does not. */
  judge(): () => void {
    const { session } = this;
    if (session === null) return () => undefined;
    void session.document;
    return whenHandsRest(() => {
      void session.saved().then(
        async () => {
          const { joins } = await api.trimJoins(session.id);
          if (this.session === session) this.judged = joins;
        },
        () => undefined
      );
    });
  }

  /** Why the trim cannot be heard; `null` while it can. */
  get soundFailure(): string | null {
    return this.#drive?.playback.failure ?? null;
  }
  /** Trimmed time that is heard now. */
  get nowMs(): number {
    return this.#drive?.playback.nowMs ?? 0;
  }

  edit(...commands: readonly TrimCommand[]): boolean {
    const done: Result<void, { readonly message: string }> | undefined = this.session?.edit(...commands);
    if (done === undefined) return false;
    if (!done.ok) this.#view.say(done.problem.message);
    return done.ok;
  }
  undo(): void {
    const { session } = this;
    if (session !== null && (session.history.undo !== null || session.saveState !== 'saved')) session.undo();
    else this.#view.say(phrases.trackView.nothingToUndo);
  }
  redo(): void {
    if (this.session !== null && this.session.history.redo !== null) this.session.redo();
    else this.#view.say(phrases.trackView.nothingToRedo);
  }

  // What is chosen.

  /** Tokens from one to another, by their keys; plays on from the first. */
  choose(anchor: string, focus: string = anchor, { seek = true }: { readonly seek?: boolean } = {}): void {
    const [from, to] = [this.#places.get(anchor), this.#places.get(focus)];
    if (from === undefined || to === undefined) return;
    const run = this.tokens.slice(Math.min(from, to), Math.max(from, to) + 1);
    const pauseIds = run.flatMap((one) => (one.kind === 'put in' ? [one.pieceId] : []));
    this.choice = { keys: [anchor, focus], spans: this.#spansOf(run.filter(isChosen)), pauseIds };
    const token = this.tokens[from];
    if (seek && isChosen(token)) this.#view.player.seek(token.fromMs);
  }

  /** The one put-in pause that is chosen alone. */
  readonly chosenPause: Pause | null = $derived.by(() => {
    const [id, another] = this.choice?.pauseIds ?? [];
    const isAlone = another === undefined && this.choice?.spans.length === 0;
    const piece = isAlone ? this.trim?.pieces.find((one) => one.id === id) : undefined;
    return piece?.kind === 'pause' ? piece : null;
  });

  chooseSpan(fromMs: number, toMs: number): void {
    const [start, end] = [Math.min(fromMs, toMs), Math.max(fromMs, toMs)].map((ms) =>
      wholeMs(clamp(ms, 0, this.#view.recording.durationMs))
    ) as [Ms, Ms];
    this.choice = end > start ? { keys: null, spans: [{ fromMs: start, toMs: end }] } : null;
  }

  /** Recorded time of tokens, piece by piece, with edges where they are not heard. */
  #spansOf(run: readonly ChosenToken[]): PieceSpan[] {
    const spans: PieceSpan[] = [];
    const byPiece = new Map<string, ChosenToken[]>();
    for (const token of run) byPiece.set(token.pieceId, [...(byPiece.get(token.pieceId) ?? []), token]);
    for (const [pieceId, tokens] of byPiece) {
      const wordIds = tokens.flatMap((token) => (token.kind === 'word' ? [token.word.id] : []));
      const piece = this.trim?.pieces.find(({ id }) => id === pieceId);
      if (piece?.kind !== 'stretch') continue;
      const words = spansOfWords(this.#view.track, wordIds, this.#cutSound, this.#view.recording.durationMs);
      const pauses = tokens.filter(({ kind }) => kind === 'pause');
      // Words with the pauses between them are one stretch, from the first edge to the last.
      const all = [...words, ...pauses].map(({ fromMs, toMs }) => ({ fromMs, toMs }));
      const fromMs = Math.max(piece.fromMs, Math.min(...all.map((one) => one.fromMs)));
      const toMs = Math.min(piece.toMs, Math.max(...all.map((one) => one.toMs)));
      if (toMs > fromMs) spans.push({ fromMs: wholeMs(fromMs), toMs: wholeMs(toMs), pieceId });
    }
    return spans;
  }

  stepWord(by: 1 | -1, extend = false): void {
    const { tokens } = this;
    const focus = this.choice?.keys?.[1];
    const here = focus === undefined ? this.#tokenAtPlayhead() : (this.#places.get(focus) ?? -1);
    for (let at = here + by; at >= 0 && at < tokens.length; at += by) {
      const token = tokens[at]!;
      if (!isChosen(token)) continue;
      const anchor = extend ? (this.choice?.keys?.[0] ?? token.key) : token.key;
      return this.choose(anchor, token.key, { seek: !extend });
    }
  }

  #tokenAtPlayhead(): number {
    const nowMs = this.#view.player.nowMs;
    const at = this.tokens.findIndex((token) => isChosen(token) && token.toMs > nowMs && token.state === 'heard');
    return at < 0 ? -1 : at - 1;
  }

  letGo(): void {
    this.choice = null;
    this.tried = null;
    this.pickedUp = null;
    this.going = null;
    this.at = -1;
    this.#marks = { in: null, out: null };
  }

  mark(edge: 'in' | 'out'): void {
    this.#marks = { ...this.#marks, [edge]: this.#view.player.nowMs };
    const { in: from, out: to } = this.#marks;
    if (from !== null && to !== null) this.chooseSpan(from, to);
    this.#view.say(phrases.trimming.marked(edge, formatClock(this.#view.player.nowMs, 2)));
  }

  // What is done with it.

  /** Takes out what is chosen, or silences it; puts it back where it is so already. */
  toggle(how: 'close' | 'gap' | 'silence'): void {
    const { choice, trim } = this;
    const { spans = [], pauseIds = [] } = choice ?? {};
    if (choice === null || trim === null || spans.length + pauseIds.length === 0)
      return this.#view.say(phrases.trimming.chooseFirst);
    if (spans.length === 0) {
      if (!this.edit({ type: 'removePauses', pieceIds: pauseIds })) return;
      this.choice = null;
      return this.#view.say(phrases.trimming.pauseRemoved);
    }
    const isSo = isAll(trim, spans, how);
    const command: TrimCommand = isSo
      ? { type: 'putBack', spans }
      : how === 'silence'
        ? { type: 'silence', spans }
        : { type: 'takeOut', spans, ...(how === 'gap' && { leaveGap: true }) };
    if (!this.edit(command)) return;
    // The parts have other pieces now.
    if (choice.keys !== null) this.choose(choice.keys[0], choice.keys[1], { seek: false });
    this.#view.say(isSo ? phrases.trimming.putBack : phrases.trimming.done[how]);
  }

  putAllBack(): void {
    const { trim } = this;
    if (trim === null) return;
    const toMs = wholeMs(trim.recordedMs);
    if (this.edit({ type: 'putBack', spans: [{ fromMs: wholeMs(0), toMs }] })) this.#view.say(phrases.trimming.allBack);
  }

  putInPause(lengthMs = PUT_IN_MS): void {
    const { map } = this;
    if (map === null) return;
    const join = this.joins[this.joinAt];
    const atMs = wholeMs(clamp(join?.atMs ?? this.#quietTrimmed(), 0, map.lengthMs));
    if (this.edit({ type: 'putInPause', atMs, lengthMs: wholeMs(lengthMs) }))
      this.#view.say(phrases.trimming.pausePutIn(lengthMs));
  }

  /** The playhead, moved to where a cut is not heard. */
  #quietTrimmed(): number {
    const { map } = this;
    const sound = this.#cutSound;
    const nowMs = this.nowMs;
    const recordedMs = map?.recordedAt(nowMs) ?? null;
    const laid = map?.laid[map.indexAt(nowMs)];
    if (sound === null || recordedMs === null || laid === undefined || laid.fromMs === null) return nowMs;
    const endMs = laid.fromMs + laid.endMs - laid.startMs;
    const bounds = { leastMs: Math.max(laid.fromMs, recordedMs - 150), mostMs: Math.min(endMs, recordedMs + 150) };
    return nowMs + quietEdge(sound, recordedMs, bounds) - recordedMs;
  }

  /** Picks up what is chosen and plays, to be put elsewhere. */
  pickUp(): void {
    const { choice, map } = this;
    const ends = choice?.spans.flatMap(
      ({ fromMs, toMs }) => map?.trimmedAt(fromMs).map((ms) => [ms, ms + toMs - fromMs] as const) ?? []
    );
    const [first] = ends ?? [];
    if (first === undefined || map === null) return this.#view.say(phrases.trimming.chooseHeard);
    const last = ends!.at(-1)!;
    this.pickedUp = { fromMs: wholeMs(first[0]), toMs: wholeMs(Math.min(map.lengthMs, Math.max(first[1], last[1]))) };
    this.#view.say(phrases.trimming.pickedUp);
  }

  /** Puts down what was picked up, ahead of the word that is chosen, else at the playhead. */
  putDown({ again = false, beforeKey }: { readonly again?: boolean; readonly beforeKey?: string } = {}): void {
    const { pickedUp, map } = this;
    if (pickedUp === null || map === null) return this.#view.say(phrases.trimming.pickUpFirst);
    const key = beforeKey ?? this.choice?.keys?.[0];
    const token = key === undefined ? undefined : this.tokens[this.#places.get(key) ?? -1];
    const places = isChosen(token) ? map.trimmedAt(token.fromMs) : [];
    const beforeMs = wholeMs(clamp(places[0] ?? this.nowMs, 0, map.lengthMs));
    if (!this.edit({ type: again ? 'repeat' : 'move', ...pickedUp, beforeMs })) return;
    this.pickedUp = null;
    this.choice = null;
    this.#view.say(again ? phrases.trimming.repeated : phrases.trimming.moved);
  }

  restoreOrder(): void {
    if (this.edit({ type: 'restoreOrder' })) this.#view.say(phrases.trimming.inOrder);
  }

  // Pauses and hesitations.

  /** Gone through, a pause goes but for its margins, unless it is only to be shortened. */
  #pauseOffers(): Offer[] {
    return this.pauses.flatMap((pause) => {
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
    return taken === null ? null : clearOfWords(taken, this.#words.words);
  }

  setPauseOptions(change: Partial<typeof this.pauseOptions>): void {
    this.pauseOptions = { ...this.pauseOptions, ...change };
    this.tryPauses();
  }
  tryPauses(): void {
    this.tried = this.pauses.flatMap((pause) => {
      const taken = this.#takenOf(pause);
      return taken === null ? [] : [spanOf(taken)];
    });
  }

  #hesitationOffers(): Offer[] {
    const heard = this.hesitations.flatMap(({ kind, wordIds, text }) =>
      spansOfWords(this.#view.track, wordIds, this.#cutSound, this.#view.recording.durationMs).map((span) => ({
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

  /** Those that were heard as words, of some kinds. */
  tryHesitations(kinds: ReadonlySet<Hesitation['kind']>): void {
    const ids = this.hesitations.filter(({ kind }) => kinds.has(kind)).map(({ wordIds }) => wordIds);
    this.tried = ids.flatMap((wordIds) =>
      spansOfWords(this.#view.track, wordIds, this.#cutSound, this.#view.recording.durationMs)
    );
  }

  /** Any word or phrase, wherever it is said; how often that is. */
  tryWords(text: string): number {
    const found = findHesitations(this.#view.track, [text]).filter(({ kind }) => kind === 'phrase');
    this.#found = found.flatMap(({ wordIds }) =>
      spansOfWords(this.#view.track, wordIds, this.#cutSound, this.#view.recording.durationMs)
    );
    this.tried = this.#found;
    return found.length;
  }

  takeTried(): void {
    const { tried } = this;
    if (tried === null || tried.length === 0) return this.#view.say(phrases.trimming.nothingTried);
    const savedMs = this.wouldSaveMs;
    if (!this.edit({ type: 'takeOut', spans: tried })) return;
    this.tried = null;
    this.#view.say(phrases.trimming.taken(tried.length, savedMs));
  }

  goThrough(what: 'pauses' | 'hesitations' | 'words'): void {
    this.going = what;
    this.tried = null;
    this.kept = new Set();
    this.at = -1;
    this.step(1);
  }

  /** Next of what is gone through, else the next join. */
  step(by: 1 | -1): void {
    if (this.going === null) return this.stepJoin(by);
    const { offers } = this;
    if (offers.length === 0) {
      this.tried = null;
      this.at = -1;
      return this.#view.say(phrases.trimming.noneLeft);
    }
    this.at = stepRound(offers, by, { at: Math.min(this.at, offers.length - 1), nowMs: this.#view.player.nowMs });
    this.#showOffer();
  }

  #showOffer(): void {
    const offer = this.offers[this.at];
    if (offer === undefined) return;
    this.tried = [offer.span];
    this.choice = { keys: null, spans: [offer.span] };
    this.#view.player.seek(Math.max(0, offer.span.fromMs - 1000));
    this.#view.say(offer.text);
  }

  /** What is in hand goes, is shortened, or stays; then the next. */
  judgeOffer(how: 'take' | 'shorten' | 'keep'): void {
    const offer = this.offers[this.at];
    if (offer === undefined) return this.#view.say(phrases.trimming.nothingInHand);
    const span = how === 'shorten' ? (offer.shorter ?? null) : offer.span;
    if (span === null) return this.#view.say(phrases.trimming.notShorter);
    if (how !== 'take') this.kept = new Set([...this.kept, offer.startMs]);
    if (how !== 'keep' && !this.edit({ type: 'takeOut', spans: [span] })) return;
    this.at = Math.min(this.at, this.offers.length - 1);
    if (this.offers.length === 0) this.step(1);
    else this.#showOffer();
  }

  /** How it would sound without what is in hand. */
  hearOffer(): void {
    const { trim, tried } = this;
    const [span] = tried ?? [];
    if (trim === null || span === undefined) return this.hearJoin();
    const without = resolveTrimCommands(trim, [{ type: 'takeOut', spans: [span] }]);
    if (!without.ok || this.#playback === null) return;
    this.#playback.show(without.value);
    const atMs = mapOf(without.value).trimmedAt(Math.max(0, span.fromMs - 1))[0] ?? 0;
    this.#playback.playOnce(atMs - AROUND_JOIN_MS, atMs + AROUND_JOIN_MS);
    this.#view.player.wake();
  }

  // Joins.

  stepJoin(by: 1 | -1): void {
    const { joins } = this;
    if (joins.length === 0) return this.#view.say(phrases.trimming.noJoins);
    this.joinAt = stepRound(joins, by, { at: Math.min(this.joinAt, joins.length - 1), nowMs: wholeMs(this.nowMs) });
    this.hearJoin();
  }

  chooseJoin(afterId: string): void {
    this.joinAt = this.joins.findIndex((join) => join.afterId === afterId);
    this.hearJoin();
  }

  hearJoin(): void {
    const join = this.joins[this.joinAt];
    if (join === undefined || this.#playback === null) return this.#view.say(phrases.trimming.chooseJoin);
    this.#playback.playOnce(join.atMs - AROUND_JOIN_MS, join.atMs + AROUND_JOIN_MS);
    this.#view.player.wake();
    this.#view.say(phrases.trimming.join(this.joinAt + 1, this.joins.length, join.faults));
  }

  /** Moves an edge at the join in hand: of what ends there, or of what begins there. */
  nudge(side: 'before' | 'after', by: 1 | -1): void {
    const join = this.joins[this.joinAt];
    const piece = this.trim?.pieces.find(({ id }) => id === (side === 'before' ? join?.beforeId : join?.afterId));
    if (piece?.kind !== 'stretch') return this.#view.say(phrases.trimming.chooseJoin);
    const edge = side === 'before' ? 'end' : 'start';
    const atMs = wholeMs(Math.max(0, (edge === 'end' ? piece.toMs : piece.fromMs) + by * STEP_MS));
    this.edit({ type: 'moveEdge', pieceId: piece.id, edge, atMs });
  }

  takeBetterEdge(): void {
    const join = this.joins[this.joinAt];
    if (join === undefined || join.better.length === 0) return this.#view.say(phrases.trimming.noBetter);
    if (this.edit(...join.better.map((better): TrimCommand => ({ type: 'moveEdge', ...better })))) this.hearJoin();
  }

  // Trims.

  async add(title: string): Promise<void> {
    await this.#afterwards(await api.addTrim(this.#view.recording.id, { title }));
  }
  async duplicate(): Promise<void> {
    const { session } = this;
    if (session === null) return;
    await session.saved();
    const title = phrases.trimming.copyOf(session.document.title);
    await this.#afterwards(await api.addTrim(this.#view.recording.id, { title, copyOf: session.id }));
  }
  async #afterwards(id: string): Promise<void> {
    await this.loadList();
    await this.open(id);
  }
  /** Into the bin; gives what brings it back. */
  async remove(): Promise<() => Promise<void>> {
    const { id } = this.session!;
    await api.removeTrim(id);
    await this.loadList();
    const next =
      this.list[0]?.id ?? (await api.addTrim(this.#view.recording.id, { title: phrases.trimming.firstTitle }));
    await this.#afterwards(next);
    return async () => {
      await api.restoreTrim(id);
      await this.#afterwards(id);
    };
  }

  /** The track in recorded time without what is not heard, for the picture. */
  readonly drawn: Track | null = $derived.by(() => {
    const { map } = this;
    const { track } = this.#view;
    if (map === null) return null;
    const isHeard = (word: Track['words'][number]): boolean => {
      const middleMs = (word.startMs + word.endMs) / 2;
      return map.trimmedAt(middleMs).some((ms) => map.laid[map.indexAt(ms)]?.plays === 'sound');
    };
    const gone = new Set(track.words.filter((word) => word.shown && !isHeard(word)).map(({ id }) => id));
    if (gone.size === 0) return track;
    const words = track.words.map((word) => (gone.has(word.id) ? { ...word, shown: false } : word));
    const cues = track.cues
      .filter(({ wordIds }) => wordIds.length === 0 || wordIds.some((id) => !gone.has(id)))
      .map((cue) => ({ ...cue, lineStarts: cue.lineStarts.filter((id) => !gone.has(id)) }));
    return { ...track, words, cues };
  });

  // As other places see it.

  /** Shows the track in Time, Check and Hand over as it is of a trim; `null`: as it was recorded. */
  async seeAs(id: string | null): Promise<void> {
    this.#seen = id === null ? null : (await api.trimDocument(id)).trim;
    this.seenAs = id;
  }
  get seen(): Trim | null {
    return this.#seen;
  }
  /** The recording as files of what is seen name it. */
  get seenRecording(): {
    readonly title: string;
    readonly formerTitles: readonly string[];
    readonly durationMs: number;
  } {
    const { title, durationMs } = this.#view.recording;
    const formerTitles = this.#view.recording.formerTitles ?? [];
    if (this.#seen === null) return { title, formerTitles, durationMs };
    return {
      title: `${title} ${this.#seen.title}`,
      formerTitles: [...formerTitles, title],
      durationMs: mapOf(this.#seen).lengthMs
    };
  }
  readonly seenTrack: Track = $derived.by(() =>
    this.#seen === null ? this.#view.track : trimTrack(this.#view.track, this.#seen).track
  );
}

const spanOf = ({ startMs, endMs }: Span): PieceSpan & { readonly fromMs: Ms; readonly toMs: Ms } => ({
  fromMs: startMs,
  toMs: endMs
});

/** Whether any of a recorded stretch is heard. */
const isPlayed = (map: TrimMap, { fromMs, toMs }: PieceSpan): boolean =>
  map.trimmedAt((fromMs + toMs) / 2).some((ms) => map.laid[map.indexAt(ms)]?.plays === 'sound');

/** Whether everything in the spans is taken out so, or silenced, already. */
function isAll(trim: Trim, spans: readonly PieceSpan[], how: 'close' | 'gap' | 'silence'): boolean {
  const wanted = { close: 'closed', gap: 'gap', silence: 'no' } as const;
  return spans.every(({ fromMs, toMs, pieceId }) =>
    trim.pieces.every(
      (piece) =>
        piece.kind === 'pause' ||
        (pieceId !== undefined && piece.id !== pieceId) ||
        piece.toMs <= fromMs ||
        piece.fromMs >= toMs ||
        (piece.out === wanted[how] && (how !== 'silence' || piece.silent))
    )
  );
}
