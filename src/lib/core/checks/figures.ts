/** The figures of a track as a whole: how fast it reads, how long its cues are shown, how much of the speech they cover. */
import type { CueId } from '../id';
import { readingSpeed, type Sheet, type Track } from '../track';
import type { Knowledge } from './finding';
import { numbersOf } from './sheet';
import { sharedMs } from './sound';
import { findCheck } from './table';

/** A column of a histogram: of `from <= value < to`, in ms; `to` is infinite in the last one. */
export interface Column {
  readonly fromMs: number;
  readonly toMs: number;
  readonly count: number;
  /** All of it lies outside what the sheet asks. */
  readonly isOutside: boolean;
}

export interface Figures {
  readonly speeds: readonly { readonly cueId: CueId; readonly startMs: number; readonly charactersASecond: number }[];
  readonly mostCharactersASecond: number;
  readonly durations: readonly Column[];
  /** From the end of each cue to the start of the next; overlaps count as below 0. */
  readonly gaps: readonly Column[];
  /** How much of the speech lies under captions, 0 to 1; `null` where it is not known where there is speech. */
  readonly speechCovered: number | null;
}

const DURATIONS_MS = [0, 500, 1000, 1500, 2000, 2500, 3000, 4000, 5000, 6000, 7000];
const GAPS_MS = [Number.NEGATIVE_INFINITY, 0, 80, 500, 1000, 2000, 5000];

function columns(
  values: readonly number[],
  edges: readonly number[],
  { least, most }: { readonly least: number; readonly most: number }
): readonly Column[] {
  return edges.map((fromMs, at) => {
    const toMs = edges[at + 1] ?? Number.POSITIVE_INFINITY;
    const count = values.filter((value) => value >= fromMs && value < toMs).length;
    return { fromMs, toMs, count, isOutside: toMs <= least || fromMs >= most };
  });
}

export function figuresOf(track: Track, { speech }: Pick<Knowledge, 'speech'>, sheet: Sheet): Figures {
  const { cues } = track;
  const numberOf = (rule: string, name: string): number => numbersOf(findCheck(rule)!, sheet, track)[name]!;
  const spokenMs = speech?.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0) ?? 0;
  let coveredMs = 0;
  let reachedMs = 0;
  for (const { startMs, endMs } of cues) {
    // Where cues overlap, the speech under them counts once.
    const fromMs = Math.max(startMs, reachedMs);
    if (speech !== null && fromMs < endMs) coveredMs += sharedMs({ startMs: fromMs, endMs }, speech);
    reachedMs = Math.max(reachedMs, endMs);
  }
  return {
    speeds: cues.map((cue) => ({
      ...{ cueId: cue.id, startMs: cue.startMs },
      charactersASecond: readingSpeed(track, cue)
    })),
    mostCharactersASecond: numberOf('reading_speed', 'most'),
    durations: columns(
      cues.map(({ startMs, endMs }) => endMs - startMs),
      DURATIONS_MS,
      { least: numberOf('min_duration', 'least'), most: numberOf('max_duration', 'most') }
    ),
    gaps: columns(
      cues.slice(1).map(({ startMs }, at) => startMs - cues[at]!.endMs),
      GAPS_MS,
      { least: numberOf('min_gap', 'least'), most: Number.POSITIVE_INFINITY }
    ),
    speechCovered: speech === null || spokenMs === 0 ? null : coveredMs / spokenMs
  };
}
