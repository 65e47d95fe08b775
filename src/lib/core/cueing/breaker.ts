/**
 * Breaking words into cues and lines: the break of least cost over all breaks, by dynamic programming over the places
 * where a cue may end.
 */
import type { WordId } from '../id';
import type { Word } from '../track';
import {
  isShared,
  leastLineCost,
  preparePassage,
  scoreCue,
  scoreLine,
  scoreLineEnd,
  signAt,
  textLength,
  type Passage,
  type Setting
} from './score';

export interface CueBreak {
  /** Index of the first and of the last word, both included. */
  readonly from: number;
  readonly to: number;
  /** Indices of the words that begin the second and further lines. */
  readonly lineStarts: readonly number[];
}

/** The words that begin the second and further lines, where these words are one cue. */
export function breakIntoLines(words: readonly Word[], setting: Setting): WordId[] {
  if (words.length === 0) return [];
  const passage = preparePassage(words, setting);
  return bestLines(passage, 0, words.length - 1).starts.map((at) => words[at]!.id);
}

/** The best break of shown words, in reading order, into cues and lines. */
export const breakIntoCues = (words: readonly Word[], setting: Setting): CueBreak[] =>
  bestBreak(preparePassage(words, setting));

export function bestBreak(passage: Passage): CueBreak[] {
  const { words, rules } = passage;
  const count = words.length;
  const least = new Float64Array(count + 1).fill(Number.POSITIVE_INFINITY);
  const cameFrom = new Int32Array(count + 1);
  least[0] = 0;
  // Short cues are tried first: the best is often among them, and anything that costs more is then skipped.
  for (let to = 0; to < count; to++) {
    for (let from = to; from >= 0; from--) {
      if (from < to && (rules.oneWordPerCue || isHopeless(passage, from, to))) break;
      const cost = least[from]! + scoreCue(passage, from, to);
      const best = least[to + 1]!;
      if (cost + leastLineCost(passage, from, to) >= best) continue;
      const whole = cost + bestLines(passage, from, to, best - cost).cost;
      if (whole < best) {
        least[to + 1] = whole;
        cameFrom[to + 1] = from;
      }
    }
  }
  const breaks: CueBreak[] = [];
  for (let end = count; end > 0; end = cameFrom[end]!) {
    const from = cameFrom[end]!;
    breaks.unshift({ from, to: end - 1, lineStarts: bestLines(passage, from, end - 1).starts });
  }
  return breaks;
}

/** More words only make it worse, and breaking these words up costs less: limits cost by how far they are passed. */
function isHopeless(passage: Passage, from: number, to: number): boolean {
  const { rules, words, mustBreak } = passage;
  if (mustBreak[from] === 1) return true;
  const room = rules.maxLines * (rules.maxCharsPerLine + 1);
  return textLength(passage, from, to) > room * 2 || words[to]!.endMs - words[from]!.startMs > rules.maxDurationMs * 3;
}

/**
 * The best lines for the words `from..to`, both included: `scoreLines` at its least. `below` is a cost that is already
 * had elsewhere; lines that cost as much are not looked for.
 */
export function bestLines(
  passage: Passage,
  from: number,
  to: number,
  below = Number.POSITIVE_INFINITY
): { readonly cost: number; readonly starts: readonly number[] } {
  let best: { cost: number; starts: readonly number[] } = { cost: below, starts: [] };
  const { maxLines } = passage.rules;
  const starts: number[] = [];
  const hasSigns = isShared(passage, from, to);
  const search = (lineFrom: number, before: number, cost: number): void => {
    const sign = hasSigns ? signAt(passage, from, lineFrom) : 0;
    // A line holds one voice.
    const voiceTo = Math.min(to, passage.nextTurn[lineFrom]! - 1);
    if (voiceTo === to) {
      const whole = cost + scoreLine(passage, before, sign + textLength(passage, lineFrom, to));
      if (whole < best.cost) best = { cost: whole, starts: [...starts] };
    }
    if (starts.length + 1 >= maxLines) return;
    for (let lineTo = lineFrom; lineTo <= voiceTo && lineTo < to; lineTo++) {
      const length = sign + textLength(passage, lineFrom, lineTo);
      const line = cost + scoreLine(passage, before, length) + scoreLineEnd(passage, lineTo);
      if (line >= best.cost) {
        if (length > passage.rules.maxCharsPerLine) break;
        continue;
      }
      starts.push(lineTo + 1);
      search(lineTo + 1, length, line);
      starts.pop();
    }
  };
  search(from, -1, 0);
  return best;
}
