import { wholeMs } from '../time';
import { mapOf } from './map';
import { indexAt, partAt, partIds } from './pieces';
import { playedMs, type Trim } from './trim';

/** Only what plays between two trimmed times: a highlight. What is taken out is no part of it. */
export function passageOf(trim: Trim, { fromMs, toMs }: { readonly fromMs: number; readonly toMs: number }): Trim {
  const { lengthMs } = mapOf(trim);
  const start = wholeMs(Math.max(0, fromMs));
  const end = wholeMs(Math.min(toMs, lengthMs));
  const ids = partIds('passage');
  const parts = [start, end].reduce((pieces, ms) => partAt(pieces, ms, ids), [...trim.pieces]);
  const pieces = parts.slice(indexAt(parts, start), indexAt(parts, end)).filter((piece) => playedMs(piece) > 0);
  return { ...trim, pieces: end > start ? pieces : [] };
}
