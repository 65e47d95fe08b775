/** The text of a trim: its words in playing order, what is taken out in its place, with signs for what is no word. */
import { firstWhere } from '$lib/core/bisect';
import { mapOf, type Pause, type Piece, type Stretch, type Trim } from '$lib/core/trims';
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
  readonly speakerId: string | null;
  readonly speaker: string | null;
  /** Recorded time of its first token; `null` for one that was not recorded. */
  readonly startMs: number | null;
  readonly tokens: readonly Token[];
  /** How many letters it has, about. */
  readonly letters: number;
  readonly source: Source;
}

/** What a paragraph was made of: where that is there again, so is the paragraph. */
interface Source {
  readonly pieces: readonly Piece[];
  /** Among the tokens of its first piece, and behind the last one among those of its last piece. */
  readonly from: number;
  readonly to: number;
  /** The piece behind its last one. */
  readonly next: Piece | undefined;
}

/** The whole text, with what it was made of. */
export interface TrimText {
  readonly paragraphs: readonly Paragraph[];
  readonly words: WordsByMiddle;
  readonly speakers: ReadonlyMap<string, string>;
  /** The piece that plays first: no join is at its beginning. */
  readonly firstId: string | undefined;
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
export function keptTokensOf(piece: Stretch, words: WordsByMiddle): readonly ChosenToken[] {
  const byPiece = known.get(words) ?? new WeakMap<Stretch, readonly ChosenToken[]>();
  known.set(words, byPiece);
  const tokens = byPiece.get(piece) ?? tokensOf(piece, words);
  byPiece.set(piece, tokens);
  return tokens;
}

/** Of a word that plays again. */
export const keyAgain = ({ key, pieceId }: ChosenToken): string => `${key} ${pieceId}`;

const playsAnyAgain = ({ pieces, recordedMs }: Trim): boolean =>
  pieces.reduce((sum, one) => sum + (one.kind === 'stretch' ? one.toMs - one.fromMs : 0), 0) !== recordedMs;

/** What plays again gets keys of its own. */
function keysOnce(): (token: ChosenToken) => ChosenToken {
  const used = new Set<string>();
  return (token) => {
    if (used.has(token.key)) return { ...token, key: keyAgain(token) };
    used.add(token.key);
    return token;
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

/** Signs are as wide as a short word. */
const lettersOf = (tokens: readonly Token[]): number =>
  tokens.reduce((sum, token) => sum + (token.kind === 'word' ? token.word.text.length + 1 : 6), 0);

/**
 * `before`: the text as it was; its paragraphs that show the same are those very objects, and what they were made of is
 * passed over where it is there again.
 */
export function textOf(
  trim: Trim,
  words: WordsByMiddle,
  { speakers, before }: { readonly speakers: ReadonlyMap<string, string>; readonly before: TrimText | null }
): TrimText {
  const { pieces } = trim;
  const { laid } = mapOf(trim);
  const firstId = laid[0]?.piece.id;
  const begun = new Set(laid.slice(1).map(({ piece }) => piece.id));
  const old = new Map(before?.paragraphs.map((paragraph) => [paragraph.key, paragraph]));
  const isRepeating = playsAnyAgain(trim);
  const canPassOver =
    before?.words === words && before.speakers === speakers && before.firstId === firstId && !isRepeating;
  const keyed = isRepeating ? keysOnce() : (token: ChosenToken) => token;
  const paragraphs: Paragraph[] = [];
  let tokens: Token[] = [];
  let [hasWords, hasChosen] = [false, false];
  let speakerId: string | null = null;
  let recordedMs: number | null = null;
  /** Where the paragraph in hand begins. */
  let start = { at: 0, from: 0 };
  const begin = (at: number, from: number): void => {
    tokens = [];
    [hasWords, hasChosen] = [false, false];
    start = { at, from };
  };
  /** Before a token of a piece; nothing where the paragraph is empty. */
  const close = (at: number, to: number): void => {
    const [first] = tokens;
    if (first !== undefined) {
      // Of a piece of which it has no token, it has nothing.
      const last = to > 0 ? at : at - 1;
      const speaker = speakerId === null ? null : (speakers.get(speakerId) ?? null);
      const known = old.get(first.key);
      const isSame =
        known?.speaker === speaker &&
        known.tokens.length === tokens.length &&
        known.tokens.every((token, place) => isSameToken(token, tokens[place]!));
      const shown = isSame
        ? known
        : {
            ...{ key: first.key, speaker, speakerId, tokens, letters: lettersOf(tokens) },
            startMs: tokens.find(isChosen)?.fromMs ?? null
          };
      const source = {
        pieces: pieces.slice(start.at, last + 1),
        ...{ from: start.from, to: to > 0 ? to : shownOf(pieces[last], words).length, next: pieces[last + 1] }
      };
      paragraphs.push(isSame && isSameSource(known.source, source) ? known : { ...shown, source });
    }
    begin(at, to);
  };
  /** Whether a paragraph begins with it. */
  const isParted = (token: ChosenToken | PutInToken | undefined): boolean => {
    if (token?.kind !== 'word' || !hasWords) return false;
    const { startsParagraph, kind, speakerId: said } = token.word;
    return startsParagraph || (said !== speakerId && kind === 'speech') || tokens.length >= MOST_TOKENS;
  };
  /** The paragraph that is there again, where the one in hand is to begin. */
  const again = (at: number, from: number): Paragraph | null => {
    const piece = pieces[at];
    if (!canPassOver || piece === undefined) return null;
    const key = from === 0 && begun.has(piece.id) ? joinKey(piece) : (shownOf(piece, words)[from]?.key ?? '');
    const known = old.get(key);
    if (known === undefined || known.source.from !== from) return null;
    const { source } = known;
    const isThere =
      source.pieces.every((one, away) => one === pieces[at + away]) &&
      source.next === pieces[at + source.pieces.length];
    return isThere ? known : null;
  };
  for (let at = 0, from = 0; at < pieces.length;) {
    const known: Paragraph | null = tokens.length === 0 ? again(at, from) : null;
    if (known !== null) {
      paragraphs.push(known);
      const { source } = known;
      at += source.pieces.length - 1;
      from = source.to;
      speakerId = known.speakerId;
      recordedMs = source.pieces.findLast((one) => one.kind === 'stretch')?.toMs ?? recordedMs;
      if (from >= shownOf(pieces[at], words).length) [at, from] = [at + 1, 0];
      begin(at, from);
      continue;
    }
    const piece = pieces[at]!;
    const shown = shownOf(piece, words);
    if (from === 0) {
      // What is moved stands apart.
      const isMoved = piece.kind === 'stretch' && recordedMs !== null && recordedMs !== piece.fromMs && hasChosen;
      if (isMoved || isParted(shown[0])) {
        close(at, 0);
        continue;
      }
      if (begun.has(piece.id)) tokens.push({ kind: 'join', key: joinKey(piece), pieceId: piece.id });
      if (piece.kind === 'stretch') recordedMs = piece.toMs;
    }
    for (; from < shown.length; from++) {
      const token = shown[from]!;
      if (isParted(token)) break;
      if (token.kind === 'word' && !hasWords) [speakerId, hasWords] = [token.word.speakerId, true];
      hasChosen ||= token.kind !== 'put in';
      tokens.push(token.kind === 'put in' ? token : keyed(token));
    }
    if (from < shown.length) close(at, from);
    else [at, from] = [at + 1, 0];
  }
  close(pieces.length, 0);
  return { paragraphs, words, speakers, firstId };
}

const joinKey = ({ id }: Piece): string => `j ${id}`;

/** What is shown of a piece, but for the join at its beginning. */
const shownOf = (piece: Piece | undefined, words: WordsByMiddle): readonly (ChosenToken | PutInToken)[] =>
  piece === undefined ? [] : piece.kind === 'stretch' ? keptTokensOf(piece, words) : [putIn(piece)];

const putIn = ({ id, lengthMs }: Pause): PutInToken => ({ kind: 'put in', key: id, pieceId: id, lengthMs });

const isSameSource = (a: Source, b: Source): boolean =>
  a.from === b.from &&
  a.to === b.to &&
  a.next === b.next &&
  a.pieces.length === b.pieces.length &&
  a.pieces.every((piece, at) => piece === b.pieces[at]);

/** Where a token stands in the text. */
export interface Place {
  readonly paragraph: number;
  /** In its paragraph. */
  readonly at: number;
}

const placesIn = new WeakMap<Paragraph, ReadonlyMap<string, number>>();

/** Made once for a paragraph, most of which no edit changes. */
function keptPlacesIn(paragraph: Paragraph): ReadonlyMap<string, number> {
  const places = placesIn.get(paragraph) ?? new Map(paragraph.tokens.map(({ key }, at) => [key, at]));
  placesIn.set(paragraph, places);
  return places;
}

/** Paragraphs are looked through from `near` on, to both sides; `null`: there is no such token. */
export function findPlace(text: readonly Paragraph[], key: string, near: number): Place | null {
  for (let away = 0; away <= Math.max(near, text.length - near); away++) {
    for (const paragraph of away === 0 ? [near] : [near - away, near + away]) {
      const one = text[paragraph];
      const at = one === undefined ? undefined : keptPlacesIn(one).get(key);
      if (at !== undefined) return { paragraph, at };
    }
  }
  return null;
}

export const comparePlaces = (a: Place, b: Place): number => a.paragraph - b.paragraph || a.at - b.at;

/** From one place to another, both with it. */
export const tokensBetween = (text: readonly Paragraph[], from: Place, to: Place): Token[] =>
  text
    .slice(from.paragraph, to.paragraph + 1)
    .flatMap(({ tokens }, away) =>
      tokens.slice(away === 0 ? from.at : 0, from.paragraph + away === to.paragraph ? to.at + 1 : undefined)
    );

/** The nearest one that can be chosen, behind a place or ahead of it. */
export function nextChosen(text: readonly Paragraph[], { paragraph, at }: Place, by: 1 | -1): ChosenToken | null {
  for (let here = paragraph, next = at + by; here >= 0 && here < text.length; here += by) {
    const { tokens } = text[here]!;
    if (here !== paragraph) next = by > 0 ? 0 : tokens.length - 1;
    for (; next >= 0 && next < tokens.length; next += by) {
      const token = tokens[next];
      if (isChosen(token)) return token;
    }
  }
  return null;
}
