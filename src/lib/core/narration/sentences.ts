/** Sentences as they are heard while somebody speaks, by their pauses; and the one that is said anew. */
import { z } from 'zod';
import { firstWhere } from '../bisect';
import { msSchema, type Span, toSpan } from '../time';

/** A word as it is heard while somebody speaks, in time of what is recorded. */
export const liveWordSchema = z.object({ text: z.string().max(200), startMs: msSchema, endMs: msSchema });
export type LiveWord = Readonly<z.infer<typeof liveWordSchema>>;

/** A pause of this length ends what is said in one go. */
export const LIVE_PAUSE_MS = 600;
/** Of the pause before a sentence, what goes with it at most. */
const LEAD_MS = 200;

/** By its middle: a word that a mark only touches stays. */
export const isLeftOut = ({ startMs, endMs }: Span, leftOut: readonly Span[]): boolean => {
  const middleMs = (startMs + endMs) / 2;
  return leftOut.some((span) => middleMs >= span.startMs && middleMs < span.endMs);
};

export interface LiveSentence<W> {
  readonly words: readonly W[];
  readonly isLeftOut: boolean;
}

/** Words in their order, parted at pauses, and where something begins or ceases to be left out. */
export function sentencesOf<W extends Span>(words: readonly W[], leftOut: readonly Span[]): LiveSentence<W>[] {
  const sentences: { words: W[]; isLeftOut: boolean }[] = [];
  for (const word of words) {
    const isOut = isLeftOut(word, leftOut);
    const last = sentences.at(-1);
    const before = last?.words.at(-1);
    const isParted =
      before === undefined ||
      last!.isLeftOut !== isOut ||
      word.startMs - before.endMs >= LIVE_PAUSE_MS ||
      leftOut.some(({ endMs }) => endMs > before.startMs && endMs <= word.startMs);
    if (isParted) sentences.push({ words: [word], isLeftOut: isOut });
    else last!.words.push(word);
  }
  return sentences;
}

/**
 * What is left out where the last sentence that stands is said anew from `nowMs` on: all that came since it began. `null`
 * where none stands.
 */
export function againFrom(words: readonly Span[], leftOut: readonly Span[], nowMs: number): Span | null {
  const said = words.slice(
    0,
    firstWhere(words.length, (at) => words[at]!.startMs >= nowMs)
  );
  const sentences = sentencesOf(said, leftOut);
  const at = sentences.findLastIndex((sentence) => !sentence.isLeftOut);
  if (at < 0) return null;
  const { startMs } = sentences[at]!.words[0]!;
  const beforeMs = sentences[at - 1]?.words.at(-1)?.endMs ?? 0;
  return toSpan({ startMs: Math.max(startMs - LEAD_MS, Math.min(startMs, (beforeMs + startMs) / 2)), endMs: nowMs });
}

/** Where a recogniser may end an utterance: `null` while somebody speaks, or has not begun. */
export function utteranceEnd(words: readonly Span[], heardMs: number): number | null {
  const last = words.at(-1);
  return last !== undefined && heardMs - last.endMs >= LIVE_PAUSE_MS ? last.endMs : null;
}
