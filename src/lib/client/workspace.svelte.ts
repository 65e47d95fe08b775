/**
 * A track at work: the session, the player, and what is chosen. What is chosen, spoken or scrolled to in one place is
 * so in all of them. Commands act here; places only show.
 */
import { getContext, setContext } from 'svelte';
import type { SpeechMap } from '$lib/core/audio';
import { clamp, formatClock, lastStartingBy, type Ms, type Span } from '$lib/core/time';
import { escapeMarkup, joinWords, lookUp, shownWords, type Cue, type Track, type Word } from '$lib/core/track';
import { repairEdits, sentenceAround, writeInPlace, type Repair } from '$lib/core/wording';
import { textTokens, type ClientEdit } from '$lib/core/edits';
import { api, type Job, type Proposal, type Reading, type Recording } from './api';
import { DoubtQueue } from './doubt-queue.svelte';
import { Finder } from './finder.svelte';
import { Player } from './player.svelte';
import { preferences } from './preferences.svelte';
import { TrackSession } from './session/track-session.svelte';

const spanOf = (words: readonly Word[]): Span => ({
  startMs: Math.min(...words.map((word) => word.startMs)),
  endMs: Math.max(...words.map((word) => word.endMs))
});

/** What the server hears as one stretch. */
const LONGEST_PASSAGE_MS = 30_000;

/** What the sound of a recording looks like. */
export interface Sound {
  readonly levels: Uint8Array;
  readonly speech: SpeechMap & { readonly regions: readonly Span[] };
}

/** What the place that is open can do; it says so while it is there. */
export interface Surface {
  focus(): void;
  /** Goes into the text. */
  enter(): void;
  stepRow?(by: 1 | -1): void;
  /** Ids of the words that a hand has selected, in order. */
  selectedWords?(): readonly string[];
  /** Id of the word with the caret, while the text has the focus. */
  wordAtCaret?(): string | null;
}

/** A stretch that is heard again, and what its new text takes the place of. */
export interface Passage extends Span {
  /** Words that follow one another; none where the passage is still without text. */
  readonly words: readonly Word[];
  /** The cue without text that it is; `null` where it has words, or lies where no cue is. */
  readonly cueId: string | null;
}

export class Workspace {
  readonly recording: Recording;
  readonly session: TrackSession;
  readonly player = new Player();
  sound: Sound | null = $state.raw(null);
  soundFailure: string | null = $state(null);
  cueId: string | null = $state(null);
  wordId: string | null = $state(null);
  /** What is chosen on the page: the word, or the words of a doubt or a hit. */
  chosenIds: readonly string[] = $state.raw([]);
  spokenWordId: string | null = $state(null);
  spokenCueId: string | null = $state(null);
  /** Said by the status line and to screen readers. */
  notice = $state('');
  /** The passage that is being heard again. */
  passage: Passage | null = $state.raw(null);
  /** New hearings of this track that wait to be taken or put away. */
  proposals: readonly Proposal[] = $state.raw([]);
  /** The hearing that this track still grows with. */
  hearing: Job | null = $state.raw(null);
  /** Where a sound is about to be described. */
  describingMs: Ms | null = $state(null);
  readonly doubts: DoubtQueue;
  readonly finder: Finder;
  /** Called before anything is done with the track: text still being typed is put into it. */
  flushTyping: () => void = () => undefined;

  surface: Surface | null = null;

