/** Which of two runs of words are the same: a global alignment, by how alike they are spelled. */

/** An index into each side; they pair in order. */
export interface Match {
  readonly script: number;
  readonly heard: number;
  readonly isExact: boolean;
}

/** Cells of one table of costs; beyond it a stretch is left unmatched. */
const MOST_CELLS = 30_000_000;
/** Runs of this many words that stand once on both sides hold the rest in place. */
const ANCHOR_WORDS = 3;
/** Less alike than this, two words are no match. */
const LEAST_LIKENESS = 0.5;

/** The alignment of least cost of two lists of words in small letters. */
export function matchWords(script: readonly string[], heard: readonly string[]): readonly Match[] {
  const matches: Match[] = [];
  let [fromScript, fromHeard] = [0, 0];
  const between = (toScript: number, toHeard: number): void =>
    matchStretch(script, heard, { fromScript, toScript, fromHeard, toHeard }, matches);
  for (const anchor of anchors(script, heard)) {
    between(anchor.script, anchor.heard);
    matches.push(anchor);
    [fromScript, fromHeard] = [anchor.script + 1, anchor.heard + 1];
  }
  between(script.length, heard.length);
  return matches;
}

/** Words of runs that are unique on both sides, in the longest order that both keep. */
function anchors(script: readonly string[], heard: readonly string[]): Match[] {
  const placesOf = (words: readonly string[]): Map<string, number> => {
    const places = new Map<string, number>();
    for (let at = 0; at + ANCHOR_WORDS <= words.length; at++) {
      const key = words.slice(at, at + ANCHOR_WORDS).join(' ');
      places.set(key, places.has(key) ? -1 : at);
    }
    return places;
  };
  const heardPlaces = placesOf(heard);
  const pairs = [...placesOf(script)]
    .map(([key, at]) => ({ script: at, heard: heardPlaces.get(key) ?? -1 }))
    .filter((pair) => pair.script >= 0 && pair.heard >= 0)
    .sort((one, other) => one.script - other.script);
  return longestRising(pairs).map((pair) => ({ ...pair, isExact: true }));
}

/** The longest subsequence whose `heard` rises. */
function longestRising<T extends { readonly heard: number }>(pairs: readonly T[]): T[] {
  const tails: number[] = [];
  const before: number[] = [];
  pairs.forEach((pair, at) => {
    let low = 0;
    let high = tails.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (pairs[tails[middle]!]!.heard < pair.heard) low = middle + 1;
      else high = middle;
    }
    before[at] = low === 0 ? -1 : tails[low - 1]!;
    tails[low] = at;
  });
  const chosen: T[] = [];
  for (let at = tails.at(-1) ?? -1; at >= 0; at = before[at]!) chosen.push(pairs[at]!);
  return chosen.reverse();
}

const PAIR = 0;
const SKIP_SCRIPT = 1;
const SKIP_HEARD = 2;

function matchStretch(
  script: readonly string[],
  heard: readonly string[],
  stretch: { fromScript: number; toScript: number; fromHeard: number; toHeard: number },
  matches: Match[]
): void {
  const { fromScript, toScript, fromHeard, toHeard } = stretch;
  const [rows, columns] = [toScript - fromScript, toHeard - fromHeard];
  if (rows === 0 || columns === 0 || rows * columns > MOST_CELLS) return;
  const width = columns + 1;
  const steps = new Uint8Array((rows + 1) * width);
  let costs = Float32Array.from({ length: width }, (_, at) => at);
  steps.fill(SKIP_HEARD, 0, width);
  const likeness = memoised(likenessOf);
  for (let row = 1; row <= rows; row++) {
    const next = new Float32Array(width);
    next[0] = row;
    steps[row * width] = SKIP_SCRIPT;
    const word = script[fromScript + row - 1]!;
    for (let column = 1; column <= columns; column++) {
      const alike = likeness(word, heard[fromHeard + column - 1]!);
      // Two words that are not alike at all cost as much as leaving both out.
      const pair = costs[column - 1]! + (alike < LEAST_LIKENESS ? 2 : 1 - alike);
      const skipScript = costs[column]! + 1;
      const skipHeard = next[column - 1]! + 1;
      const least = Math.min(pair, skipScript, skipHeard);
      next[column] = least;
      steps[row * width + column] = least === pair ? PAIR : least === skipScript ? SKIP_SCRIPT : SKIP_HEARD;
    }
    costs = next;
  }
  const found: Match[] = [];
  for (let [row, column] = [rows, columns]; row > 0 || column > 0;) {
    const step = steps[row * width + column]!;
    if (step === PAIR) {
      const [word, other] = [script[fromScript + row - 1]!, heard[fromHeard + column - 1]!];
      if (likeness(word, other) >= LEAST_LIKENESS)
        found.push({ script: fromScript + row - 1, heard: fromHeard + column - 1, isExact: word === other });
      row--;
      column--;
    } else if (step === SKIP_SCRIPT) row--;
    else column--;
  }
  matches.push(...found.reverse());
}

function memoised(likeness: (one: string, other: string) => number): (one: string, other: string) => number {
  const known = new Map<string, Map<string, number>>();
  return (one, other) => {
    if (one === other) return 1;
    let row = known.get(one);
    if (row === undefined) known.set(one, (row = new Map<string, number>()));
    let value = row.get(other);
    if (value === undefined) row.set(other, (value = likeness(one, other)));
    return value;
  };
}

/** 1 less the share of letters that differ (edit distance by the longer one's length). */
export function likenessOf(one: string, other: string): number {
  let row = Array.from({ length: other.length + 1 }, (_, at) => at);
  for (let at = 1; at <= one.length; at++) {
    const next = [at];
    for (let to = 1; to <= other.length; to++)
      next.push(Math.min(row[to - 1]! + (one[at - 1] === other[to - 1] ? 0 : 1), row[to]! + 1, next[to - 1]! + 1));
    row = next;
  }
  return 1 - row[other.length]! / Math.max(one.length, other.length, 1);
}
