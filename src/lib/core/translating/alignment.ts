/**
 * Laying a text without times on rows: which run of its words translates which row. A semi-Markov model over the places
 * between words: lengths in proportion (Gale and Church, “A Program for Aligning Sentences in Bilingual Corpora”, 1993),
 * the breaks that the text has, ends of sentences, figures and names. Its best path is the answer; the share of all paths
 * that agree with it says how far it can be trusted (the forward-backward algorithm). Rows enough, it is done twice: the
 * first time teaches which words stand for which (as Moore, “Fast and Accurate Sentence Alignment”, 2002).
 */
import { endsWith, partingCost } from '../cueing';
import { countCharacters } from '../track';
import { anchorsIn } from './anchors';
import { learnLexicon, type Lexicon } from './lexicon';
import { wordsForMemory } from './memory';

/** How plainly the text parts a word from the one before it: by white space, a line, a paragraph, a mark of a row. */
export const BREAKS = ['none', 'line', 'paragraph', 'mark'] as const;
export type Break = (typeof BREAKS)[number];

export interface AlignedWord {
  readonly text: string;
  readonly spaceBefore: boolean;
  readonly breakBefore: Break;
}

/** A run of words: from the first to behind the last. */
export interface Run {
  readonly from: number;
  readonly to: number;
}

export interface Alignment {
  /** One a row, in order; words that belong to none lie between them. */
  readonly runs: readonly Run[];
  /** The probability, by the model, that a row is translated by just this run. */
  readonly probabilityOf: (row: number, run: Run) => number;
  /** The natural logarithm of how likely this run is as a translation of a row, whatever stands around it. */
  readonly likelihoodOf: (row: number, run: Run) => number;
}

/** Natural logarithms of probabilities, set on made pairs; see docs/bench.md. */
const NO_WORDS = -7;
const SKIPPED_LINE = -7;
const SKIPPED_CHARACTER = -0.03;
/** All that follows the last row, wherever its line ends. */
const SKIPPED_REST = -20;
const ANCHOR_MISSED = -3;
const SENTENCES_DIFFER = -1.2;
const BROAD = { share: 0.04, characters: 250 };
/** Of lengths around what is expected, in characters: a part that is there always, and one that grows with them. */
const VARIANCE = { least: 6, perCharacter: 3.2 };
/** Of beginning a row at a break, and of having one within. */
const AT: Readonly<Record<Break, number>> = { none: 0, line: -0.05, paragraph: -0.02, mark: -0.01 };
const WITHIN: Readonly<Record<Break, number>> = { none: 0, line: -2, paragraph: -8, mark: -6 };
/** Of beginning a row where the text has no break, by whether it has breaks for most rows. */
const UNBROKEN = { inBroken: -4.5, inWhole: -0.5 };
/** What parts words counts by so much (`partingCost`). */
const PARTING_COST = 40;
const MOSTLY_BROKEN = 0.6;
/** From so many rows on their words say which stand for which. */
const ROWS_TO_LEARN_FROM = 20;
/** Paths that are less likely than the best by more than this are given up. */
const BEAM = 35;
const WIDEST = 3000;

/** One row's states: places between words that its run may begin at. */
interface Level {
  readonly low: number;
  /** Sum and best of all paths that lead here, as logarithms. */
  readonly sum: Float64Array;
  readonly best: Float64Array;
  /** Where the best path came from; a skip comes from the same level. */
  readonly from: Int32Array;
  readonly isSkip: Uint8Array;
}

/**
 * `language`: of the text; `scale`: its characters for one of the source, left out that of the two texts. Rows may be empty.
 */
export function alignToRows(
  words: readonly AlignedWord[],
  rows: readonly string[],
  { language, scale }: { readonly language: string; readonly scale?: number | undefined }
): Alignment {
  const model = prepare(words, rows, { language, scale });
  const first = alignBy(model);
  if (rows.length < ROWS_TO_LEARN_FROM) return first;
  return alignBy({ ...model, lexicon: lexiconFrom(model, first) });
}

