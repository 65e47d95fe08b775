/**
 * Sentences over cues: a machine translates whole sentences, wherever cues part them, and what comes back is laid on the
 * same cues (`laying.ts`).
 */
import { endsWith } from '../cueing';
import { joinWords, shownWords, type Track, type Word } from '../track';
import type { Row } from './rows';

/** What one row has of a sentence. */
export interface SentencePiece {
  /** Its place among the rows. */
  readonly row: number;
  readonly text: string;
}

/** One sentence of one voice, or a described sound alone; it holds at least one piece, none of them empty. */
export interface Sentence {
  readonly text: string;
  readonly kind: 'speech' | 'sound';
  readonly pieces: readonly SentencePiece[];
}

/** Words without marks are no sentence for ever: behind so many one ends at a clause, and at twice as many anywhere. */
const MOST_WORDS = 60;
/** A silence as long as this ends what was said before it. */
const SILENCE_MS = 2000;

/** The sentences of the source, in the order of its rows. */
export function sentencesOf(source: Track, rows: readonly Row[]): readonly Sentence[] {
  const sentences: Sentence[] = [];
  let open: { readonly word: Word; readonly row: number }[] = [];
  const close = (): void => {
    const first = open[0];
    if (first === undefined) return;
    const pieces: { row: number; words: Word[] }[] = [];
    for (const { word, row } of open) {
      const last = pieces.at(-1);
      if (last?.row === row) last.words.push(word);
      else pieces.push({ row, words: [word] });
    }
    sentences.push({
      text: joinWords(open.map(({ word }) => word)),
      kind: first.word.kind === 'sound' ? 'sound' : 'speech',
      pieces: pieces.map(({ row, words }) => ({ row, text: joinWords(words) }))
    });
    open = [];
  };
  rows.forEach(({ sourceCues }, row) => {
    for (const word of sourceCues.flatMap((cue) => shownWords(source, cue))) {
      const before = open.at(-1)?.word;
      if (before !== undefined && isParted(before, word)) close();
      open.push({ word, row });
      const ends = endsWith(word.text);
      const isLong = open.length >= MOST_WORDS && (ends === 'clause' || open.length >= 2 * MOST_WORDS);
      if (word.kind === 'sound' || ends === 'sentence' || isLong) close();
    }
  });
  close();
  return sentences;
}

const isParted = (before: Word, word: Word): boolean =>
  word.kind === 'sound' || word.speakerId !== before.speakerId || word.startMs - before.endMs >= SILENCE_MS;
