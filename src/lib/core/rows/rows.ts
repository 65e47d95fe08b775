/**
 * Where the wrapped waveform breaks its rows: from the speech map, the loudness and the zoom alone, so that rows hold
 * still whatever is edited.
 */
import { leastLikelySpeech, type SpeechMap } from '../audio';
import { toSpan, type ReckonedSpan, type Span } from '../time';

export interface Row extends Span {
  /** A folded row stands for a long stretch without speech or loud sound. */
  readonly kind: 'sound' | 'folded';
}

export interface RowsInput {
  readonly durationMs: number;
  readonly speech: SpeechMap;
  /** Stretches of speech, in order. */
  readonly regions: readonly ReckonedSpan[];
  /** Stretches without loud sound, in order. */
  readonly quiet: readonly ReckonedSpan[];
  /** The zoom: the longest a row may be. */
  readonly rowMs: number;
}

/** Rows in order, each starting where the last one ends, from 0 to the end of the recording. */
export function breakIntoRows(input: RowsInput): Row[] {
  const { durationMs, rowMs } = input;
  const folds = foldableStretches(input);
  const rows: Row[] = [];
  let fold = 0;
  for (let startMs = 0; startMs < durationMs;) {
    while (fold < folds.length && folds[fold]!.endMs <= startMs) fold++;
    const next = folds[fold];
    if (next !== undefined && next.startMs <= startMs) {
      rows.push({ kind: 'folded', ...toSpan({ startMs, endMs: next.endMs }) });
      startMs = next.endMs;
      continue;
    }
    const limit = Math.min(next?.startMs ?? durationMs, durationMs);
    const endMs = limit - startMs <= rowMs ? limit : breakInLastQuarter(input, startMs);
    rows.push({ kind: 'sound', ...toSpan({ startMs, endMs }) });
    startMs = endMs;
  }
  return rows;
}

/** Stretches over one row long with no speech and no loud sound, a little kept of both ends. */
function foldableStretches({ durationMs, regions, quiet, rowMs }: RowsInput): ReckonedSpan[] {
  const keepMs = 300;
  const folds: ReckonedSpan[] = [];
  const gaps: ReckonedSpan[] = [];
  let lastMs = 0;
  for (const region of [...regions, { startMs: durationMs, endMs: durationMs }]) {
    if (region.startMs > lastMs) gaps.push({ startMs: lastMs, endMs: region.startMs });
    lastMs = Math.max(lastMs, region.endMs);
  }
  let at = 0;
  for (const gap of gaps) {
    while (at < quiet.length && quiet[at]!.endMs <= gap.startMs) at++;
    for (let still = at; still < quiet.length && quiet[still]!.startMs < gap.endMs; still++) {
      const startMs = Math.max(gap.startMs + (gap.startMs > 0 ? keepMs : 0), quiet[still]!.startMs);
      const endMs = Math.min(gap.endMs - (gap.endMs < durationMs ? keepMs : 0), quiet[still]!.endMs);
      if (endMs - startMs > rowMs) folds.push({ startMs, endMs });
    }
  }
  return folds;
}

/** The best pause in the row's last quarter, else the place least like speech, else the full length. */
function breakInLastQuarter({ regions, speech, rowMs }: RowsInput, startMs: number): number {
  const fromMs = startMs + Math.round(rowMs * 0.75);
  const toMs = startMs + rowMs;
  let best: ReckonedSpan | null = null;
  let low = 0;
  let high = regions.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (regions[middle]!.endMs < fromMs) low = middle + 1;
    else high = middle;
  }
  for (let at = low; at <= regions.length; at++) {
    const pause = {
      startMs: Math.max(fromMs, regions[at - 1]?.endMs ?? 0),
      endMs: Math.min(toMs, regions[at]?.startMs ?? toMs)
    };
    if (pause.startMs >= toMs) break;
    if (pause.endMs > pause.startMs && (best === null || pause.endMs - pause.startMs > best.endMs - best.startMs))
      best = pause;
  }
  if (best !== null) return Math.round((best.startMs + best.endMs) / 2);
  if (speech.probabilities.length === 0) return toMs;
  const dipMs = leastLikelySpeech(speech, fromMs, toMs);
  const dip = speech.probabilities[Math.min(speech.probabilities.length - 1, Math.floor(dipMs / speech.frameMs))]!;
  return dip < 0.8 ? dipMs : toMs;
}

/** A folded row in which something stands after all, as rows of full length: the rows around it stay where they are. */
export function unfold(row: Row, rowMs: number): Row[] {
  const rows: Row[] = [];
  for (let startMs: number = row.startMs; startMs < row.endMs; startMs += rowMs) {
    rows.push({ kind: 'sound', ...toSpan({ startMs, endMs: Math.min(row.endMs, startMs + rowMs) }) });
  }
  return rows;
}

export type Density = 'close' | 'middle' | 'wide';

/** How much a row of this length can show. */
export const densityOf = (rowMs: number): Density => (rowMs <= 10_000 ? 'close' : rowMs <= 20_000 ? 'middle' : 'wide');