function alignBy(model: Model): Alignment {
  const levels = forward(model);
  const backward = backwards(model, levels);
  const last = levels.at(-1)!;
  const total = valueAt(last.low, last.sum, model.words.length);
  return {
    runs: bestRuns(model, levels),
    likelihoodOf: (row, { from, to }) => scoreRow(model, row, from, to),
    probabilityOf(row, { from, to }) {
      const here = valueAt(levels[row]!.low, levels[row]!.sum, from);
      const there = valueAt(levels[row + 1]!.low, backward[row + 1]!, to);
      const both = here + there;
      return both === Number.NEGATIVE_INFINITY
        ? 0
        : Math.min(1, Math.exp(both + scoreRow(model, row, from, to) - total));
    }
  };
}

/** What was learnt of a first alignment, and where each word stood in it. */
interface Learnt {
  readonly lexicon: Lexicon;
  readonly runs: readonly Run[];
  readonly bare: readonly string[];
  readonly rowWords: readonly ReadonlySet<string>[];
  /** For each row, what its words weigh, summed up from a place on; made when they are first asked for. */
  readonly weights: ({ readonly low: number; readonly to: Float64Array } | undefined)[];
}

function lexiconFrom({ words, texts }: Model, { runs }: Alignment): Learnt {
  const bare = words.map(({ text }) => wordsForMemory(text).join(' '));
  const rowWords = texts.map((text) => new Set(wordsForMemory(text)));
  const rows = runs.map(({ from, to }, row) => ({ source: [...rowWords[row]!], target: bare.slice(from, to) }));
  return { lexicon: learnLexicon(rows), runs, bare, rowWords, weights: [] };
}

/** Weighs the words that a row may have: the places from `low` to `high`. */
function weighWords({ lexicon: learnt }: Model, row: number, low: number, high: number): void {
  if (learnt === null) return;
  const { lexicon, runs, bare, rowWords, weights } = learnt;
  const to = new Float64Array(high - low + 1);
  for (let at = low; at < high; at++) {
    const isOwn = at >= runs[row]!.from && at < runs[row]!.to;
    to[at - low + 1] = to[at - low]! + lexicon.weigh(bare[at]!, rowWords[row]!, isOwn);
  }
  weights[row] = { low, to };
}

function weightOf({ lexicon: learnt }: Model, row: number, from: number, to: number): number {
  const weights = learnt?.weights[row];
  return weights === undefined ? 0 : (weights.to[to - weights.low] ?? 0) - (weights.to[from - weights.low] ?? 0);
}

const valueAt = (low: number, values: Float64Array, at: number): number => values[at - low] ?? Number.NEGATIVE_INFINITY;

interface Model {
  readonly texts: readonly string[];
  readonly lexicon: Learnt | null;
  readonly words: readonly AlignedWord[];
  readonly rows: readonly PreparedRow[];
  readonly lengthTo: Float64Array;
  readonly sentencesTo: Int32Array;
  /** Cost of breaks, summed over the words. */
  readonly withinTo: Float64Array;
  readonly startCost: Float64Array;
  readonly endOf: readonly EndMark[];
  /** Anchors of the text before each word, all of them and each that a row has. */
  readonly anchorsTo: Int32Array;
  readonly anchorTo: ReadonlyMap<string, Int32Array>;
  /** The next place with a break, or the end. */
  readonly nextBreak: Int32Array;
}

interface PreparedRow {
  readonly isEmpty: boolean;
  readonly expected: number;
  readonly deviation: number;
  readonly sentences: number;
  readonly end: EndMark;
  readonly anchors: readonly string[];
}

type EndMark = 'nothing' | 'clause' | 'sentence' | 'question';

function endMark(text: string): EndMark {
  const end = endsWith(text);
  return end === 'sentence' && /[?？؟][)\]"'”’»]*$/u.test(text) ? 'question' : end;
}