  constructor(recording: Recording, session: TrackSession) {
    this.recording = recording;
    this.session = session;
    this.doubts = new DoubtQueue(this);
    this.finder = new Finder(this);
    this.player.onFrame((nowMs) => this.#follow(nowMs));
  }

  async loadProposals(): Promise<void> {
    this.proposals = await api.proposals(this.session.trackId);
  }

  /** What is told of a job: this track may grow with it, or a new hearing of it is there. */
  hearOf(job: Job): void {
    if (job.kind !== 'hear' || job.recordingId !== this.recording.id) return;
    const isWorking = job.state === 'queued' || job.state === 'running';
    if (job.result?.trackId === this.session.trackId) this.hearing = isWorking ? job : null;
    if (job.state === 'done') void this.loadProposals();
  }

  get track(): Track {
    return this.session.track;
  }
  readonly cue: Cue | null = $derived.by(() => {
    const at = this.cueId === null ? undefined : lookUp(this.session.track).cueAt.get(this.cueId);
    return at === undefined ? null : this.session.track.cues[at]!;
  });
  readonly cueIndex: number = $derived.by(() =>
    this.cue === null ? -1 : lookUp(this.session.track).cueAt.get(this.cue.id)!
  );
  /** Words by the time they start, for the playhead. */
  readonly spokenOrder: readonly Word[] = $derived.by(() => {
    const words = this.session.track.words.filter((word) => word.kind !== 'hole');
    const isSorted = words.every((word, at) => at === 0 || words[at - 1]!.startMs <= word.startMs);
    return isSorted ? words : words.toSorted((a, b) => a.startMs - b.startMs);
  });

  /** Where the chosen cue started when it was last there. */
  #chosenMs: Ms = 0;

  /** A chosen cue that an undo or another window took away gives its place to the one that stands there now. */
  keepChoice(): void {
    if (this.cue !== null) this.#chosenMs = this.cue.startMs;
    else if (this.cueId !== null) {
      const { cues } = this.track;
      this.cueId = cues[Math.max(0, lastStartingBy(cues, this.#chosenMs))]?.id ?? null;
    }
  }

  #follow(nowMs: Ms): void {
    const word = this.spokenOrder[lastStartingBy(this.spokenOrder, nowMs)];
    this.spokenWordId = word !== undefined && nowMs < word.endMs + 120 ? word.id : null;
    const cue = this.cueAt(nowMs);
    this.spokenCueId = cue?.id ?? null;
    if (this.player.isPlaying && cue !== null && this.player.loop === null) this.cueId = cue.id;
  }

  /** The cue on screen at a time; of several the one that started last. */
  cueAt(ms: Ms): Cue | null {
    const { cues } = this.track;
    const last = lastStartingBy(cues, ms);
    for (let at = last; at >= 0 && at > last - 8; at--) if (cues[at]!.endMs > ms) return cues[at]!;
    return null;
  }

  chooseCue(cue: Cue | undefined, options: { seek?: boolean } = {}): void {
    if (cue === undefined) return;
    this.cueId = cue.id;
    this.wordId = null;
    this.chosenIds = [];
    if (this.player.loop !== null) this.player.setLoop(cue);
    if (options.seek === true) this.player.seek(cue.startMs);
  }

  chooseWord(word: Word | undefined): void {
    if (word === undefined) return;
    this.doubts.leave();
    this.chooseWords([word.id]);
    this.player.seek(word.startMs);
  }

  /** Chooses words that follow one another; the playhead stays. */
  chooseWords(ids: readonly string[]): void {
    this.wordId = ids[0] ?? null;
    this.chosenIds = ids;
    if (this.wordId !== null) this.cueId = lookUp(this.track).findCueOf(this.wordId)?.id ?? this.cueId;
  }

  /** What a repair is for: what is selected, else the word with the caret, the spoken one while it plays, the chosen ones. */
  wordsToRepair(): readonly Word[] {
    const selected = this.surface?.selectedWords?.() ?? [];
    const caret = this.surface?.wordAtCaret?.() ?? null;
    const spoken = this.player.isPlaying && this.player.loop === null ? this.spokenWordId : null;
    const chosen = this.chosenIds.length > 0 ? this.chosenIds : [this.spokenWordId];
    const ids = selected.length > 0 ? selected : caret !== null ? [caret] : spoken !== null ? [spoken] : chosen;
    return this.#runOf(ids.filter((id) => id !== null));
  }

  repair(repair: Repair): void {
    const run = this.wordsToRepair();
    if (run.length === 0) return this.say('Choose a word to repair, or play on to it.');
    const edits = repairEdits(this.track, run, repair);
    if (edits.length === 0) return this.say('There is nothing to do there.');
    this.session.edit(...edits);
    this.say(`Now: ${joinWords(this.#runOf(run.map((word) => word.id)).filter((word) => word.shown)) || 'left out'}`);
  }

  /** A name or term to expect from now on, in this recording. */
  async expect(text: string): Promise<void> {
    const terms = await api.terms(this.recording.id);
    if (terms.some((term) => term.text === text)) return;
    await api.saveTerms(this.recording.id, [...terms, { text, soundsLike: null }]);
    this.say(`“${text}” is on the vocabulary of this recording.`);
  }

  /** A described sound: a cue of its own where there is room, else behind the word that is spoken there. */
  describeSound(description: string, atMs: Ms): void {
    const said = description.trim().replace(/^\[|\]$/g, '');
    if (said === '') return;
    const { cues, rules } = this.track;
    const text = `[${said}]`;
    const nextMs = cues[lastStartingBy(cues, atMs) + 1]?.startMs ?? this.recording.durationMs;
    const endMs = Math.min(atMs + 2 * rules.minDurationMs, nextMs - rules.minGapMs);
    const word = this.spokenOrder[lastStartingBy(this.spokenOrder, atMs)];
    if (this.cueAt(atMs) === null && endMs - atMs >= rules.minDurationMs / 2)
      this.session.edit({
        ...{ type: 'addCue', startMs: atMs, endMs, newCueId: crypto.randomUUID() },
        lines: [escapeMarkup(text)]
      });
    else if (word !== undefined)
      this.session.edit({ type: 'replaceWords', wordIds: [word.id], text: `${word.text} ${text}` });
    else return this.say('There is no room for a sound here.');
    this.say(`${text} at ${formatClock(atMs)}.`);
  }

  /** The paragraph in hand goes to the speaker behind its own in the list. */
  giveToNextSpeaker(): void {
    const { speakers } = this.track;
    const words = this.#wordsInHand();
    if (words.length === 0 || speakers.length === 0) return this.say('Put the cursor into a paragraph with speakers.');
    const at = speakers.findIndex((speaker) => speaker.id === words[0]!.speakerId);
    this.giveTo(speakers[(at + 1) % speakers.length]!.id);
  }

  /** The paragraph in hand begins a word earlier or later; the word that changes sides changes its speaker with it. */
  moveBoundary(by: 1 | -1): void {
    const { words } = this.track;
    const run = this.#paragraphInHand();
    const from = run[0] === undefined ? 0 : lookUp(this.track).wordAt.get(run[0].id)!;
    const [first, moved] = [words[from], by < 0 ? words[from - 1] : words[from]];
    const next = words[from + by];
    if (first === undefined || moved === undefined || next === undefined || from === 0 || (by > 0 && run.length < 2))
      return this.say('There is no word to move over that boundary.');
    const speakerId = by < 0 ? first.speakerId : words[from - 1]!.speakerId;
    this.session.edit(
      { type: 'setParagraph', wordId: first.id, starts: false },
      { type: 'setParagraph', wordId: next.id, starts: true },
      { type: 'setSpeaker', wordIds: [moved.id], speakerId }
    );
    this.say(`The paragraph begins with “${next.text}” now.`);
  }

  /** Plays, or pauses and goes back as far as is wanted. */
  togglePlay(): void {
    const { player } = this;
    const isPausing = player.isPlaying;
    player.toggle();
    if (isPausing && preferences.backOnPauseMs > 0 && player.loop === null) player.skip(-preferences.backOnPauseMs);
  }

  seek(ms: Ms): void {
    const target = clamp(ms, 0, this.recording.durationMs);
    this.player.seek(target);
    const cue = this.cueAt(target);
    if (cue !== null) this.chooseCue(cue);
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

  /** Splits before the chosen word, else before the word at the playhead. */
  split(): void {
    const cue = this.cue;
    if (cue === null) return this.say('Choose a cue to split.');
    const words = shownWords(this.track, cue);
    const nowMs = this.player.nowMs;
    const nearest = words
      .slice(1)
      .reduce<Word | undefined>(
        (best, word) =>
          best === undefined || Math.abs(word.startMs - nowMs) < Math.abs(best.startMs - nowMs) ? word : best,
        undefined
      );
    const chosen = words.find((word, at) => word.id === this.wordId && at > 0) ?? nearest;
    if (chosen === undefined) return this.say('One word cannot be split.');
    const newCueId = crypto.randomUUID();
    if (!this.session.edit({ type: 'splitCue', cueId: cue.id, wordId: chosen.id, newCueId }))
      return this.say('This cue cannot be split there.');
    this.chooseCue(this.track.cues[lookUp(this.track).cueAt.get(newCueId)!]);
    this.say('Split.');
  }

  merge(): void {
    const next = this.track.cues[this.cueIndex + 1];
    if (this.cue === null || next === undefined) return this.say('There is no next cue to merge with.');
    this.session.edit({ type: 'mergeCues', cueIds: [this.cue.id, next.id] });
    this.say('Merged.');
  }

  /** Moves the border of the chosen cue and the next by one word; the times follow the words. */
  moveBorder(direction: 'pull' | 'push'): void {
    const { cue, track } = this;
    const next = track.cues[this.cueIndex + 1];
    if (cue === null || next === undefined) return this.say('There is no next cue.');
    const own = shownWords(track, cue);
    const theirs = shownWords(track, next);
    const first = direction === 'pull' ? theirs[1] : own.at(-1);
    if (first === undefined || (direction === 'push' && own.length < 2))
      return this.say('It would leave a cue without words: merge instead.');
    this.session.edit(
      { type: 'mergeCues', cueIds: [cue.id, next.id] },
      { type: 'splitCue', cueId: cue.id, wordId: first.id, newCueId: crypto.randomUUID() }
    );
  }

  remove(): void {
    const { cue, cueIndex } = this;
    if (cue === null) return;
    this.session.edit({ type: 'removeCue', cueId: cue.id });
    this.chooseCue(this.track.cues[Math.min(cueIndex, this.track.cues.length - 1)]);
    this.say('Deleted. Undo brings it back.');
  }

  /** A cue without text from the playhead to where there is room, at least half a second. */
  add(): string | null {
    const startMs = Math.max(0, this.player.nowMs);
    const { minGapMs } = this.track.rules;
    const next = this.track.cues[lastStartingBy(this.track.cues, startMs) + 1];
    const endMs = Math.min(startMs + 2000, next === undefined ? Number.POSITIVE_INFINITY : next.startMs - minGapMs);
    if (this.cueAt(startMs) !== null || endMs - startMs < 500) {
      this.say('There is no room for a cue here.');
      return null;
    }
    const newCueId = crypto.randomUUID();
    this.session.edit({ type: 'addCue', startMs, endMs, lines: [], newCueId });
    this.chooseCue(this.track.cues[lookUp(this.track).cueAt.get(newCueId)!]);
    return newCueId;
  }

  /** Sets an edge of the chosen cue; it stops at its neighbour less the least gap, and never passes its other edge. */
  setEdge(edge: 'start' | 'end', ms: Ms): void {
    const { cue } = this;
    if (cue === null) return;
    const times = this.limitTimes(
      cue,
      edge === 'start' ? { startMs: ms, endMs: cue.endMs } : { startMs: cue.startMs, endMs: ms },
      edge
    );
    this.session.edit({ type: 'setCueTimes', cueId: cue.id, ...times });
  }

  moveCue(byMs: Ms): void {
    const { cue } = this;
    if (cue === null) return;
    const times = this.limitTimes(cue, { startMs: cue.startMs + byMs, endMs: cue.endMs + byMs }, 'both');
    this.session.edit({ type: 'setCueTimes', cueId: cue.id, ...times });
  }

  /** Times that keep the least gap to the neighbours where it was kept before, and a cue of at least 100 ms. */
  limitTimes(cue: Cue, wanted: Span, moved: 'start' | 'end' | 'both'): Span {
    const { cues, rules } = this.track;
    const at = lookUp(this.track).cueAt.get(cue.id)!;
    const before = cues[at - 1];
    const after = cues[at + 1];
    const least =
      before !== undefined && before.endMs <= cue.startMs ? Math.min(cue.startMs, before.endMs + rules.minGapMs) : 0;
    const most =
      after !== undefined && after.startMs >= cue.endMs
        ? Math.max(cue.endMs, after.startMs - rules.minGapMs)
        : this.recording.durationMs + 60_000;
    if (moved === 'start')
      return { startMs: Math.round(clamp(wanted.startMs, least, cue.endMs - 100)), endMs: cue.endMs };
    if (moved === 'end')
      return { startMs: cue.startMs, endMs: Math.round(clamp(wanted.endMs, cue.startMs + 100, most)) };
    const byMs = clamp(wanted.startMs, least, most - (cue.endMs - cue.startMs)) - cue.startMs;
    return { startMs: Math.round(cue.startMs + byMs), endMs: Math.round(cue.endMs + byMs) };
  }

  /** Hears again what is selected, else the chosen word, else the chosen cue, else the empty stretch at the playhead. */
  hearAgain(): void {
    const passage = this.#passageHere();
    if (passage === null) this.say('Choose words, a cue or a place without one to hear again.');
    else if (passage.endMs - passage.startMs > LONGEST_PASSAGE_MS)
      this.say(`A passage of at most ${LONGEST_PASSAGE_MS / 1000} seconds can be heard again.`);
    else {
      this.passage = passage;
      this.player.setLoop(null);
    }
  }

  /** From the first to the last of the words that are still there. */
  #runOf(ids: readonly string[]): readonly Word[] {
    const { wordAt } = lookUp(this.track);
    const at = ids.map((id) => wordAt.get(id)).filter((found) => found !== undefined);
    return at.length === 0 ? [] : this.track.words.slice(Math.min(...at), Math.max(...at) + 1);
  }

  #passageHere(): Passage | null {
    const { track, cue } = this;
    const { nowMs } = this.player;
    const selected = this.surface?.selectedWords?.() ?? [];
    const ids = selected.length > 0 ? selected : this.wordId !== null ? [this.wordId] : (cue?.wordIds ?? []);
    const words = this.#runOf(ids);
    if (words.length > 0) return { words, cueId: null, ...spanOf(words) };
    if (cue !== null) return { words: [], cueId: cue.id, startMs: cue.startMs, endMs: cue.endMs };
    const before = lastStartingBy(track.cues, nowMs);
    const freeFromMs = track.cues[before]?.endMs ?? 0;
    const freeToMs = track.cues[before + 1]?.startMs ?? this.recording.durationMs;
    const startMs = Math.max(freeFromMs, nowMs - 1000);
    const endMs = Math.min(freeToMs, nowMs + 4000);
    return endMs - startMs < 300 ? null : { words: [], cueId: null, startMs, endMs };
  }

  /** Puts a reading in the passage's place, as one change. */
  takeReading(passage: Passage, reading: Reading): void {
    const { words, cueId, startMs, endMs } = passage;
    const text = writeInPlace(
      reading.text,
      words.map((word) => word.text)
    );
    const isWordForWord = textTokens(text, this.track.language).length === reading.words.length;
    const known = isWordForWord && {
      times: reading.words.map((word) => ({ startMs: word.startMs, endMs: word.endMs }))
    };
    const edit: ClientEdit =
      words.length > 0
        ? { type: 'replaceWords', wordIds: words.map((word) => word.id), text, ...known }
        : cueId !== null
          ? { type: 'setCueText', cueId, lines: [text], ...known }
          : { type: 'addCue', startMs, endMs, lines: [text], ...known, newCueId: crypto.randomUUID() };
    if (this.session.edit(edit)) this.say(`Now: ${text}`);
    else this.say('The passage has changed meanwhile: hear it again.');
    this.closePassage();
  }

  /** What is selected, else the chosen word's paragraph, is said by this speaker; `null`: by somebody new. */
  giveTo(speakerId: string | null): void {
    const { track } = this;
    const words = this.#wordsInHand();
    if (words.length === 0) return this.say('Select words, or put the cursor into a paragraph, to say who speaks.');
    const id = speakerId ?? crypto.randomUUID();
    const name = `Speaker ${track.speakers.length + 1}`;
    const next = track.words[lookUp(track).wordAt.get(words.at(-1)!.id)! + 1];
    this.session.edit(
      ...(speakerId === null ? [{ type: 'addSpeaker' as const, name, newSpeakerId: id }] : []),
      { type: 'setSpeaker', wordIds: words.map((word) => word.id), speakerId: id },
      { type: 'setParagraph', wordId: words[0]!.id, starts: true },
      ...(next === undefined ? [] : [{ type: 'setParagraph' as const, wordId: next.id, starts: true }])
    );
    this.say(`${words.length} words are ${track.speakers.find((one) => one.id === id)?.name ?? name}’s now.`);
  }

  /** What is selected, else the paragraph in hand. */
  #wordsInHand(): readonly Word[] {
    const selected = this.#runOf(this.surface?.selectedWords?.() ?? []);
    return selected.length > 0 ? selected : this.#paragraphInHand();
  }

  #paragraphInHand(): readonly Word[] {
    const { words } = this.track;
    const { wordAt } = lookUp(this.track);
    const id = this.surface?.wordAtCaret?.() ?? this.wordId ?? this.spokenWordId;
    const at = id === null ? undefined : wordAt.get(id);
    if (at === undefined) return [];
    const from = words.findLastIndex((word, place) => place <= at && word.startsParagraph);
    const to = words.findIndex((word, place) => place > at && word.startsParagraph);
    return words.slice(Math.max(0, from), to < 0 ? words.length : to);
  }

