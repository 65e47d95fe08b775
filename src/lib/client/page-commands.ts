/** What is done to the words in hand: repairs, described sounds, who says them, where their paragraph begins. */
import { asCueId, type WordId } from '$lib/core/id';
import type { ClientCommand } from '$lib/core/commands';
import { formatClock, lastStartingBy, type Span, toSpan } from '$lib/core/time';
import { escapeMarkup, joinWords, lookUp, type Word } from '$lib/core/track';
import { repairEdits, type Repair } from '$lib/core/wording';
import type { TrackView } from './track-view.svelte';
import { phrases } from './phrases';

export const NO_ROOM_FOR_SOUND = phrases.pageCommands.noRoomForSound;

export class PageCommands {
  readonly #view: TrackView;

  constructor(view: TrackView) {
    this.#view = view;
  }

  /** What a repair is for: what is selected, else the word with the caret, the spoken one while it plays, the chosen ones. */
  wordsToRepair(): readonly Word[] {
    const selected = this.#view.selectedIds;
    const caret = this.#view.wordAtCaret();
    const spoken = this.#view.player.isPlaying && this.#view.player.loop === null ? this.#view.spokenWordId : null;
    const chosen = this.#view.chosenIds.length > 0 ? this.#view.chosenIds : [this.#view.spokenWordId];
    const ids = selected.length > 0 ? selected : caret !== null ? [caret] : spoken !== null ? [spoken] : chosen;
    return this.#view.runOf(ids.filter((id) => id !== null));
  }

  repair(repair: Repair): void {
    const run = this.wordsToRepair();
    if (run.length === 0) return this.#view.say(phrases.pageCommands.chooseToRepair);
    const edits = repairEdits(this.#view.track, run, repair);
    if (edits.length === 0) return this.#view.say(phrases.pageCommands.nothingToDo);
    if (repair === 'paragraph') {
      const said = run[0]!.startsParagraph
        ? phrases.pageCommands.paragraphJoined
        : phrases.pageCommands.paragraphBegins;
      this.#view.edit(edits, said);
      return;
    }
    const shown = (): readonly Word[] => this.#view.runOf(run.map((word) => word.id)).filter((word) => word.shown);
    this.#view.edit(edits, () =>
      shown().length > 0 ? phrases.pageCommands.now(joinWords(shown())) : phrases.pageCommands.leftOut
    );
  }

  /** Takes the words in hand out of the track; the word behind them is chosen. */
  removeWords(): void {
    const view = this.#view;
    const run = this.wordsToRepair();
    if (run.length === 0) return view.say(phrases.pageCommands.chooseToDelete);
    const next = view.track.words[lookUp(view.track).wordAt.get(run.at(-1)!.id)! + 1];
    const said = phrases.pageCommands.deleted(joinWords(run));
    if (view.edit(repairEdits(view.track, run, 'remove'), said)) view.chooseWords(next === undefined ? [] : [next.id]);
  }