const endCost = (one: EndMark, other: EndMark): number => {
  if (one === other) return 0.3;
  if (one === 'nothing' || other === 'nothing') return one === 'clause' || other === 'clause' ? -0.5 : -1.8;
  return one === 'clause' || other === 'clause' ? -0.8 : -1.2;
};

function prepare(
  words: readonly AlignedWord[],
  rows: readonly string[],
  { language, scale }: { readonly language: string; readonly scale: number | undefined }
): Model {
  const count = words.length;
  const lengthTo = new Float64Array(count + 1);
  const sentencesTo = new Int32Array(count + 1);
  const withinTo = new Float64Array(count + 1);
  const startCost = new Float64Array(count + 1);
  const anchorsTo = new Int32Array(count + 1);
  const nextBreak = new Int32Array(count + 1).fill(count);
  const rowAnchors = rows.map(anchorsIn);
  const anchorTo = new Map([...new Set(rowAnchors.flat())].map((anchor) => [anchor, new Int32Array(count + 1)]));
  const isKnown = new Set<string>();
  const textAnchors = words.map(({ text }) => anchorsOfWord(text).filter((anchor) => anchorTo.has(anchor)));
  for (const anchor of textAnchors.flat()) isKnown.add(anchor);
  const broken = words.filter(({ breakBefore }) => breakBefore !== 'none').length;
  const unbroken = broken + 1 >= MOSTLY_BROKEN * rows.length ? UNBROKEN.inBroken : UNBROKEN.inWhole;
  const endOf = words.map(({ text }) => endMark(text));
  words.forEach(({ text, spaceBefore, breakBefore }, at) => {
    lengthTo[at + 1] = lengthTo[at]! + (spaceBefore ? 1 : 0) + countCharacters(text);
    sentencesTo[at + 1] = sentencesTo[at]! + (endOf[at] === 'sentence' || endOf[at] === 'question' ? 1 : 0);
    withinTo[at + 1] = withinTo[at]! + WITHIN[breakBefore];
    startCost[at] =
      at === 0
        ? 0
        : breakBefore === 'none'
          ? unbroken - partingCost(words, at - 1, language) / PARTING_COST
          : AT[breakBefore];
    anchorsTo[at + 1] = anchorsTo[at]! + textAnchors[at]!.length;
    for (const anchor of textAnchors[at]!) anchorTo.get(anchor)![at + 1]!++;
  });
  for (const counts of anchorTo.values()) for (let at = 1; at <= count; at++) counts[at]! += counts[at - 1]!;
  for (let at = count - 1; at > 0; at--) nextBreak[at - 1] = words[at]!.breakBefore === 'none' ? nextBreak[at]! : at;
  const lengths = rows.map(countCharacters);
  const sourceLength = lengths.reduce((sum, length) => sum + length, 0);
  const perCharacter = scale ?? (sourceLength === 0 ? 1 : lengthTo[count]! / sourceLength);
  return {
    texts: rows,
    lexicon: null,
    ...{ words, lengthTo, sentencesTo, withinTo, startCost, endOf, anchorsTo, anchorTo, nextBreak },
    rows: rows.map((row, at) => {
      const tokens = row.split(/\s+/);
      const expected = lengths[at]! * perCharacter;
      return {
        isEmpty: lengths[at] === 0,
        expected,
        deviation: Math.sqrt(VARIANCE.least + VARIANCE.perCharacter * expected),
        sentences: tokens.filter((token) => /sentence|question/.test(endMark(token))).length,
        end: endMark(row),
        // What the text never has was not kept anywhere.
        anchors: rowAnchors[at]!.filter((anchor) => isKnown.has(anchor))
      };
    })
  };
}

/** As `anchorsIn`, but a name may begin a sentence: it counts only where a row has it. */
const anchorsOfWord = (text: string): readonly string[] => anchorsIn(`a ${text}`);

