/** The doubts of the open track, one after the other: looked at, decided, and gone. */
import { toSpan } from '$lib/core/time';
import { doubtKey, type Candidate, type Doubt } from '$lib/core/doubts';
import { lookUp, joinWords, type Track, type Word } from '$lib/core/track';
import { bareWord, repairEdits, type Repair } from '$lib/core/wording';
import type { ClientCommand } from '$lib/core/commands';
import { messageOf } from '$lib/core/message-of';
import { api } from './api';
import { stepRound } from './step-round';
import type { TrackView } from './track-view.svelte';
import { phrases } from './phrases';

/** The sound around a doubt, so that it is heard as it was said. */
const AROUND_MS = 350;
/** What a finished sentence is by its mark. */
const ENDS: Readonly<Record<string, Repair>> = {
  '.': 'sentenceEnd',
  '?': 'question',
  '!': 'exclamation',
  ',': 'comma'
};

/** What was done with a doubt, so that it can be done with those like it. */
type Decision = { readonly doubt: Doubt; readonly said: string; readonly candidate: Candidate | null };

export class DoubtQueue {
  readonly #view: TrackView;
  #found: readonly Doubt[] = $state.raw([]);
  /** How much was looked at and let stand. */
  judged = $state(0);
  /** Whether there is a dictionary of the language; spelling is among the doubts. */
  isSpelled = $state(true);
  state: 'unasked' | 'looking' | 'there' | 'failed' | 'stopped' = $state('unasked');
  /** How far the looking is, 0 to 1. */
  progress = $state(0);
  #stop: AbortController | null = null;
  failure: string | null = $state(null);
  currentKey: string | null = $state(null);
  #last: Decision | null = $state.raw(null);
  /** What was let stand, the newest last, so that it can be asked again. */
  #kept: readonly (readonly Doubt[])[] = $state.raw([]);
  readonly #said = new WeakMap<Doubt, string>();
  readonly #seen = new WeakMap<Doubt, readonly Word[]>();

  constructor(view: TrackView) {
    this.#view = view;
    view.whenLeft(() => this.leave());
  }

