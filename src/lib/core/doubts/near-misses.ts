/**
 * Names and phrases that were meant where something else stands: runs of words whose sound lies close to a term's,
 * whatever they were written as. Each term is laid on the whole text at once (approximate matching of a pattern that may
 * begin and end at any word: Sellers, "The theory and computation of evolutionary distances", J. Algorithms 1, 1980).
 */
import { spokenForms, type Term } from '../expecting';
import type { Word } from '../track';
import { phoneDistance, phoneWeight } from './phones';

export interface NearMiss {
  /** The first of the words, and how many. */
  readonly from: number;
  readonly count: number;
  readonly term: Term;
  /** Distance of the sounds by the weight of the term's: 0 sounds the same. */
  readonly distance: number;
}

/** How words are said, as the terms' are: phones of the CMU set; none for what cannot be spoken. */
export type Pronounce = (form: string) => readonly string[];

/**
 * What is farther away was not meant: short terms sound like much else, and a recogniser that is sure of other words is
 * believed a little. Fitted (logistic regression) to what a recogniser made of 55 names in five talks, and `most` set
 * anew on a sixth when what else was heard of a word came in; how it does on others is in docs/bench.md.
 */
const FARTHEST = { most: 0.7, byPhone: 0.62, bySure: 0.14 };
/** A run as near as this is always offered. */
const SURELY_NEAR = 0.35;
/**
 * Of runs that are less near, only the nearest of each term are offered: this many, and one more for every so many
 * words.
 */
const LESS_NEAR = { atLeast: 3, oneMoreForWords: 1500 };
/** A term may be heard as this many more words than it has. */
const MORE_WORDS = 3;
/** Shorter ones sound like too much. */
const LEAST_PHONES = 3;
/** What it costs that a word was heard otherwise than it stands, as the weights of phones are counted. */
const OTHER_WAY_COST = 0.4;
const MOST_OTHER_WAYS = 4;

/** The ways in which each word may have been said, as numbers of phones: as it stands first, then what else was heard. */
type Ways = readonly (readonly Uint8Array[])[];

const NONE = 255;
const FAR = 1e6;

/** The likeliest run for each place, best first where they overlap; none for terms that stand as they should. */
export function findNearMisses(words: readonly Word[], terms: readonly Term[], pronounce: Pronounce): NearMiss[] {
  const numbers = new Map<string, number>();
  const names: string[] = [];
  const numberOf = (phone: string): number => {
    let number = numbers.get(phone);
    if (number === undefined) {
      number = names.length;
      numbers.set(phone, number);
      names.push(phone);
    }
    return number;
  };
  const ways = waysOf(words, pronounce, numberOf);
  const found = terms.flatMap((term) => candidatesFor(term, words, ways, { names, pronounce }));
  // What stands as it should keeps its words from being taken for another term, or for itself and a neighbour.
  const apart = withoutOverlaps(found).filter(({ isRight }) => !isRight);
  return nearestOfEach(apart, words.length).map(({ from, count, term, distance }) => ({ from, count, term, distance }));
}

interface CandidateRun extends NearMiss {
  /** The term stands there as it should. */
  readonly isRight: boolean;
}

/** Every run that is near enough to a term, overlapping ones too. */
function candidatesFor(
  term: Term,
  words: readonly Word[],
  ways: Ways,
  { names, pronounce }: { readonly names: readonly string[]; readonly pronounce: Pronounce }
): CandidateRun[] {
  const phones = spokenForms(term.soundsLike ?? term.text).flatMap((form) => [...pronounce(form)]);
  if (phones.length < LEAST_PHONES) return [];
  const weight = phones.reduce((sum, phone) => sum + phoneWeight(phone), 0);
  const mostWords = spokenForms(term.text).length + MORE_WORDS;
  return runsLike(ways, phones, names, mostWords).flatMap(({ from, to, cost }) => {
    const run = words.slice(from, to);
    const isRight = run.map((word) => bareTerm(word.text)).join(' ') === bareTerm(term.text);
    const confidence = run.reduce((sum, word) => sum + (word.confidence ?? 1), 0) / run.length;
    const isByHand = run.every((word) => word.correctedAt !== null);
    const distance = cost / weight;
    if (!isRight && (isByHand || distance > farthest(phones.length, confidence))) return [];
    return [{ from, count: to - from, term, distance, isRight }];
  });
}

/** All that are surely near, and of each term the nearest of the rest: long texts sound like anything somewhere. */
function nearestOfEach<M extends NearMiss>(misses: readonly M[], wordCount: number): M[] {
  const most = LESS_NEAR.atLeast + Math.floor(wordCount / LESS_NEAR.oneMoreForWords);
  const kept = new Map<Term, number>();
  const isKept = new Set(
    misses
      .toSorted((one, other) => one.distance - other.distance)
      .filter(({ term, distance }) => {
        if (distance <= SURELY_NEAR) return true;
        const count = kept.get(term) ?? 0;
        kept.set(term, count + 1);
        return count < most;
      })
  );
  return misses.filter((miss) => isKept.has(miss));
}

