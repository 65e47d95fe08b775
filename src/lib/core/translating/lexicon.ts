/**
 * Which words stand for which, learnt from rows that are laid already: words that stand in the same rows more often than
 * by chance (Dice's coefficient). What a row itself says does not count for it, or every mistake would confirm itself.
 */
/** Words of a row and of its translation; each counts once. */
export interface LaidRow {
  readonly source: readonly string[];
  readonly target: readonly string[];
}

export interface Lexicon {
  /** How much a word speaks for standing in a row (above 0) or against it; `isOwn`: it stands there in what was learnt from. */
  readonly weigh: (word: string, row: ReadonlySet<string>, isOwn: boolean) => number;
}

/** Seen together less often, words say nothing. */
const LEAST_TOGETHER = 2;
const LEAST_DICE = 0.25;
const GAIN = 12;
/** A word whose partner is elsewhere speaks less against a row than one whose partner is there speaks for it. */
const AGAINST = 0.35;

export function learnLexicon(rows: readonly LaidRow[]): Lexicon {
  const inSource = countsOf(rows.map(({ source }) => source));
  const inTarget = countsOf(rows.map(({ target }) => target));
  const together = new Map<string, Map<string, number>>();
  for (const { source, target } of rows)
    for (const word of new Set(target)) {
      const partners = together.get(word) ?? new Map<string, number>();
      together.set(word, partners);
      for (const one of new Set(source)) partners.set(one, (partners.get(one) ?? 0) + 1);
    }
  const partnersOf = new Map<string, readonly (readonly [string, number])[]>();
  for (const [word, partners] of together)
    partnersOf.set(
      word,
      [...partners].filter(
        ([one, count]) =>
          count >= LEAST_TOGETHER && diceOf(count, inSource.get(one)!, inTarget.get(word)!) >= LEAST_DICE
      )
    );
  return {
    weigh(word, row, isOwn) {
      const less = isOwn ? 1 : 0;
      const count = inTarget.get(word) ?? 0;
      let [here, anywhere] = [0, 0];
      for (const [one, both] of partnersOf.get(word) ?? []) {
        const isHere = row.has(one);
        const dice = isHere
          ? diceOf(both - less, inSource.get(one)! - less, count - less)
          : diceOf(both, inSource.get(one)!, count);
        anywhere = Math.max(anywhere, dice);
        if (isHere) here = Math.max(here, dice);
      }
      return here >= LEAST_DICE
        ? Math.log1p(GAIN * here)
        : anywhere >= LEAST_DICE
          ? -AGAINST * Math.log1p(GAIN * anywhere)
          : 0;
    }
  };
}

const diceOf = (both: number, one: number, other: number): number =>
  both < LEAST_TOGETHER ? 0 : (2 * both) / (one + other);

function countsOf(rows: readonly (readonly string[])[]): ReadonlyMap<string, number> {
  const counts = new Map<string, number>();
  for (const row of rows) for (const word of new Set(row)) counts.set(word, (counts.get(word) ?? 0) + 1);
  return counts;
}
