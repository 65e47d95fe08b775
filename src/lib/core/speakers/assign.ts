/** Voices to the words of a track. */
import { startParagraphs } from '../formats';
import { overlapMs, type Span } from '../time';
import { makeSpeaker, type Speaker, type Word } from '../track';

export interface Turn extends Span {
  /** Numbered from 0 in the order in which they speak. */
  readonly voice: number;
}

/** Words in a row without a pause this long are one breath, and of one voice. */
const BREATH_MS = 250;

/** The voice of each word: that which speaks most of its breath. `endsBreath`: whether one ends after the word at an index. */
function voicesOfWords(
  words: readonly Span[],
  turns: readonly Turn[],
  endsBreath: (at: number) => boolean
): readonly number[] {
  const count = Math.max(1, ...turns.map((turn) => turn.voice + 1));
  const voices: number[] = [];
  let turnAt = 0;
  for (let from = 0; from < words.length;) {
    let to = from + 1;
    while (to < words.length && words[to]!.startMs - words[to - 1]!.endMs < BREATH_MS && !endsBreath(to - 1)) to++;
    const breath = words.slice(from, to);
    while (turnAt + 1 < turns.length && turns[turnAt]!.endMs <= breath[0]!.startMs) turnAt++;
    const spokenMs = new Array<number>(count).fill(0);
    for (let at = turnAt; at < turns.length && turns[at]!.startMs < breath.at(-1)!.endMs; at++)
      for (const word of breath) spokenMs[turns[at]!.voice]! += overlapMs(turns[at]!, word);
    voices.push(...breath.map(() => spokenMs.indexOf(Math.max(...spokenMs))));
    from = to;
  }
  return voices;
}

/** After which words another voice speaks on. */
export function voiceChanges(words: readonly Span[], turns: readonly Turn[]): readonly boolean[] {
  const voices = voicesOfWords(words, turns, () => false);
  return voices.map((voice, at) => at + 1 < voices.length && voices[at + 1] !== voice);
}

/** A speaker for each voice that was told; none where all is one voice. */
export function speakersOf(turns: readonly Turn[], mint: () => string): readonly Speaker[] {
  const count = Math.max(0, ...turns.map((turn) => turn.voice + 1));
  return count < 2 ? [] : Array.from({ length: count }, (_, at) => makeSpeaker(mint(), `Speaker ${at + 1}`));
}

/** Each breath goes to the voice that speaks most of it; paragraphs begin where the voice changes. `speakers` as of `speakersOf`. */
export function assignVoices(
  words: readonly Word[],
  turns: readonly Turn[],
  speakers: readonly Speaker[]
): readonly Word[] {
  if (speakers.length === 0) return words;
  const voices = voicesOfWords(words, turns, (at) => /[.?!]$/.test(words[at]!.text));
  const told = words.map((word, at) => ({
    ...word,
    speakerId: word.kind === 'speech' ? speakers[voices[at]!]!.id : null
  }));
  return startParagraphs(told);
}