  /** Says why where there is no room for it. */
  describeSound(description: string, sound: Span): void {
    const command = this.soundCommand(description, sound);
    if (command === 'no room') this.#view.say(NO_ROOM_FOR_SOUND);
    else if (command !== null)
      this.#view.edit(
        [command],
        phrases.pageCommands.soundDescribed(bracketed(description), formatClock(sound.startMs))
      );
  }

  /**
   * A described sound: a cue of its own where there is room, as long as the sound and long enough to be read, else behind
   * the word that is spoken there; `null` where nothing is described.
   */
  soundCommand(description: string, sound: Span): ClientCommand | 'no room' | null {
    const text = bracketed(description);
    if (text === '[]') return null;
    const { cues, rules } = this.#view.track;
    const running = this.#view.cueAt(sound.startMs);
    const startMs = running !== null && running.endMs < sound.endMs ? running.endMs + rules.minGapMs : sound.startMs;
    const nextMs = cues[lastStartingBy(cues, startMs) + 1]?.startMs ?? this.#view.recording.durationMs;
    const readableMs = Math.max(sound.endMs - startMs, rules.minDurationMs);
    const endMs = Math.min(startMs + Math.min(readableMs, rules.maxDurationMs), nextMs - rules.minGapMs);
    const { spokenOrder } = this.#view;
    const word = spokenOrder[Math.max(0, lastStartingBy(spokenOrder, startMs))];
    const hasRoom = this.#view.cueAt(startMs) === null && endMs - startMs >= rules.minDurationMs / 2;
    if (hasRoom) {
      const newCueId = asCueId(crypto.randomUUID());
      return { type: 'addCue', ...toSpan({ startMs, endMs }), newCueId, lines: [escapeMarkup(text)] };
    }
    return word === undefined ? 'no room' : { type: 'replaceWords', wordIds: [word.id], text: `${word.text} ${text}` };
  }

  /** The paragraph in hand goes to the speaker behind its own in the list. */
  giveToNextSpeaker(): void {
    const { speakers } = this.#view.track;
    const words = this.#wordsInHand();
    if (words.length === 0 || speakers.length === 0) return this.#view.say(phrases.pageCommands.chooseParagraph);
    const at = speakers.findIndex((speaker) => speaker.id === words[0]!.speakerId);
    this.giveTo(speakers[(at + 1) % speakers.length]!.id);
  }

  /** The paragraph in hand begins a word earlier or later; the word that changes sides changes its speaker with it. */
  moveBoundary(by: 1 | -1): void {
    const { words } = this.#view.track;
    const run = this.#paragraphInHand();
    const from = run[0] === undefined ? 0 : lookUp(this.#view.track).wordAt.get(run[0].id)!;
    const [first, moved] = [words[from], by < 0 ? words[from - 1] : words[from]];
    const next = words[from + by];
    const leavesNone = by > 0 ? run.length < 2 : moved?.startsParagraph === true;
    if (first === undefined || moved === undefined || next === undefined || from === 0 || leavesNone)
      return this.#view.say(phrases.pageCommands.nothingToMove);
    const speakerId = by < 0 ? first.speakerId : words[from - 1]!.speakerId;
    const isDone = this.#view.edit(
      [
        { type: 'setParagraph', wordId: first.id, starts: false },
        { type: 'setParagraph', wordId: next.id, starts: true },
        { type: 'setSpeaker', wordIds: [moved.id], speakerId }
      ],
      phrases.pageCommands.boundaryMoved(next.text)
    );
    if (!isDone) return;
    // The same paragraph stays in hand.
    this.#view.chooseWords([next.id]);
    this.#view.surface?.moveCaret?.(next.id);
  }

  /** These words, else what is selected, else the paragraph in hand, are said by this speaker; `null`: by somebody new. */
  giveTo(speakerId: string | null, words: readonly Word[] = this.#wordsInHand()): void {
    const { track } = this.#view;
    if (words.length === 0) return this.#view.say(phrases.pageCommands.chooseForSpeaker);
    const id = speakerId ?? crypto.randomUUID();
    const name = `Speaker ${track.speakers.length + 1}`;
    const next = track.words[lookUp(track).wordAt.get(words.at(-1)!.id)! + 1];
    this.#view.edit(
      [
        ...(speakerId === null ? [{ type: 'addSpeaker' as const, name, newSpeakerId: id }] : []),
        { type: 'setSpeaker', wordIds: words.map((word) => word.id), speakerId: id },
        { type: 'setParagraph', wordId: words[0]!.id, starts: true },
        ...(next === undefined ? [] : [{ type: 'setParagraph' as const, wordId: next.id, starts: true }])
      ],
      phrases.pageCommands.speakerSet(words.length, track.speakers.find((one) => one.id === id)?.name ?? name)
    );
  }

  /** What is selected, else the paragraph in hand. */
  #wordsInHand(): readonly Word[] {
    const selected = this.#view.runOf(this.#view.selectedIds);
    return selected.length > 0 ? selected : this.#paragraphInHand();
  }

  #paragraphInHand(): readonly Word[] {
    return this.paragraphOf(this.#view.wordAtCaret() ?? this.#view.wordId ?? this.#view.spokenWordId);
  }

  paragraphOf(id: WordId | null): readonly Word[] {
    const { words } = this.#view.track;
    const { wordAt } = lookUp(this.#view.track);
    const at = id === null ? undefined : wordAt.get(id);
    if (at === undefined) return [];
    const from = words.findLastIndex((word, place) => place <= at && word.startsParagraph);
    const to = words.findIndex((word, place) => place > at && word.startsParagraph);
    return words.slice(Math.max(0, from), to < 0 ? words.length : to);
  }
}

const bracketed = (description: string): string => `[${description.trim().replace(/^\[|\]$/g, '')}]`;
