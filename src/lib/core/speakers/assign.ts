/** Voices to the words of a track. */
import { startParagraphs } from '../formats';
import type { Span } from '../time';
import type { Speaker, Word } from '../track';

export interface Turn extends Span {
  /** Numbered from 0 in the order in which they speak. */
  readonly voice: number;
}

/** Words in a row without a pause this long are one breath, and of one voice. */
const BREATH_MS = 250;

/** Each breath goes to the voice that speaks most of it; paragraphs begin where the voice changes. */
export function assignVoices(
  words: readonly Word[],
  turns: readonly Turn[],
  mint: () => string
): { readonly words: readonly Word[]; readonly speakers: readonly Speaker[] } {
  const count = Math.max(0, ...turns.map((turn) => turn.voice + 1));
  if (count < 2) return { words, speakers: [] };
  const speakers = Array.from({ length: count }, (_, at) => ({ id: mint(), name: `Speaker ${at + 1}` }));
  const out: Word[] = [];
  let from = 0;
  let turnAt = 0;
  for (let at = 1; at <= words.length; at++) {
    const isEnd =
      at === words.length ||
      words[at]!.startMs - words[at - 1]!.endMs >= BREATH_MS ||
      /[.?!]$/.test(words[at - 1]!.text);
    if (!isEnd) continue;
    const breath = words.slice(from, at);
    while (turnAt + 1 < turns.length && turns[turnAt]!.endMs <= breath[0]!.startMs) turnAt++;
    const spokenMs = new Array<number>(count).fill(0);
    for (let index = turnAt; index < turns.length && turns[index]!.startMs < breath.at(-1)!.endMs; index++) {
      const { startMs, endMs, voice } = turns[index]!;
      for (const word of breath)
        spokenMs[voice] = spokenMs[voice]! + Math.max(0, Math.min(endMs, word.endMs) - Math.max(startMs, word.startMs));
    }
    const voice = spokenMs.indexOf(Math.max(...spokenMs));
    for (const word of breath) out.push({ ...word, speakerId: word.kind === 'speech' ? speakers[voice]!.id : null });
    from = at;
  }
  return { words: startParagraphs(out), speakers };
}
