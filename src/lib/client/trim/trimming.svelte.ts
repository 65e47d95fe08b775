/** The trims of a recording at work: which is open, what of it is chosen or tried, and what is done with it. */
import { firstWhere } from '$lib/core/bisect';
import { messageOf } from '$lib/core/message-of';
import type { Result } from '$lib/core/result';
import { clamp, formatClock, wholeMs, type Ms } from '$lib/core/time';
import { lookUp, type Track, type Word } from '$lib/core/track';
import {
  mapOf,
  quietEdge,
  spansOfWords,
  trimTrack,
  type CutSound,
  type Pause,
  type PieceSpan,
  type Trim,
  type TrimCommand,
  type TrimMap,
  type TrimmedTrack
} from '$lib/core/trims';
import { api, type TrimSummary } from '../api';
import { listenToServer } from '../events';
import { TrimSession } from '../session/trim-session.svelte';
import type { TrackView } from '../track-view.svelte';
import { phrases } from '../phrases';
import { TrimDrive } from './drive.svelte';
import { TrimPlayback } from './playback.svelte';
import { SeenAs } from './seen-as.svelte';
import type { TrimChoice, TrimInHand } from './in-hand';
import { Joins } from './joins.svelte';
import { Offers } from './offers.svelte';
import {
  byMiddle,
  comparePlaces,
  findPlace,
  isChosen,
  keptTokensOf,
  keyAgain,
  nextChosen,
  textOf,
  tokensBetween,
  type ChosenToken,
  type Paragraph,
  type Place,
  type Token,
  type TrimText
} from './text';

const PUT_IN_MS = 500;
/** The picture's captions are made ready for so long, and as long before and behind. */
const NEAR_MS = 20_000;

export class Trimming implements TrimInHand {
  readonly #view: TrackView;
  list: readonly TrimSummary[] = $state.raw([]);
  session: TrimSession | null = $state.raw(null);
  failure: string | null = $state(null);
  #crossings: Uint8Array | null = $state.raw(null);
  choice: TrimChoice | null = $state.raw(null);
  /** A passage that is picked up, in trimmed time. */
  pickedUp: { readonly fromMs: Ms; readonly toMs: Ms } | null = $state.raw(null);
  #marks: { readonly in: number | null; readonly out: number | null } = $state.raw({ in: null, out: null });
  #playback: TrimPlayback | null = null;
  #drive: TrimDrive | null = $state.raw(null);
  /** As it was drawn last. */
  #text: TrimText | null = null;
  /** Paragraph of the token that was asked for last: the next one is near it. */
  #near = 0;
  /** Recorded time at the playhead, in steps of `NEAR_MS`. */
  #nearStep = $state(0);
  readonly offers: Offers;
  readonly joins: Joins;
  readonly seen: SeenAs;

  constructor(view: TrackView) {
    this.#view = view;
    this.offers = new Offers(this, view);
    this.joins = new Joins(this);
    this.seen = new SeenAs(view);
    view.drawInstead = () => this.drawn;
  }