  /** Those whose words still say what they said. */
  readonly open: readonly Doubt[] = $derived.by(() => {
    const { track } = this.#view.session;
    return this.#found.filter((doubt) => this.#isStill(track, doubt));
  });
  readonly at: number = $derived.by(() => this.open.findIndex((doubt) => doubt.key === this.currentKey));
  readonly current: Doubt | null = $derived.by(() => this.open[this.at] ?? null);
  /** How many doubts are like the last one that was decided. */
  readonly alike: readonly Doubt[] = $derived.by(() => {
    const last = this.#last;
    if (last === null) return [];
    return this.open.filter((doubt) => doubt.reason === last.doubt.reason && this.#sayBare(doubt) === last.said);
  });

  /** Asks for the doubts as the track is now. */
  async load(): Promise<void> {
    const { session } = this.#view;
    this.#stop?.abort();
    const stop = new AbortController();
    this.#stop = stop;
    if (this.state !== 'there') this.state = 'looking';
    this.progress = 0;
    try {
      await session.saved();
      const onProgress = (share: number): void => void (this.progress = share);
      const found = await api.doubts(session.trackId, { signal: stop.signal, onProgress });
      if (stop.signal.aborted) return;
      this.#found = found.doubts;
      this.judged = found.judged;
      this.isSpelled = found.isSpelled;
      this.state = 'there';
      this.failure = null;
    } catch (error) {
      if (stop.signal.aborted) return;
      this.state = 'failed';
      this.failure = messageOf(error);
    }
  }

  /** Gives the looking up; nothing is known until it is asked for again. */
  stop(): void {
    this.#stop?.abort();
    if (this.state === 'looking') this.state = 'stopped';
  }

  /** Goes on from the one in hand, else from the playhead, and plays its sound round and round. */
  step(by: 1 | -1): void {
    const { open, at } = this;
    if (open.length === 0)
      return this.#view.say(this.state === 'there' ? phrases.doubtQueue.noneLeft : phrases.doubtQueue.stillLooking);
    this.show(open[stepRound(open, by, { at, nowMs: this.#view.player.nowMs })]!);
  }

  show(doubt: Doubt): void {
    const { player, track } = this.#view;
    this.currentKey = doubt.key;
    this.#view.chooseWords(doubt.wordIds);
    player.setLoop(toSpan({ startMs: Math.max(0, doubt.startMs - AROUND_MS), endMs: doubt.endMs + AROUND_MS }));
    player.play();
    const { at, open } = this;
    const text = joinWords(runOf(track, doubt));
    this.#view.say(phrases.doubtQueue.inHand(at + 1, open.length, REASONS[doubt.reason], text));
  }

  leave(): void {
    if (this.currentKey === null) return;
    this.currentKey = null;
    this.#view.player.setLoop(null);
  }

  /** Writes the candidate in the place of the words, and goes on. */
  take(number: number): void {
    const doubt = this.current;
    const candidate = doubt?.candidates[number - 1];
    if (doubt === null || candidate === undefined) return;
    this.#decide([doubt], candidate);
  }

  /** Lets the words stand, and goes on. */
  keep(): void {
    if (this.current !== null) this.#decide([this.current], null);
  }

  readonly hasKept: boolean = $derived.by(() => this.#kept.length > 0);

  /** Takes back that the last ones stand: they are doubts again. */
  reconsider(): void {
    const doubts = this.#kept.at(-1);
    if (doubts === undefined) return this.#view.say(phrases.doubtQueue.nothingKept);
    this.#kept = this.#kept.slice(0, -1);
    this.#found = [...this.#found, ...doubts].sort((one, other) => one.startMs - other.startMs);
    this.judged -= doubts.length;
    const keys = doubts.map((doubt) => doubt.key);
    api.takeJudgementsBack(this.#view.session.trackId, keys).catch((error: unknown) => {
      this.failure = phrases.doubtQueue.notReconsidered(messageOf(error));
    });
    const first = this.open.find((doubt) => keys.includes(doubt.key));
    if (first === undefined) this.#view.say(phrases.doubtQueue.changedMeanwhile);
    else this.show(first);
  }

  /** Does the last thing that was done with all doubts that are like that one. */
  repeat(): void {
    const last = this.#last;
    if (last === null || this.alike.length === 0) return this.#view.say(phrases.doubtQueue.noneAlike);
    this.#decide(this.alike, last.candidate);
  }

  /** The words in hand are a name or a term: right from now on, here and when it is heard again. */
  async addToVocabulary(): Promise<void> {
    const doubt = this.current;
    if (doubt === null) return;
    const text = joinWords(runOf(this.#view.track, doubt)).replace(/^[^\p{L}\p{N}]+|[^\p{L}\p{N}]+$/gu, '');
    await this.#view.expect(text);
    this.#decide([doubt], null);
    await this.load();
  }

  #decide(doubts: readonly Doubt[], candidate: Candidate | null): void {
    const view = this.#view;
    const { at } = this;
    this.#last = { doubt: doubts[0]!, said: this.#sayBare(doubts[0]!), candidate };
    if (candidate === null) {
      const keys = doubts.map((doubt) => doubt.key);
      this.#found = this.#found.filter((doubt) => !keys.includes(doubt.key));
      this.judged += keys.length;
      this.#kept = [...this.#kept, doubts];
      api.judgeDoubts(view.session.trackId, keys).catch((error: unknown) => {
        this.failure = phrases.doubtQueue.notKept(messageOf(error));
      });
      view.say(phrases.doubtQueue.stands(doubts.length));
    } else {
      // From the back, so that what is written does not move what is still to be found.
      const edits = doubts.toReversed().flatMap((doubt) => editsFor(view.track, doubt, likeIn(doubt, candidate)));
      const said = phrases.doubtQueue.changed(doubts.length, candidate.text);
      if (!view.edit(edits, said)) return;
    }
    const next = this.open[Math.max(0, at)] ?? this.open[0];
    if (next === undefined) this.leave();
    else this.show(next);
  }

  /** A doubt's words without capitals and marks; they are the same as long as it is open. */
  #sayBare(doubt: Doubt): string {
    let said = this.#said.get(doubt);
    if (said === undefined) {
      said = runOf(this.#view.track, doubt)
        .map((word) => bareWord(word.text))
        .join(' ');
      this.#said.set(doubt, said);
    }
    return said;
  }

  /** This runs for thousands of doubts at every letter typed, so words that are the same objects are not compared. */
  #isStill(track: Track, doubt: Doubt): boolean {
    const run = runOf(track, doubt);
    const seen = this.#seen.get(doubt);
    if (seen !== undefined && run.length === seen.length && run.every((word, at) => word === seen[at])) return true;
    if (!saysTheSame(run, doubt)) return false;
    this.#seen.set(doubt, run);
    return true;
  }
}

export const REASONS: Readonly<Record<Doubt['reason'], string>> = {
  unsure: phrases.doubtQueue.unsure,
  near_miss: phrases.doubtQueue.nearMiss,
  spelling: phrases.doubtQueue.spelling,
  repeated: phrases.doubtQueue.repeated,
  capital: phrases.doubtQueue.capital,
  hesitation: phrases.doubtQueue.hesitation,
  sentence_end: phrases.doubtQueue.sentenceEnd,
  hole: phrases.doubtQueue.hole
};

/** The doubt's own candidate that says the same: its capitals and marks are those of its place. */
const likeIn = (doubt: Doubt, candidate: Candidate): Candidate =>
  doubt.candidates.find((own) => bareWord(own.text) === bareWord(candidate.text)) ?? candidate;

const runOf = (track: Track, doubt: Doubt): readonly Word[] =>
  doubt.wordIds.map((id) => lookUp(track).findWord(id)).filter((word) => word !== undefined);

function saysTheSame(run: readonly Word[], doubt: Doubt): boolean {
  if (run.length !== doubt.wordIds.length || doubtKey(doubt.reason, run) !== doubt.key) return false;
  if (doubt.reason === 'unsure') return run[0]!.confidence !== null && run[0]!.shown;
  return doubt.reason === 'hole' || run.every((word) => word.shown);
}

function editsFor(track: Track, doubt: Doubt, candidate: Candidate): readonly ClientCommand[] {
  const run = runOf(track, doubt);
  if (candidate.text === '') return repairEdits(track, run, 'leaveOut');
  const end = doubt.reason === 'sentence_end' ? ENDS[candidate.text.at(-1)!] : undefined;
  if (end !== undefined) return repairEdits(track, run, end);
  return [{ type: 'replaceWords', wordIds: doubt.wordIds, text: candidate.text }];
}
