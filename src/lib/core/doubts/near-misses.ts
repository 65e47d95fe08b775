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
 * believed a little. Fitted (logistic regression) to what a recogniser made of 55 names in five talks; how it does on
 * others is in docs/bench.md.
 */
const FARTHEST = { most: 0.728, byPhone: 0.62, bySure: 0.14 };
/** So near it is offered wherever it stands. */
const SURELY_NEAR = 0.35;
/** Of what is less near, the nearest of each term: so many, and one more for as many words. */
const LESS_NEAR = { atLeast: 3, oneMoreForWords: 1500 };
/** A term is heard as no more words than its own and so many. */
const MORE_WORDS = 3;
/** Shorter ones sound like too much. */
const LEAST_PHONES = 3;

interface Stream {
  readonly phones: Uint8Array;
  /** For each phone, the index of its word. */
  readonly wordOf: Int32Array;
  readonly starts: Uint8Array;
  readonly ends: Uint8Array;
}

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
  const stream = streamOf(words, pronounce, numberOf);
  const found = terms.flatMap((term) => candidatesFor(term, words, stream, { names, pronounce }));
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
  stream: Stream,
  { names, pronounce }: { readonly names: readonly string[]; readonly pronounce: Pronounce }
): CandidateRun[] {
  const phones = spokenForms(term.soundsLike ?? term.text).flatMap((form) => [...pronounce(form)]);
  if (phones.length < LEAST_PHONES) return [];
  const weight = phones.reduce((sum, phone) => sum + phoneWeight(phone), 0);
  const mostWords = spokenForms(term.text).length + MORE_WORDS;
  return runsLike(stream, phones, names, mostWords).flatMap(({ from, to, cost }) => {
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

function streamOf(words: readonly Word[], pronounce: Pronounce, numberOf: (phone: string) => number): Stream {
  const said = words.map((word) =>
    word.kind === 'speech' && word.shown ? spokenForms(word.text).flatMap((form) => [...pronounce(form)]) : []
  );
  const length = said.reduce((sum, phones) => sum + phones.length, 0);
  const stream = {
    phones: new Uint8Array(length),
    wordOf: new Int32Array(length),
    starts: new Uint8Array(length),
    ends: new Uint8Array(length)
  };
  let at = 0;
  said.forEach((phones, word) => {
    if (phones.length === 0) return;
    stream.starts[at] = 1;
    for (const phone of phones) {
      stream.phones[at] = Math.min(NONE, numberOf(phone));
      stream.wordOf[at++] = word;
    }
    stream.ends[at - 1] = 1;
  });
  return stream;
}

/** Runs of whole words that cost no more than the farthest, each the best of those that end where it does. */
function runsLike(
  stream: Stream,
  term: readonly string[],
  names: readonly string[],
  mostWords: number
): { readonly from: number; readonly to: number; readonly cost: number }[] {
  const rows = term.length;
  const substitution = term.map((phone) => Float64Array.from(names, (name) => phoneDistance(phone, name)));
  const deletion = Float64Array.from(term, phoneWeight);
  const insertion = Float64Array.from(names, phoneWeight);
  const limit = deletion.reduce((sum, weight) => sum + weight, 0) * farthest(rows, 0);
  // A column holds, for each prefix of the term, the least cost of a run that ends here, and where that began.
  const costs = new Float64Array(rows + 1).fill(FAR);
  const froms = new Int32Array(rows + 1);
  const found: { from: number; to: number; cost: number }[] = [];
  for (let at = 0; at < stream.phones.length; at++) {
    const phone = stream.phones[at]!;
    if (stream.starts[at] === 1) {
      // A run may begin here, also one that leaves out the term's first sounds.
      let skipped = 0;
      for (let row = 0; row < rows; row++) {
        if (skipped < costs[row]!) {
          costs[row] = skipped;
          froms[row] = at;
        }
        skipped += deletion[row]!;
      }
    }
    let [diagonal, diagonalFrom] = [costs[0]!, froms[0]!];
    costs[0] = Math.min(costs[0]! + insertion[phone]!, FAR);
    for (let row = 1; row <= rows; row++) {
      const before = costs[row]!;
      const beforeFrom = froms[row]!;
      let cost = diagonal + substitution[row - 1]![phone]!;
      let from = diagonalFrom;
      if (before + insertion[phone]! < cost) {
        cost = before + insertion[phone]!;
        from = beforeFrom;
      }
      if (costs[row - 1]! + deletion[row - 1]! < cost) {
        cost = costs[row - 1]! + deletion[row - 1]!;
        from = froms[row - 1]!;
      }
      [diagonal, diagonalFrom] = [before, beforeFrom];
      costs[row] = cost;
      froms[row] = from;
    }
    if (stream.ends[at] === 1 && costs[rows]! <= limit) {
      const [fromWord, toWord] = [stream.wordOf[froms[rows]!]!, stream.wordOf[at]! + 1];
      if (toWord - fromWord <= mostWords) found.push({ from: fromWord, to: toWord, cost: costs[rows]! });
    }
  }
  return found;
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
