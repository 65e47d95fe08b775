/** Laying words and cues on a row so that no two of them ever overprint. */
import type { WordId } from '../id';
import type { ReckonedSpan } from '../time';

export interface LaneWord {
  readonly id: WordId;
  readonly text: string;
  /** Where the word is spoken, in px from the row's start. */
  readonly x: number;
  /** A word that must be seen: others give way to it. */
  readonly isKept?: boolean;
}

export interface LaidWord {
  readonly id: WordId;
  /** As it is shown: shortened where there is no room. */
  readonly text: string;
  readonly x: number;
  readonly width: number;
  readonly level: 0 | 1;
}

export interface WordLaneOptions {
  /** Width of the row in px: no word reaches past it. */
  readonly width: number;
  /** Px between two words of a level. */
  readonly gap: number;
  /** Width of a text in px. */
  readonly measure: (text: string) => number;
}

/**
 * Words in order of time on two levels: each where it is spoken, on the upper level where it fits there, else on the
 * lower, else in the room there is. A word without room for two letters is left out.
 */
export function layWords(words: readonly LaneWord[], { width, gap, measure }: WordLaneOptions): LaidWord[] {
  const laid: LaidWord[] = [];
  const last: [LaidWord | null, LaidWord | null] = [null, null];
  const lastAt: [number, number] = [-1, -1];
  const rightOf = (level: 0 | 1): number => {
    const word = last[level];
    return word === null ? Number.NEGATIVE_INFINITY : word.x + word.width + gap;
  };
  const put = (word: LaneWord, level: 0 | 1, x: number): void => {
    const fitted = fit(word.text, width - x, measure);
    if (fitted === null) return;
    last[level] = { id: word.id, text: fitted.text, x, width: fitted.width, level };
    lastAt[level] = laid.push(last[level]) - 1;
  };
  for (const word of words) {
    const x = Math.max(0, word.x);
    const free =
      ([0, 1] as const).find((level) => x >= rightOf(level)) ??
      ([0, 1] as const).find((level) => x + NUDGE >= rightOf(level));
    if (free !== undefined) put(word, free, Math.max(x, rightOf(free)));
    else {
      // The longer one of the two in the way is shortened; where that leaves nothing of it, this word is left out.
      const level = last[0]!.width - last[0]!.x >= last[1]!.width - last[1]!.x ? 0 : 1;
      const tried: readonly (0 | 1)[] = [level, level === 0 ? 1 : 0];
      for (const way of tried) {
        const before = last[way]!;
        const fitted = fit(before.text, x - gap - before.x, measure);
        if (fitted === null) continue;
        laid[lastAt[way]] = { ...before, ...fitted };
        put(word, way, x);
        break;
      }
    }
  }
  return laid;
}

/** A word may stand this many px behind its onset before others are shortened for it. */
const NUDGE = 12;

/** The text, or as much of its beginning as there is room for with an ellipsis; `null` below two letters. */
function fit(text: string, room: number, measure: (text: string) => number): { text: string; width: number } | null {
  const whole = measure(text);
  if (whole <= room) return { text, width: whole };
  const letters = [...text.replace(/…$/, '')];
  let low = 0;
  let high = letters.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (measure(`${letters.slice(0, middle).join('')}…`) <= room) low = middle;
    else high = middle - 1;
  }
  if (low < 2) return null;
  const short = `${letters.slice(0, low).join('')}…`;
  return { text: short, width: measure(short) };
}

export interface LanedSpan<T> {
  readonly item: T;
  /** From 0, the upper one. */
  readonly lane: number;
  /** How many lanes the stretch has in which it lies: 1 where nothing overlaps. */
  readonly lanes: number;
}

/** Spans in order of start, each in the first lane that is free; spans that overlap, also through others, share their lanes. */
export function laneSpans<T extends ReckonedSpan>(spans: readonly T[]): LanedSpan<T>[] {
  const out: LanedSpan<T>[] = [];
  let cluster: { item: T; lane: number }[] = [];
  let ends: number[] = [];
  const close = (): void => {
    for (const { item, lane } of cluster) out.push({ item, lane, lanes: ends.length });
    cluster = [];
    ends = [];
  };
  for (const item of spans) {
    if (ends.every((endMs) => endMs <= item.startMs)) close();
    let lane = ends.findIndex((endMs) => endMs <= item.startMs);
    if (lane < 0) lane = ends.length;
    ends[lane] = item.endMs;
    cluster.push({ item, lane });
  }
  close();
  return out;
}
