/** Lists of pieces: parted at times, and joined where nothing parts them. */
import { firstWhere } from '../bisect';
import { wholeMs, type Ms } from '../time';
import { isOne, playedMs, type Piece, type Stretch } from './trim';

/** Recorded time, of every piece that has it, or of one. */
export interface PieceSpan {
  readonly fromMs: Ms;
  readonly toMs: Ms;
  readonly pieceId?: string | undefined;
}

/** Ids for parts, of one that the caller has minted. */
export type PartIds = () => string;
export function partIds(newId: string): PartIds {
  let count = 0;
  return () => `${newId}.${count++}`;
}

/** Changes what lies in the spans; pieces are parted at their ends, and the first part keeps the piece's id. */
export function changeWithin(
  pieces: readonly Piece[],
  spans: readonly PieceSpan[],
  ids: PartIds,
  change: (stretch: Stretch) => Stretch
): Piece[] {
  const everywhere = joinedSpans(spans.filter(({ pieceId }) => pieceId === undefined));
  const within = new Map<string, PieceSpan[]>();
  for (const span of spans)
    if (span.pieceId !== undefined) within.set(span.pieceId, [...(within.get(span.pieceId) ?? []), span]);
  return pieces.flatMap((piece): readonly Piece[] => {
    if (piece.kind === 'pause') return [piece];
    const own = within.get(piece.id);
    const all = own === undefined ? everywhere : joinedSpans([...everywhere, ...own]);
    const parts: Stretch[] = [];
    const add = (fromMs: number, toMs: number, isIn: boolean): void => {
      if (toMs <= fromMs) return;
      const part =
        parts.length === 0
          ? { ...piece, toMs: wholeMs(toMs) }
          : { ...piece, id: ids(), fromMs: wholeMs(fromMs), toMs: wholeMs(toMs), fadeMs: null };
      parts.push(isIn ? change(part) : part);
    };
    let doneMs: number = piece.fromMs;
    for (let at = firstEndingAfter(all, piece.fromMs); at < all.length && all[at]!.fromMs < piece.toMs; at++) {
      const fromMs = Math.max(doneMs, all[at]!.fromMs);
      const toMs = Math.min(piece.toMs, all[at]!.toMs);
      add(doneMs, fromMs, false);
      add(fromMs, toMs, true);
      doneMs = toMs;
    }
    if (doneMs === piece.fromMs) return [piece];
    add(doneMs, piece.toMs, false);
    return parts;
  });
}

/** In order, none touching another. */
function joinedSpans(spans: readonly PieceSpan[]): PieceSpan[] {
  const joined: { fromMs: Ms; toMs: Ms }[] = [];
  for (const { fromMs, toMs } of [...spans].sort((a, b) => a.fromMs - b.fromMs)) {
    const last = joined.at(-1);
    if (last !== undefined && fromMs <= last.toMs) last.toMs = toMs > last.toMs ? toMs : last.toMs;
    else joined.push({ fromMs, toMs });
  }
  return joined;
}

const firstEndingAfter = (spans: readonly PieceSpan[], ms: number): number =>
  firstWhere(spans.length, (at) => spans[at]!.toMs > ms);

/** The pieces parted at a trimmed time; where nothing plays across it they stay as they are. */
export function partAt(pieces: readonly Piece[], trimmedMs: number, ids: PartIds): Piece[] {
  let startMs = 0;
  return pieces.flatMap((piece): readonly Piece[] => {
    const offsetMs = trimmedMs - startMs;
    const lengthMs = playedMs(piece);
    startMs += lengthMs;
    if (offsetMs <= 0 || offsetMs >= lengthMs) return [piece];
    if (piece.kind === 'pause')
      return [
        { ...piece, lengthMs: wholeMs(offsetMs) },
        { ...piece, id: ids(), lengthMs: wholeMs(lengthMs - offsetMs), fadeMs: null }
      ];
    const middleMs = wholeMs(piece.fromMs + offsetMs);
    return [
      { ...piece, toMs: middleMs },
      { ...piece, id: ids(), fromMs: middleMs, fadeMs: null }
    ];
  });
}

/** Index of the first piece that plays at a trimmed time at which one begins; past the end, their number. */
export function indexAt(pieces: readonly Piece[], trimmedMs: number): number {
  let startMs = 0;
  const at = pieces.findIndex((piece) => {
    const isIt = startMs >= trimmedMs && playedMs(piece) > 0;
    startMs += playedMs(piece);
    return isIt;
  });
  return at < 0 ? pieces.length : at;
}

/** Neighbours that play as one become one, under the id and with the fade of the first. */
export function joinPieces(pieces: readonly Piece[]): Piece[] {
  const joined: Piece[] = [];
  for (const piece of pieces) {
    const last = joined.at(-1);
    if (last !== undefined && isOne(last, piece))
      joined[joined.length - 1] = { ...last, toMs: (piece as Stretch).toMs } as Stretch;
    else joined.push(piece);
  }
  return joined;
}
