/** Word error rate: (substitutions + insertions + deletions) / words of the reference, at the least number of errors. */

export interface WordErrors {
  readonly words: number;
  readonly substitutions: number;
  readonly insertions: number;
  readonly deletions: number;
  /** 0 where nothing differs; may exceed 1. 0 for an empty reference and an empty text. */
  readonly wordErrorRate: number;
}

/** Words as they are compared: lower case, without punctuation but for apostrophes within. */
export const comparedWords = (text: string): string[] =>
  text
    .toLowerCase()
    .replaceAll('’', "'")
    .split(/[^\p{L}\p{N}\p{M}']+/u)
    .map((word) => word.replace(/^'+|'+$/g, ''))
    .filter((word) => word !== '');

/** Errors of a text against its reference, both as plain text. */
export function countWordErrors(reference: string, text: string): WordErrors {
  const wanted = comparedWords(reference);
  const had = comparedWords(text);
  // Each row holds, for a prefix of `had`, the least errors and how they split up.
  const width = had.length + 1;
  let costs = Int32Array.from({ length: width }, (_, at) => at);
  let insertions = Int32Array.from({ length: width }, (_, at) => at);
  let deletions = new Int32Array(width);
  for (const [row, word] of wanted.entries()) {
    const nextCosts = new Int32Array(width);
    const nextInsertions = new Int32Array(width);
    const nextDeletions = new Int32Array(width);
    nextCosts[0] = row + 1;
    nextDeletions[0] = row + 1;
    for (let at = 1; at < width; at++) {
      const same = costs[at - 1]! + (had[at - 1] === word ? 0 : 1);
      const deleted = costs[at]! + 1;
      const inserted = nextCosts[at - 1]! + 1;
      const least = Math.min(same, deleted, inserted);
      nextCosts[at] = least;
      const [fromInsertions, fromDeletions, place] =
        least === same
          ? [insertions, deletions, at - 1]
          : least === deleted
            ? [insertions, deletions, at]
            : [nextInsertions, nextDeletions, at - 1];
      nextInsertions[at] = fromInsertions[place]! + (least !== same && least !== deleted ? 1 : 0);
      nextDeletions[at] = fromDeletions[place]! + (least !== same && least === deleted ? 1 : 0);
    }
    [costs, insertions, deletions] = [nextCosts, nextInsertions, nextDeletions];
  }
  const errors = costs[had.length]!;
  const inserted = insertions[had.length]!;
  const deleted = deletions[had.length]!;
  return {
    words: wanted.length,
    substitutions: errors - inserted - deleted,
    insertions: inserted,
    deletions: deleted,
    wordErrorRate: wanted.length === 0 ? (had.length === 0 ? 0 : 1) : errors / wanted.length
  };
}
