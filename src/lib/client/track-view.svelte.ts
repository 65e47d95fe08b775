/**
 * A track on the screen: its session, and what of it is chosen. What is chosen, spoken or scrolled to in one place is so
 * in all of them. Several may be open on one recording and its player.
 */
import type { CueId, WordId } from '$lib/core/id';
import type { ClientCommand } from '$lib/core/commands';
import { clamp, lastStartingBy, spanOf, type Ms } from '$lib/core/time';
import { lookUp, spokenOrder, type Cue, type Track, type Word } from '$lib/core/track';
import { sentenceAround } from '$lib/core/wording';
import { api, type Job, type Proposal, type Recording } from './api';
import type { Player } from './player.svelte';
import type { RecordingView, Sound } from './recording-view.svelte';
import type { TrackSession } from './session/track-session.svelte';
import { Trial } from './trial.svelte';
import { phrases } from './phrases';

/** What the place that is open can do; it says so while it is there. */
export interface Surface {
  focus(): void;
  /** Goes into the text. */
  enter(): void;
  stepRow?(by: 1 | -1): void;
  /** Drops what a hand is dragging; false where it drags nothing. */
  letGo?(): boolean;
  /** Puts the caret before a word, if the text has the focus. */
  moveCaret?(wordId: WordId): void;
  /** Ids of the words that a hand has selected, in order. */
  selectedWords?(): readonly WordId[];
  /** Id of the word with the caret, while the text has the focus. */
  wordAtCaret?(): WordId | null;
}

/** The text of a cue as it is typed on the card. */
export interface CueText {
  /** Id of the word with the caret, while the text has the focus; what is typed is put in first. */
  wordAtCaret(): WordId | null;
}

/** What is chosen: the cue on the card, those besides it, the word, and the words in hand on the page. */
export interface Choice {
  readonly cueId: CueId | null;
  readonly otherCueIds: ReadonlySet<CueId>;
  readonly wordId: WordId | null;
  readonly chosenIds: readonly WordId[];
}

export class TrackView {
  readonly on: RecordingView;
  readonly session: TrackSession;
  cueId: CueId | null = $state(null);
  /** Cues that are chosen besides that one. */
  otherCueIds: ReadonlySet<CueId> = $state.raw(new Set());
  wordId: WordId | null = $state(null);
  /** What is chosen on the page: the word, or the words of a doubt or a hit. */
  chosenIds: readonly WordId[] = $state.raw([]);
  spokenWordId: WordId | null = $state(null);
  spokenCueId: CueId | null = $state(null);
  /** New hearings of this track that wait to be taken or put away. */
  proposals: readonly Proposal[] = $state.raw([]);
  /** The hearing that this track still grows with. */
  hearing: Job | null = $state.raw(null);
  /** Whether the list of what could not be applied is open. */
  isUnappliedOpen = $state(false);
  /** Where a sound is about to be described. */
  describingMs: Ms | null = $state(null);
  /** New times or breaks that are looked at before they are taken. */
  readonly trial: Trial;
  surface: Surface | null = null;
  /** The text of the cue on the card. */
  cueText: CueText | null = null;
  readonly #inHand = new Set<() => void>();
  readonly #stop: () => void;

  constructor(on: RecordingView, session: TrackSession) {
    this.on = on;
    this.session = session;
    this.trial = new Trial({ track: () => session.track, edit: (commands, done) => void this.edit(commands, done) });
    this.#stop = this.player.onFrame((nowMs) => this.#follow(nowMs));
  }

  close(): void {
    this.#stop();
    this.session.close();
  }

  get recording(): Recording {
    return this.on.recording;
  }
  get player(): Player {
    return this.on.player;
  }
  get sound(): Sound | null {
    return this.on.sound;
  }

