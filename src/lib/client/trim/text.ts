/** The text of a trim: its words in playing order, what is taken out in its place, with signs for what is no word. */
import { firstWhere } from '$lib/core/bisect';
import { mapOf, type Stretch, type Trim } from '$lib/core/trims';
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

const stateOf = (piece: Stretch): Timed['state'] =>
  piece.out === 'closed' ? 'out' : piece.out === 'gap' ? 'gap' : piece.silent ? 'silent' : 'heard';

/** What of a stretch is shown. */
function tokensOf(piece: Stretch, words: WordsByMiddle): readonly ChosenToken[] {
  const state = stateOf(piece);
  const tokens: ChosenToken[] = [];
  let doneMs: number = piece.fromMs;
  const pause = (toMs: number): void => {
    if (toMs - doneMs < LEAST_PAUSE_MS) return;
    const key = `p ${piece.id} ${doneMs}`;
    tokens.push({ kind: 'pause', key, pieceId: piece.id, state, fromMs: doneMs, toMs });
  };
  for (let at = firstFrom(words.middles, piece.fromMs); at < words.words.length; at++) {
    if (words.middles[at]! >= piece.toMs) break;
    const word = words.words[at]!;
    pause(Math.max(doneMs, word.startMs));
    tokens.push({
      ...{ kind: 'word', key: word.id, pieceId: piece.id, state, word },
      fromMs: Math.max(piece.fromMs, word.startMs),
      toMs: Math.min(piece.toMs, Math.max(word.endMs, word.startMs + 1))
    });
    doneMs = Math.max(doneMs, Math.min(piece.toMs, word.endMs));
  }
  pause(piece.toMs);
  return tokens;
}

const known = new WeakMap<WordsByMiddle, WeakMap<Stretch, readonly ChosenToken[]>>();

/** Made once for a stretch: an edit leaves nearly all of them as they are. */
function keptTokensOf(piece: Stretch, words: WordsByMiddle): readonly ChosenToken[] {
  const byPiece = known.get(words) ?? new WeakMap<Stretch, readonly ChosenToken[]>();
  known.set(words, byPiece);
  const tokens = byPiece.get(piece) ?? tokensOf(piece, words);
  byPiece.set(piece, tokens);
  return tokens;
}

/** Words that play again get keys of their own. */
function keysOnce(trim: Trim): (token: ChosenToken) => ChosenToken {
  const stretchedMs = trim.pieces.reduce((sum, one) => sum + (one.kind === 'stretch' ? one.toMs - one.fromMs : 0), 0);
  if (stretchedMs === trim.recordedMs) return (token) => token;
  const counts = new Map<string, number>();
  return (token) => {
    const count = counts.get(token.key) ?? 0;
    counts.set(token.key, count + 1);
    return count === 0 ? token : { ...token, key: `${token.key} ${count}` };
  };
}

const isSameToken = (a: Token, b: Token): boolean =>
  a === b ||
  (a.key === b.key &&
    a.kind === b.kind &&
    a.pieceId === b.pieceId &&
    (a.kind !== 'put in' || a.lengthMs === (b as PutInToken).lengthMs) &&
    (!isChosen(a) || isSameTime(a, b as ChosenToken)));
const isSameTime = (a: ChosenToken, b: ChosenToken): boolean =>
  a.state === b.state &&
  a.fromMs === b.fromMs &&
  a.toMs === b.toMs &&
  (a.kind !== 'word' || a.word === (b as WordToken).word);

/** The whole text. `before`: as it was drawn last; paragraphs that show the same are those very objects. */
export function textOf(
  trim: Trim,
  words: WordsByMiddle,
  { speakers, before }: { readonly speakers: ReadonlyMap<string, string>; readonly before: readonly Paragraph[] }
): readonly Paragraph[] {
  const drawn = new Map(before.map((paragraph) => [paragraph.key, paragraph]));
  const keyed = keysOnce(trim);
  const paragraphs: Paragraph[] = [];
  let tokens: Token[] = [];
  let [hasWords, hasChosen] = [false, false];
  let speakerId: string | null = null;
  const close = (): void => {
    const [first] = tokens;
    if (first === undefined) return;
    const speaker = speakerId === null ? null : (speakers.get(speakerId) ?? null);
    const old = drawn.get(first.key);
    const isSame =
      old?.speaker === speaker &&
      old.tokens.length === tokens.length &&
      old.tokens.every((token, at) => isSameToken(token, tokens[at]!));
    const startMs = tokens.find(isChosen)?.fromMs ?? null;
    paragraphs.push(isSame ? old : { key: first.key, speaker, startMs, tokens });
    tokens = [];
    [hasWords, hasChosen] = [false, false];
  };
  const begun = new Set(
    mapOf(trim)
      .laid.slice(1)
      .map(({ piece }) => piece.id)
  );
  let recordedMs: number | null = null;
  for (const piece of trim.pieces) {
    // What is moved stands apart.
    if (piece.kind === 'stretch' && recordedMs !== null && recordedMs !== piece.fromMs && hasChosen) close();
    if (begun.has(piece.id)) tokens.push({ kind: 'join', key: `j ${piece.id}`, pieceId: piece.id });
    if (piece.kind === 'pause') {
      tokens.push({ kind: 'put in', key: piece.id, pieceId: piece.id, lengthMs: piece.lengthMs });
      continue;
    }
    recordedMs = piece.toMs;
    for (const token of keptTokensOf(piece, words)) {
      if (token.kind === 'word') {
        const { word } = token;
        const isNew = word.startsParagraph || (word.speakerId !== speakerId && word.kind === 'speech');
        if (hasWords && (isNew || tokens.length >= MOST_TOKENS)) close();
        if (!hasWords) speakerId = word.speakerId;
        hasWords = true;
      }
      hasChosen = true;
      tokens.push(keyed(token));
    }
  }
  close();
  return paragraphs;
}