  closePassage(): void {
    this.passage = null;
    this.player.setLoop(null);
    this.surface?.focus();
  }

  toggleLoop(): void {
    if (this.player.loop !== null) {
      this.player.setLoop(null);
      this.say('Loop off.');
      return;
    }
    const selected = this.#runOf(this.surface?.selectedWords?.() ?? []);
    if (selected.length > 0) {
      this.player.setLoop(spanOf(selected));
      this.say('Looping what is selected.');
    } else if (this.cue !== null) {
      this.player.setLoop(this.cue);
      this.say('Looping the cue.');
    }
  }

  loopSentence(): void {
    const { words } = this.track;
    const id = this.surface?.wordAtCaret?.() ?? this.wordId ?? this.spokenWordId;
    const at = id === null ? undefined : lookUp(this.track).wordAt.get(id);
    if (at === undefined) return this.say('Choose a word of the sentence to loop.');
    const { from, to } = sentenceAround(words, at);
    this.player.setLoop(spanOf(words.slice(from, to)));
    this.say('Looping the sentence.');
  }

  undo(): void {
    this.flushTyping();
    if (this.session.history.undo !== null || this.session.saveState !== 'saved') this.session.undo();
    else this.say('There is nothing to undo.');
  }
  redo(): void {
    this.flushTyping();
    if (this.session.history.redo !== null) this.session.redo();
    else this.say('There is nothing to redo.');
  }

  say(notice: string): void {
    // The same words said again must be heard again.
    this.notice = this.notice === notice ? `${notice}\u200b` : notice;
  }
}

const KEY = Symbol('workspace');
export const provideWorkspace = (get: () => Workspace): void => void setContext(KEY, get);
export const useWorkspace = (): Workspace => getContext<() => Workspace>(KEY)();