/** Logarithm of how likely a row is translated by a run of words. */
function scoreRow(model: Model, at: number, from: number, to: number): number {
  const { lengthTo, sentencesTo, withinTo, startCost, endOf, anchorsTo, anchorTo, words } = model;
  const row = model.rows[at]!;
  if (from === to) return row.isEmpty ? 0 : NO_WORDS;
  const length = lengthTo[to]! - lengthTo[from]! - (words[from]!.spaceBefore ? 1 : 0);
  const z = (length - row.expected) / row.deviation;
  const near = Math.exp((-z * z) / 2) / (row.deviation * 2.5066);
  let score = Math.log((1 - BROAD.share) * near + BROAD.share / BROAD.characters);
  score += startCost[from]! + withinTo[to]! - withinTo[from + 1]!;
  score += endCost(row.end, endOf[to - 1]!);
  score += Math.abs(sentencesTo[to]! - sentencesTo[from]! - row.sentences) * SENTENCES_DIFFER;
  let strange = anchorsTo[to]! - anchorsTo[from]!;
  for (const anchor of row.anchors) {
    const counts = anchorTo.get(anchor)!;
    if (counts[to]! > counts[from]!) strange--;
    else score += ANCHOR_MISSED;
  }
  return score + Math.max(0, strange) * ANCHOR_MISSED + weightOf(model, at, from, to);
}

const longestRun = ({ expected, deviation }: PreparedRow): number => expected * 2 + deviation * 6 + 20;

function forward(model: Model): readonly Level[] {
  const { rows, words, nextBreak } = model;
  const count = words.length;
  const levels: Level[] = [levelOf(0, 1)];
  levels[0]!.sum[0] = 0;
  levels[0]!.best[0] = 0;
  for (let at = 0; at <= rows.length; at++) {
    const level = at === rows.length ? grown(levels[at]!, count) : grown(levels[at]!, skipEnd(model, levels[at]!));
    levels[at] = level;
    const { low, sum, best } = level;
    for (let place = low; place < low + sum.length; place++) {
      if (sum[place - low] === Number.NEGATIVE_INFINITY || place === count || !mayBreak(model, place)) continue;
      const to = nextBreak[place]!;
      if (to - low >= sum.length) continue;
      const cost = lineCost(model, place, to);
      enter(level, to, sum[place - low]! + cost, best[place - low]! + cost, { from: place, isSkip: true });
    }
    if (at < rows.length) levels.push(stepped(model, at, level));
    else
      for (let place = low; place < Math.min(count, low + sum.length); place++) {
        const cost = restCost(model, place);
        enter(level, count, sum[place - low]! + cost, best[place - low]! + cost, { from: place, isSkip: true });
      }
  }
  return levels;
}

const lineCost = ({ lengthTo }: Model, from: number, to: number): number =>
  SKIPPED_LINE + SKIPPED_CHARACTER * (lengthTo[to]! - lengthTo[from]!);

const restCost = ({ lengthTo, words }: Model, place: number): number =>
  SKIPPED_REST + SKIPPED_CHARACTER * (lengthTo[words.length]! - lengthTo[place]!);

const mayBreak = ({ words }: Model, place: number): boolean => place === 0 || words[place]!.breakBefore !== 'none';

/** As far as lines may be skipped from a level: the end of the line behind its last state. */
const skipEnd = ({ nextBreak }: Model, { low, sum }: Level): number =>
  nextBreak[nextBreak[Math.min(nextBreak.length - 1, low + sum.length - 1)]!]!;

function stepped(model: Model, at: number, level: Level): Level {
  const { words, lengthTo, rows } = model;
  const count = words.length;
  const most = longestRun(rows[at]!);
  const least = Math.max(...level.best) - BEAM;
  let first = -1;
  let last = -1;
  for (let place = level.low; place < level.low + level.sum.length; place++) {
    if (level.best[place - level.low]! < least) continue;
    if (first < 0) first = place;
    last = place;
  }
  let high = last;
  while (high < count && lengthTo[high]! - lengthTo[last]! <= most && high - first < WIDEST) high++;
  const next = levelOf(first, high - first + 1);
  weighWords(model, at, first, high);
  for (let place = first; place <= last; place++) {
    const value = level.sum[place - level.low]!;
    const best = level.best[place - level.low]!;
    if (best < least) continue;
    for (let to = place; to <= high; to++) {
      if (lengthTo[to]! - lengthTo[place]! > most) break;
      const score = scoreRow(model, at, place, to);
      enter(next, to, value + score, best + score, { from: place, isSkip: false });
    }
  }
  return next;
}