/** A term as it stands in text, its case kept, the punctuation around it not. */
const bareTerm = (text: string): string => text.replace(/^[^\p{L}\p{N}]+|[^\p{L}\p{N}]+$|['’]s(?=[^\p{L}]*$)/gu, '');

const farthest = (phones: number, confidence: number): number =>
  FARTHEST.most - FARTHEST.byPhone / phones - FARTHEST.bySure * confidence;

function waysOf(words: readonly Word[], pronounce: Pronounce, numberOf: (phone: string) => number): Ways {
  const phonesOf = (text: string): Uint8Array =>
    Uint8Array.from(
      spokenForms(text).flatMap((form) => [...pronounce(form)]),
      (phone) => Math.min(NONE, numberOf(phone))
    );
  return words.map((word) => {
    if (word.kind !== 'speech' || !word.shown) return [];
    // Others than the word itself mean nothing once it was put right.
    const texts = [word.text, ...(word.correctedAt === null ? word.alternatives.slice(0, MOST_OTHER_WAYS) : [])];
    const own = texts.map(phonesOf).filter((phones) => phones.length > 0);
    return own.filter((phones, at) => own.findIndex((other) => other.join() === phones.join()) === at);
  });
}

/** For each prefix of a term, the least cost of a run that ends here, and the word that the run began with. */
interface Column {
  readonly costs: Float64Array;
  readonly froms: Int32Array;
}
const columnOf = (rows: number): Column => ({
  costs: new Float64Array(rows + 1).fill(FAR),
  froms: new Int32Array(rows + 1)
});

/** Runs of whole words that cost no more than the farthest, each the best of those that end where it does. */
function runsLike(
  ways: Ways,
  term: readonly string[],
  names: readonly string[],
  mostWords: number
): { readonly from: number; readonly to: number; readonly cost: number }[] {
  const rows = term.length;
  const substitution = names.map((name) => Float64Array.from(term, (phone) => phoneDistance(phone, name)));
  const deletion = Float64Array.from(term, phoneWeight);
  const insertion = Float64Array.from(names, phoneWeight);
  const limit = deletion.reduce((sum, weight) => sum + weight, 0) * farthest(rows, 0);
  let here = columnOf(rows);
  let next = columnOf(rows);
  const way = columnOf(rows);
  const found: { from: number; to: number; cost: number }[] = [];
  ways.forEach((ofWord, word) => {
    if (ofWord.length === 0) return;
    begin(here, word, deletion);
    next.costs.fill(FAR);
    for (let rank = 0; rank < ofWord.length; rank++) {
      const phones = ofWord[rank]!;
      way.costs.set(here.costs);
      way.froms.set(here.froms);
      for (const phone of phones) goOn(way, substitution[phone]!, deletion, insertion[phone]!);
      const unsure = rank === 0 ? 0 : OTHER_WAY_COST;
      for (let row = 0; row <= rows; row++) {
        if (way.costs[row]! + unsure >= next.costs[row]!) continue;
        next.costs[row] = way.costs[row]! + unsure;
        next.froms[row] = way.froms[row]!;
      }
    }
    [here, next] = [next, here];
    const [from, cost] = [here.froms[rows]!, here.costs[rows]!];
    if (cost <= limit && word + 1 - from <= mostWords) found.push({ from, to: word + 1, cost });
  });
  return found;
}

/** A run may begin at a word, also one that leaves out the term's first sounds. */
function begin({ costs, froms }: Column, word: number, deletion: Float64Array): void {
  let skipped = 0;
  for (let row = 0; row < deletion.length; row++) {
    if (skipped < costs[row]!) {
      costs[row] = skipped;
      froms[row] = word;
    }
    skipped += deletion[row]!;
  }
}

/** One phone more is heard. `substitution`: what it costs instead of each of the term's. */
function goOn({ costs, froms }: Column, substitution: Float64Array, deletion: Float64Array, insertion: number): void {
  let diagonal = costs[0]!;
  let diagonalFrom = froms[0]!;
  costs[0] = Math.min(diagonal + insertion, FAR);
  for (let row = 0; row < deletion.length; row++) {
    const before = costs[row + 1]!;
    const beforeFrom = froms[row + 1]!;
    let cost = diagonal + substitution[row]!;
    let from = diagonalFrom;
    if (before + insertion < cost) {
      cost = before + insertion;
      from = beforeFrom;
    }
    if (costs[row]! + deletion[row]! < cost) {
      cost = costs[row]! + deletion[row]!;
      from = froms[row]!;
    }
    diagonal = before;
    diagonalFrom = beforeFrom;
    costs[row + 1] = cost;
    froms[row + 1] = from;
  }
}

/** The nearest first; what overlaps one that is taken goes. */
function withoutOverlaps<M extends NearMiss>(misses: readonly M[]): M[] {
  const taken = new Set<number>();
  const kept: M[] = [];
  for (const miss of misses.toSorted((one, other) => one.distance - other.distance || other.count - one.count)) {
    const places = Array.from({ length: miss.count }, (_, step) => miss.from + step);
    if (places.some((place) => taken.has(place))) continue;
    for (const place of places) taken.add(place);
    kept.push(miss);
  }
  return kept.sort((one, other) => one.from - other.from);
}
