/** The text of a trim: its words in playing order, what is taken out in its place, with signs for what is no word. */
import { firstWhere } from '$lib/core/bisect';
import type { Hesitation } from '$lib/core/trims';
import { mapOf, type Piece, type Trim } from '$lib/core/trims';
import type { Track, Word } from '$lib/core/track';

interface Timed {
  readonly key: string;
  readonly pieceId: string;
  /** Recorded time. */
  readonly fromMs: number;
  readonly toMs: number;
  readonly state: 'heard' | 'silent' | 'out' | 'gap';
}
export interface WordToken extends Timed {
  readonly kind: 'word';
  readonly word: Word;
  readonly isHesitation: boolean;
}
/** Where nothing is said for a while. */
export interface PauseToken extends Timed {
  readonly kind: 'pause';
}
export interface PutInToken {
  readonly kind: 'put in';
  readonly key: string;
  readonly pieceId: string;
  readonly lengthMs: number;
}
export interface JoinToken {
  readonly kind: 'join';
  readonly key: string;
  /** Of the piece that begins there. */
  readonly pieceId: string;
  /** Trimmed time. */
  readonly atMs: number;
}
export type Token = WordToken | PauseToken | PutInToken | JoinToken;
/** What can be chosen: it has recorded time. */
export type ChosenToken = WordToken | PauseToken;
export const isChosen = (token: Token | undefined): token is ChosenToken =>
  token?.kind === 'word' || token?.kind === 'pause';

export interface Paragraph {
  readonly key: string;
  readonly speaker: string | null;
  /** Recorded time of its first token; `null` for one that was not recorded. */
  readonly startMs: number | null;
  readonly tokens: readonly Token[];
  /** What it shows, in a text: where that is the same it is drawn as it was. */
  readonly signature: string;
}

/** Shorter ones are between all words. */
export const LEAST_PAUSE_MS = 350;
/** A paragraph is parted where it has so many. */
const MOST_TOKENS = 160;

/** Words by the middle of their time, in order of it. */
export interface WordsByMiddle {
  readonly words: readonly Word[];
  readonly middles: Float64Array;
}
export function byMiddle(track: Pick<Track, 'words'>): WordsByMiddle {
  const words = track.words
    .filter(({ kind }) => kind !== 'hole')
    .map((word) => ({ word, middle: (word.startMs + word.endMs) / 2 }))
    .sort((a, b) => a.middle - b.middle);
  return { words: words.map(({ word }) => word), middles: Float64Array.from(words, ({ middle }) => middle) };
}

export const firstFrom = (middles: Float64Array, ms: number): number =>
  firstWhere(middles.length, (at) => middles[at]! >= ms);

const stateOf = (piece: Piece & { readonly kind: 'stretch' }): Timed['state'] =>
  piece.out === 'closed' ? 'out' : piece.out === 'gap' ? 'gap' : piece.silent ? 'silent' : 'heard';

/** The whole text. `before`: as it was drawn last; paragraphs that show the same are those very objects. */
export function textOf(
  trim: Trim,
  words: WordsByMiddle,
  {
    speakers,
    hesitations,
    before
  }: {
    readonly speakers: ReadonlyMap<string, string>;
    readonly hesitations: readonly Hesitation[];
    readonly before: readonly Paragraph[];
  }
): readonly Paragraph[] {
  const hesitating = new Set(hesitations.flatMap(({ wordIds }) => wordIds));
  const known = new Map(before.map((paragraph) => [paragraph.signature, paragraph]));
  const paragraphs: Paragraph[] = [];
  const counts = new Map<string, number>();
  let tokens: Token[] = [];
  let marks: string[] = [];
  let speakerId: string | null = null;
  let startMs: number | null = null;
  const close = (): void => {
    if (tokens.length === 0) return;
    const speaker = speakerId === null ? null : (speakers.get(speakerId) ?? null);
    const signature = `${speaker} ${startMs} ${marks.join('|')}`;
    paragraphs.push(known.get(signature) ?? { key: tokens[0]!.key, speaker, startMs, tokens, signature });
    [tokens, marks, startMs] = [[], [], null];
  };
  const add = (token: Token, mark: string): void => {
    if (tokens.length === 0 && isChosen(token)) startMs = token.fromMs;
    tokens.push(token);
    marks.push(mark);
  };
  const joinsAt = new Map(
    mapOf(trim)
      .laid.slice(1)
      .map((laid) => [laid.piece.id, laid.startMs])
  );
  let recordedMs: number | null = null;
  for (const piece of trim.pieces) {
    const joinMs = joinsAt.get(piece.id);
    if (joinMs !== undefined)
      add({ kind: 'join', key: `j ${piece.id}`, pieceId: piece.id, atMs: joinMs }, `j ${piece.id}`);
    if (piece.kind === 'pause') {
      add(
        { kind: 'put in', key: piece.id, pieceId: piece.id, lengthMs: piece.lengthMs },
        `${piece.id} ${piece.lengthMs}`
      );
      continue;
    }
    // What is moved stands apart.
    if (recordedMs !== null && recordedMs !== piece.fromMs && tokens.some(isChosen)) {
      const join = tokens.at(-1)?.kind === 'join' ? tokens.pop() : undefined;
      if (join !== undefined) marks.pop();
      close();
      if (join !== undefined) add(join, join.key);
    }
    recordedMs = piece.toMs;
    const state = stateOf(piece);
    let doneMs: number = piece.fromMs;
    const pause = (toMs: number): void => {
      if (toMs - doneMs < LEAST_PAUSE_MS) return;
      const key = `p ${piece.id} ${doneMs}`;
      add({ kind: 'pause', key, pieceId: piece.id, fromMs: doneMs, toMs, state }, `${key} ${toMs} ${state}`);
    };
    for (let at = firstFrom(words.middles, piece.fromMs); at < words.words.length; at++) {
      if (words.middles[at]! >= piece.toMs) break;
      const word = words.words[at]!;
      pause(Math.max(doneMs, word.startMs));
      const isNew = word.startsParagraph || (word.speakerId !== speakerId && word.kind === 'speech');
      const hasWords = tokens.some(({ kind }) => kind === 'word');
      if (hasWords && (isNew || tokens.length >= MOST_TOKENS)) close();
      if (!tokens.some(({ kind }) => kind === 'word')) speakerId = word.speakerId;
      const count = counts.get(word.id) ?? 0;
      counts.set(word.id, count + 1);
      const key = count === 0 ? word.id : `${word.id} ${count}`;
      const isHesitation = hesitating.has(word.id);
      add(
        {
          ...{ kind: 'word', key, pieceId: piece.id, state, word, isHesitation },
          fromMs: Math.max(piece.fromMs, word.startMs),
          toMs: Math.min(piece.toMs, Math.max(word.endMs, word.startMs + 1))
        },
        `${key} ${word.text} ${state} ${piece.id} ${isHesitation ? 'h' : ''}`
      );
      doneMs = Math.max(doneMs, Math.min(piece.toMs, word.endMs));
    }
    pause(piece.toMs);
  }
  close();
  return paragraphs;
}