function levelOf(low: number, size: number): Level {
  return {
    low,
    sum: new Float64Array(size).fill(Number.NEGATIVE_INFINITY),
    best: new Float64Array(size).fill(Number.NEGATIVE_INFINITY),
    from: new Int32Array(size).fill(-1),
    isSkip: new Uint8Array(size)
  };
}

/** The level with room up to a place. */
function grown(level: Level, to: number): Level {
  if (to - level.low < level.sum.length) return level;
  const larger = levelOf(level.low, to - level.low + 1);
  larger.sum.set(level.sum);
  larger.best.set(level.best);
  larger.from.set(level.from);
  larger.isSkip.set(level.isSkip);
  return larger;
}

function enter(
  { low, sum, best, from, isSkip }: Level,
  place: number,
  value: number,
  bestValue: number,
  came: { readonly from: number; readonly isSkip: boolean }
): void {
  const at = place - low;
  sum[at] = addLogarithms(sum[at]!, value);
  if (bestValue <= best[at]!) return;
  best[at] = bestValue;
  from[at] = came.from;
  isSkip[at] = came.isSkip ? 1 : 0;
}

function addLogarithms(one: number, other: number): number {
  const most = Math.max(one, other);
  const less = Math.min(one, other);
  return most - less > 40 || less === Number.NEGATIVE_INFINITY ? most : most + Math.log1p(Math.exp(less - most));
}

/** For each level, of all paths from its places to the end. */
function backwards(model: Model, levels: readonly Level[]): readonly Float64Array[] {
  const { rows, words, lengthTo, nextBreak } = model;
  const count = words.length;
  const values = levels.map(({ sum }) => new Float64Array(sum.length).fill(Number.NEGATIVE_INFINITY));
  const last = levels.at(-1)!;
  values.at(-1)![count - last.low] = 0;
  for (let at = rows.length; at >= 0; at--) {
    const { low, sum } = levels[at]!;
    const own = values[at]!;
    for (let place = low + own.length - 1; place >= low; place--) {
      if (sum[place - low] === Number.NEGATIVE_INFINITY) continue;
      let value = own[place - low]!;
      if (at === rows.length && place < count) value = addLogarithms(value, restCost(model, place));
      if (at < rows.length) {
        const next = levels[at + 1]!;
        const most = longestRun(rows[at]!);
        const high = Math.min(count, next.low + next.sum.length - 1);
        for (let to = Math.max(place, next.low); to <= high && lengthTo[to]! - lengthTo[place]! <= most; to++) {
          const there = values[at + 1]![to - next.low]!;
          if (there !== Number.NEGATIVE_INFINITY) value = addLogarithms(value, there + scoreRow(model, at, place, to));
        }
      }
      if (place < count && mayBreak(model, place)) {
        const to = nextBreak[place]!;
        const cost = lineCost(model, place, to);
        const there = own[to - low];
        if (there !== undefined) value = addLogarithms(value, there + cost);
      }
      own[place - low] = value;
    }
  }
  return values;
}

function bestRuns({ rows, words }: Model, levels: readonly Level[]): readonly Run[] {
  const runs: Run[] = [];
  let place = words.length;
  for (let at = rows.length; at >= 0; at--) {
    const { low, from, isSkip } = levels[at]!;
    while (isSkip[place - low] === 1) place = from[place - low]!;
    if (at === 0) break;
    const begin = from[place - low] ?? -1;
    // Pruned on the way: what is left has no words.
    const start = begin < 0 ? levels[at - 1]!.low : begin;
    runs.unshift({ from: Math.min(start, place), to: place });
    place = Math.min(start, place);
  }
  return runs;
}