  /** Registers what ends a list that is being gone through, when something else is chosen. */
  whenLeft(leave: () => void): void {
    this.#inHand.add(leave);
  }
  leaveInHand(): void {
    for (const leave of this.#inHand) leave();
  }

  /** Whether it was done; says `done`, or why it cannot be done. */
  edit(commands: readonly ClientCommand[], done?: string | (() => string)): boolean {
    const result = this.session.edit(...commands);
    if (!result.ok) this.say(result.problem.message);
    else if (done !== undefined) this.say(typeof done === 'string' ? done : done());
    return result.ok;
  }

  async loadProposals(): Promise<void> {
    this.proposals = await api.proposals(this.session.trackId);
  }

  /** Takes news of a job: the track may be growing with it, or a new hearing of it is ready. */
  hearOf(job: Job): void {
    if (job.kind !== 'hear' || job.recordingId !== this.recording.id) return;
    const isWorking = job.state === 'queued' || job.state === 'running';
    if (job.result?.trackId === this.session.trackId) this.hearing = isWorking ? job : null;
    if (job.state === 'done') void this.loadProposals();
  }

  get track(): Track {
    return this.session.track;
  }
  /** What is drawn instead of the track; `null`: the track itself. */
  drawInstead: () => Track | null = () => null;
  /** The track as it is drawn: with what is tried. */
  get drawn(): Track {
    return this.drawInstead() ?? this.trial.track ?? this.session.track;
  }
  readonly cue: Cue | null = $derived.by(() =>
    this.cueId === null ? null : (lookUp(this.session.track).findCue(this.cueId) ?? null)
  );
  readonly cueIndex: number = $derived.by(() =>
    this.cue === null ? -1 : lookUp(this.session.track).cueAt.get(this.cue.id)!
  );
  /** Words by the time they start, for the playhead. */
  readonly spokenOrder: readonly Word[] = $derived.by(() => spokenOrder(this.drawn.words));

  /** Where the chosen cue started when it was last there. */
  #chosenMs = 0;

  /** A chosen cue that an undo or another window took away gives its place to the one that stands there now. */
  keepChoice(): void {
    if (this.cue !== null) this.#chosenMs = this.cue.startMs;
    else if (this.cueId !== null) {
      const { cues } = this.track;
      this.cueId = cues[Math.max(0, lastStartingBy(cues, this.#chosenMs))]?.id ?? null;
    }
  }

  #follow(nowMs: number): void {
    const word = this.spokenOrder[lastStartingBy(this.spokenOrder, nowMs)];
    this.spokenWordId = word !== undefined && nowMs < word.endMs + 120 ? word.id : null;
    const cue = this.cueAt(nowMs);
    this.spokenCueId = cue?.id ?? null;
    const isFollowed = this.player.isPlaying && this.player.stretch === null && this.otherCueIds.size === 0;
    if (isFollowed && cue !== null) this.cueId = cue.id;
  }

  /** The cue on screen at a time; of several the one that started last. */
  cueAt(ms: number): Cue | null {
    const { cues } = this.track;
    const last = lastStartingBy(cues, ms);
    for (let at = last; at >= 0 && at > last - 8; at--) if (cues[at]!.endMs > ms) return cues[at]!;
    return null;
  }

  get choice(): Choice {
    const { cueId, otherCueIds, wordId, chosenIds } = this;
    return { cueId, otherCueIds, wordId, chosenIds };
  }
  choose({ cueId, otherCueIds, wordId, chosenIds }: Choice): void {
    Object.assign(this, { cueId, otherCueIds, wordId, chosenIds });
  }

  chooseCue(cue: Cue | undefined, options: { seek?: boolean } = {}): void {
    if (cue === undefined) return;
    this.cueId = cue.id;
    if (this.otherCueIds.size > 0) this.otherCueIds = new Set();
    this.wordId = null;
    this.chosenIds = [];
    if (this.player.loop !== null) this.player.setLoop(cue);
    if (options.seek === true) this.player.seek(cue.startMs);
  }

  chooseWord(word: Word | undefined): void {
    if (word === undefined) return;
    this.leaveInHand();
    this.chooseWords([word.id]);
    if (this.player.loop !== null) this.player.setLoop(this.cue);
    this.player.seek(word.startMs);
  }

  /** Chooses words that follow one another; the playhead stays. */
  chooseWords(ids: readonly WordId[]): void {
    this.wordId = ids[0] ?? null;
    this.chosenIds = ids;
    if (this.otherCueIds.size > 0) this.otherCueIds = new Set();
    if (this.wordId !== null) this.cueId = lookUp(this.track).findCueOf(this.wordId)?.id ?? this.cueId;
  }

  seek(ms: number): void {
    const target = clamp(ms, 0, this.recording.durationMs);
    const cue = this.cueAt(target);
    if (cue !== null) this.chooseCue(cue);
    else this.player.setLoop(null);
    this.player.seek(target);
  }

  /** A name or term to expect from now on, in this recording; one of several words is no more parted by breaks. */
  async expect(text: string): Promise<void> {
    await this.on.expect(text);
    const { names } = this.track;
    if (/\s/.test(text) && !names.includes(text)) this.edit([{ type: 'setNames', names: [...names, text] }]);
  }

  stepCue(by: 1 | -1): void {
    const { cues } = this.track;
    const here = this.cueIndex >= 0 ? this.cueIndex : lastStartingBy(cues, this.player.nowMs) + (by > 0 ? 0 : 1);
    this.chooseCue(cues[clamp(here + by, 0, cues.length - 1)], { seek: true });
  }

  stepWord(by: 1 | -1): void {
    const { wordAt } = lookUp(this.track);
    const here = this.wordId === null ? undefined : wordAt.get(this.wordId);
    if (here !== undefined) this.chooseWord(this.track.words[here + by]);
    else
      this.chooseWord(
        this.spokenOrder[Math.max(0, lastStartingBy(this.spokenOrder, this.player.nowMs) + (by > 0 ? 1 : 0))]
      );
  }

  /** The end of the chosen words that moves. */
  #wordEndId: WordId | null = null;

  /** One word more, or less, from the one that was chosen first. */
  extendWords(by: 1 | -1): void {
    const { words } = this.track;
    const { wordAt } = lookUp(this.track);
    if (this.wordId === null) return this.stepWord(by);
    const first = wordAt.get(this.wordId);
    const isOne = this.chosenIds.length < 2;
    const end = isOne || this.#wordEndId === null ? first : (wordAt.get(this.#wordEndId) ?? first);
    const next = end === undefined ? undefined : words[end + by];
    if (first === undefined || end === undefined || next === undefined) return;
    this.#wordEndId = next.id;
    this.chosenIds = words.slice(Math.min(first, end + by), Math.max(first, end + by) + 1).map((word) => word.id);
    this.say(phrases.trackView.wordsChosen(this.chosenIds.length));
  }

  /** Esc: what is tried, else all but one of what is chosen, else the chosen words. */
  letGo(): void {
    if (this.surface?.letGo?.() === true) return;
    if (this.trial.track !== null) return this.trial.leave();
    this.leaveInHand();
    if (this.otherCueIds.size > 0) this.otherCueIds = new Set();
    else Object.assign(this, { wordId: null, chosenIds: [] });
  }

  /** Id of the word with the caret, while a text has the focus. */
  wordAtCaret(): WordId | null {
    return this.cueText?.wordAtCaret() ?? this.surface?.wordAtCaret?.() ?? null;
  }

  /** Words that a hand has selected on the surface, in order. */
  get selectedIds(): readonly WordId[] {
    return this.surface?.selectedWords?.() ?? [];
  }

  /** From the first to the last of the words that are still there. */
  runOf(ids: readonly WordId[]): readonly Word[] {
    const { wordAt } = lookUp(this.track);
    const at = ids.map((id) => wordAt.get(id)).filter((found) => found !== undefined);
    return at.length === 0 ? [] : this.track.words.slice(Math.min(...at), Math.max(...at) + 1);
  }

  toggleLoop(): void {
    if (this.player.loop !== null) {
      this.player.setLoop(null);
      this.say(phrases.trackView.loopOff);
      return;
    }
    const selected = this.runOf(this.selectedIds);
    if (selected.length > 0) {
      this.player.setLoop(spanOf(selected));
      this.say(phrases.trackView.loopingSelection);
    } else if (this.cue !== null) {
      this.player.setLoop(this.cue);
      this.say(phrases.trackView.loopingCue);
    }
  }

  /** What is selected or chosen, else the cue. */
  playOnce(): void {
    const words = this.runOf(this.selectedIds.length > 0 ? this.selectedIds : this.chosenIds);
    const stretch = words.length > 0 ? spanOf(words) : this.cue;
    if (stretch === null) this.say(phrases.trackView.chooseToPlay);
    else this.player.playOnce(stretch);
  }

  loopSentence(): void {
    const { words } = this.track;
    const id = this.wordAtCaret() ?? this.wordId ?? this.spokenWordId;
    const at = id === null ? undefined : lookUp(this.track).wordAt.get(id);
    if (at === undefined) return this.say(phrases.trackView.chooseSentence);
    const { from, to } = sentenceAround(words, at);
    this.player.setLoop(spanOf(words.slice(from, to)));
    this.say(phrases.trackView.loopingSentence);
  }

  undo(): void {
    this.session.flush();
    if (this.session.history.undo !== null || this.session.saveState !== 'saved') this.session.undo();
    else this.say(phrases.trackView.nothingToUndo);
  }
  redo(): void {
    this.session.flush();
    if (this.session.history.redo !== null) this.session.redo();
    else this.say(phrases.trackView.nothingToRedo);
  }

  say(notice: string): void {
    this.on.say(notice);
  }
}
