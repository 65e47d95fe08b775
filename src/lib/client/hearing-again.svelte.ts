/** A passage that is heard again: which one, and what is taken of it. */
import { type CueId, asCueId } from '$lib/core/id';
import { textTokens, type ClientCommand } from '$lib/core/commands';
import { lastStartingBy, type Span, spanOf, toSpan } from '$lib/core/time';
import type { Word } from '$lib/core/track';
import { writeInPlace } from '$lib/core/wording';
import { languageName } from '$lib/core/track';
import type { Reading } from './api';
import type { TrackView } from './track-view.svelte';
import { phrases } from './phrases';

/** What the server hears as one stretch. */
const LONGEST_PASSAGE_MS = 30_000;

/** A stretch that is heard again, and what its new text takes the place of. */
export interface Passage extends Span {
  /** Words that follow one another; none where the passage is still without text. */
  readonly words: readonly Word[];
  /** The cue without text that it is; `null` where it has words, or lies where no cue is. */
  readonly cueId: CueId | null;
}

export class HearingAgain {
  readonly #view: TrackView;
  /** The passage that is being heard again. */
  passage: Passage | null = $state.raw(null);

  constructor(view: TrackView) {
    this.#view = view;
  }

  /** Hears again what is selected, else the chosen word, else the chosen cue, else the empty stretch at the playhead. */
  ask(): void {
    const { language } = this.#view.track;
    if (!this.#view.on.canHear(language))
      return this.#view.say(phrases.hearingAgain.notHeardHere(languageName(language)));
    const passage = this.#here();
    if (passage === null) this.#view.say(phrases.hearingAgain.choose);
    else if (passage.endMs - passage.startMs > LONGEST_PASSAGE_MS)
      this.#view.say(phrases.hearingAgain.tooLong(LONGEST_PASSAGE_MS / 1000));
    else this.open(passage);
  }

  open(passage: Passage): void {
    this.passage = passage;
    this.#view.player.setLoop(null);
  }

  #here(): Passage | null {
    const { track, cue } = this.#view;
    const { nowMs } = this.#view.player;
    const selected = this.#view.selectedIds;
    const ids =
      selected.length > 0 ? selected : this.#view.wordId !== null ? [this.#view.wordId] : (cue?.wordIds ?? []);
    const words = this.#view.runOf(ids);
    if (words.length > 0) return { words, cueId: null, ...spanOf(words) };
    if (cue !== null) return { words: [], cueId: cue.id, startMs: cue.startMs, endMs: cue.endMs };
    const before = lastStartingBy(track.cues, nowMs);
    const freeFromMs = track.cues[before]?.endMs ?? 0;
    const freeToMs = track.cues[before + 1]?.startMs ?? this.#view.recording.durationMs;
    const startMs = Math.max(freeFromMs, nowMs - 1000);
    const endMs = Math.min(freeToMs, nowMs + 4000);
    return endMs - startMs < 300 ? null : { words: [], cueId: null, ...toSpan({ startMs, endMs }) };
  }

  /** Puts a reading in the passage's place, as one change. */
  take(passage: Passage, reading: Pick<Reading, 'text'> & Partial<Pick<Reading, 'words'>>): void {
    const { words, cueId, startMs, endMs } = passage;
    const text = writeInPlace(
      reading.text,
      words.map((word) => word.text)
    );
    const heard = reading.words ?? [];
    const isWordForWord = textTokens(text, this.#view.track.language).length === heard.length;
    const known = isWordForWord && {
      times: heard.map((word) => ({ startMs: word.startMs, endMs: word.endMs }))
    };
    const command: ClientCommand =
      words.length > 0
        ? { type: 'replaceWords', wordIds: words.map((word) => word.id), text, ...known }
        : cueId !== null
          ? { type: 'setCueText', cueId, lines: [text], ...known }
          : { type: 'addCue', startMs, endMs, lines: [text], ...known, newCueId: asCueId(crypto.randomUUID()) };
    if (!this.#view.edit([command], phrases.pageCommands.now(text)))
      this.#view.say(phrases.hearingAgain.changedMeanwhile);
    this.close();
  }

  close(): void {
    this.passage = null;
    this.#view.player.setLoop(null);
    this.#view.surface?.focus();
  }
}