  get trim(): Trim | null {
    return this.session?.document ?? null;
  }
  readonly map: TrimMap | null = $derived.by(() => (this.trim === null ? null : mapOf(this.trim)));
  readonly words = $derived.by(() => byMiddle(this.#view.track));
  readonly #speakers: ReadonlyMap<string, string> = $derived.by(
    () => new Map(this.#view.track.speakers.map(({ id, name }) => [id, name]))
  );
  readonly text: readonly Paragraph[] = $derived.by(() => {
    const { trim } = this;
    if (trim === null) return [];
    this.#text = textOf(trim, this.words, { speakers: this.#speakers, before: this.#text });
    return this.#text.paragraphs;
  });
  /** Where a token stands in the text, by its key; `null`: there is none. */
  placeOf(key: string): Place | null {
    const place = findPlace(this.text, key, this.#near);
    if (place !== null) this.#near = place.paragraph;
    return place;
  }
  tokenOf(key: string): Token | undefined {
    const place = this.placeOf(key);
    return place === null ? undefined : this.text[place.paragraph]!.tokens[place.at];
  }
  /** Key of the word that is heard now; `null`: none is. */
  get heardKey(): string | null {
    const { map, nowMs } = this;
    const recordedMs = map?.recordedAt(nowMs) ?? null;
    const piece = map?.laid[map.indexAt(nowMs)]?.piece;
    if (recordedMs === null || piece?.kind !== 'stretch') return null;
    const tokens = keptTokensOf(piece, this.words);
    const token = tokens[firstWhere(tokens.length, (at) => tokens[at]!.fromMs > recordedMs) - 1];
    if (token?.kind !== 'word' || token.state !== 'heard') return null;
    const first = this.tokenOf(token.key);
    return first !== undefined && isChosen(first) && first.pieceId === piece.id ? token.key : keyAgain(token);
  }
  readonly cutSound: CutSound | null = $derived.by(() => {
    const { sound } = this.#view;
    return sound === null ? null : { levels: sound.levels, crossings: this.#crossings };
  });
  readonly becomes: TrimmedTrack | null = $derived.by(() =>
    this.trim === null ? null : trimTrack(this.#view.track, this.trim)
  );
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
        this.offers.shapes = await api.hesitationShapes(this.#view.session.trackId);
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
    const atStep = (ms: number): void => void (this.#nearStep = Math.floor(ms / NEAR_MS));
    atStep(player.nowMs);
    const stopSteps = player.onFrame(atStep);
    return () => {
      isGone = true;
      stop();
      stopSteps();
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
    this.joins.begin();
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

  /** Why the trim cannot be heard; `null` while it can. */
  get soundFailure(): string | null {
    return this.#drive?.playback.failure ?? null;
  }
  get nowMs(): number {
    return this.#drive?.playback.nowMs ?? 0;
  }

  say(text: string): void {
    this.#view.say(text);
  }

  playOnce(fromMs: number, toMs: number, trim: Trim | null = this.trim): void {
    if (this.#playback === null || trim === null) return;
    this.#playback.show(trim);
    this.#playback.playOnce(fromMs, toMs);
    this.#view.player.wake();
  }

  edit(...commands: readonly TrimCommand[]): boolean {
    const done: Result<void, { readonly message: string }> | undefined = this.session?.edit(...commands);
    if (done === undefined) return false;
    if (!done.ok) this.say(done.problem.message);
    return done.ok;
  }
  undo(): void {
    const { session } = this;
    if (session !== null && (session.history.undo !== null || session.saveState !== 'saved')) session.undo();
    else this.say(phrases.trackView.nothingToUndo);
  }
  redo(): void {
    if (this.session !== null && this.session.history.redo !== null) this.session.redo();
    else this.say(phrases.trackView.nothingToRedo);
  }

  // What is chosen.

  /** Tokens from one to another, by their keys; plays on from the first. */
  choose(anchor: string, focus: string = anchor, { seek = true }: { readonly seek?: boolean } = {}): void {
    const places = [this.placeOf(anchor), this.placeOf(focus)].filter((place) => place !== null);
    const [from, to] = places.sort(comparePlaces);
    if (from === undefined || to === undefined) return;
    const run = tokensBetween(this.text, from, to);
    const pauseIds = run.flatMap((one) => (one.kind === 'put in' ? [one.pieceId] : []));
    this.choice = { keys: [anchor, focus], spans: this.#spansOf(run.filter(isChosen)), pauseIds };
    const token = this.tokenOf(anchor);
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

  /** Recorded time from the first token to the last, piece by piece, with edges where they are not heard. */
  #spansOf(run: readonly ChosenToken[]): PieceSpan[] {
    const pieces = this.trim?.pieces ?? [];
    const [first, last] = [run[0], run.at(-1)].map((token) => pieces.findIndex(({ id }) => id === token?.pieceId));
    if (first === undefined || last === undefined || first < 0) return [];
    return pieces.slice(first, last + 1).flatMap((piece, away) => {
      if (piece.kind !== 'stretch') return [];
      const isLast = first + away === last;
      // Between the two, what has no word goes as well.
      const edges = away === 0 || isLast ? this.#edgesOf(run.filter(({ pieceId }) => pieceId === piece.id)) : piece;
      const fromMs = wholeMs(away === 0 ? Math.max(piece.fromMs, edges.fromMs) : piece.fromMs);
      const toMs = wholeMs(isLast ? Math.min(piece.toMs, edges.toMs) : piece.toMs);
      return toMs > fromMs ? [{ fromMs, toMs, pieceId: piece.id }] : [];
    });
  }

  #edgesOf(tokens: readonly ChosenToken[]): { readonly fromMs: number; readonly toMs: number } {
    const wordIds = tokens.flatMap((token) => (token.kind === 'word' ? [token.word.id] : []));
    const words = spansOfWords(this.#view.track, wordIds, this.cutSound, this.#view.recording.durationMs);
    const all = [...words, ...tokens.filter(({ kind }) => kind === 'pause')];
    return { fromMs: Math.min(...all.map((one) => one.fromMs)), toMs: Math.max(...all.map((one) => one.toMs)) };
  }

  stepWord(by: 1 | -1, extend = false): void {
    const focus = this.choice?.keys?.[1];
    const here = focus === undefined ? this.#placeAhead() : this.placeOf(focus);
    const token = here === null ? null : nextChosen(this.text, here, by);
    if (token === null) return;
    const anchor = extend ? (this.choice?.keys?.[0] ?? token.key) : token.key;
    this.choose(anchor, token.key, { seek: !extend });
  }

  /** Ahead of the word at the playhead. */
  #placeAhead(): Place | null {
    const nowMs = this.#view.player.nowMs;
    const isHere = (token: Token): boolean => isChosen(token) && token.toMs > nowMs && token.state === 'heard';
    const paragraph = this.text.findIndex(({ tokens }) => tokens.some(isHere));
    return paragraph < 0 ? null : { paragraph, at: this.text[paragraph]!.tokens.findIndex(isHere) - 1 };
  }

  letGo(): void {
    this.choice = null;
    this.pickedUp = null;
    this.offers.letGo();
    this.#marks = { in: null, out: null };
  }

  mark(edge: 'in' | 'out'): void {
    this.#marks = { ...this.#marks, [edge]: this.#view.player.nowMs };
    const { in: from, out: to } = this.#marks;
    if (from !== null && to !== null) this.chooseSpan(from, to);
    this.say(phrases.trimming.marked(edge, formatClock(this.#view.player.nowMs, 2)));
  }

  // What is done with it.

  /** Whether all that is chosen is taken out, left as a gap, or silenced already. */
  isSo(how: 'close' | 'gap' | 'silence'): boolean {
    const { trim, choice } = this;
    return trim !== null && choice !== null && choice.spans.length > 0 && isAll(trim, choice.spans, how);
  }

  /** Takes out what is chosen, or silences it; puts it back where it is so already. */
  toggle(how: 'close' | 'gap' | 'silence'): void {
    const { choice, trim } = this;
    const { spans = [], pauseIds = [] } = choice ?? {};
    if (choice === null || trim === null || spans.length + pauseIds.length === 0)
      return this.say(phrases.trimming.chooseFirst);
    if (spans.length === 0) {
      if (!this.edit({ type: 'removePauses', pieceIds: pauseIds })) return;
      this.choice = null;
      return this.say(phrases.trimming.pauseRemoved);
    }
    const isSo = this.isSo(how);
    const command: TrimCommand = isSo
      ? { type: 'putBack', spans }
      : how === 'silence'
        ? { type: 'silence', spans }
        : { type: 'takeOut', spans, ...(how === 'gap' && { leaveGap: true }) };
    if (!this.edit(command)) return;
    // The parts have other pieces now.
    if (choice.keys !== null) this.choose(choice.keys[0], choice.keys[1], { seek: false });
    this.say(isSo ? phrases.trimming.putBack : phrases.trimming.done[how]);
  }

  putAllBack(): void {
    const { trim } = this;
    if (trim === null) return;
    const toMs = wholeMs(trim.recordedMs);
    if (this.edit({ type: 'putBack', spans: [{ fromMs: wholeMs(0), toMs }] })) this.say(phrases.trimming.allBack);
  }

  putInPause(lengthMs = PUT_IN_MS): void {
    const { map } = this;
    if (map === null) return;
    const join = this.joins.list[this.joins.at];
    const atMs = wholeMs(clamp(join?.atMs ?? this.#quietTrimmed(), 0, map.lengthMs));
    if (this.edit({ type: 'putInPause', atMs, lengthMs: wholeMs(lengthMs) }))
      this.say(phrases.trimming.pausePutIn(lengthMs));
  }

  /** The playhead, moved to where a cut is not heard. */
  #quietTrimmed(): number {
    const { map } = this;
    const sound = this.cutSound;
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
    if (first === undefined || map === null) return this.say(phrases.trimming.chooseHeard);
    const last = ends!.at(-1)!;
    this.pickedUp = { fromMs: wholeMs(first[0]), toMs: wholeMs(Math.min(map.lengthMs, Math.max(first[1], last[1]))) };
    this.say(phrases.trimming.pickedUp);
  }

  /** Puts down what was picked up, ahead of the word that is chosen, else at the playhead. */
  putDown({ again = false, beforeKey }: { readonly again?: boolean; readonly beforeKey?: string } = {}): void {
    const { pickedUp, map } = this;
    if (pickedUp === null || map === null) return this.say(phrases.trimming.pickUpFirst);
    const key = beforeKey ?? this.choice?.keys?.[0];
    const token = key === undefined ? undefined : this.tokenOf(key);
    const places = isChosen(token) ? map.trimmedAt(token.fromMs) : [];
    const beforeMs = wholeMs(clamp(places[0] ?? this.nowMs, 0, map.lengthMs));
    if (!this.edit({ type: again ? 'repeat' : 'move', ...pickedUp, beforeMs })) return;
    this.pickedUp = null;
    this.choice = null;
    this.say(again ? phrases.trimming.repeated : phrases.trimming.moved);
  }

  restoreOrder(): void {
    if (this.edit({ type: 'restoreOrder' })) this.say(phrases.trimming.inOrder);
  }

  /** To the next of what is gone through, else to the next join. */
  step(by: 1 | -1): void {
    if (this.offers.going === null) this.joins.step(by);
    else this.offers.step(by);
  }

  /** How it would sound without what is offered, else the join in hand. */
  hear(): void {
    if ((this.offers.tried ?? []).length > 0) this.offers.hear();
    else this.joins.hear();
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

  /** What the picture shows: the captions near the playhead, in recorded time, without what is not heard. */
  readonly drawn: Track | null = $derived.by(() => {
    const { map } = this;
    const { track } = this.#view;
    if (map === null) return null;
    const [fromMs, toMs] = [(this.#nearStep - 1) * NEAR_MS, (this.#nearStep + 2) * NEAR_MS];
    const { findWord } = lookUp(track);
    const isHeard = ({ startMs, endMs }: Word): boolean =>
      map.trimmedAt((startMs + endMs) / 2).some((ms) => map.laid[map.indexAt(ms)]?.plays === 'sound');
    const words: Word[] = [];
    const cues = track.cues.flatMap((cue) => {
      if (cue.startMs >= toMs || cue.endMs <= fromMs) return [];
      const own = cue.wordIds.map((id) => findWord(id)!);
      const heard = own.filter((word) => !word.shown || isHeard(word));
      if (own.length > 0 && heard.every(({ shown }) => !shown)) return [];
      words.push(...heard);
      if (heard.length === own.length) return [cue];
      const wordIds = heard.map(({ id }) => id);
      return [{ ...cue, wordIds, lineStarts: cue.lineStarts.filter((id) => wordIds.includes(id)) }];
    });
    return { ...track, words, cues };
  });
}

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
