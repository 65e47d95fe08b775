/**
 * A small language model of the phrases to expect, in the ARPA format (Doug Paul's; as CMU's and SRI's tools write it):
 * log10 probabilities of words, of pairs and of triples, with back-off weights.
 */

/** Share of the probability that a counted history keeps for words it was not counted before. */
const KEPT_BACK = 0.2;

/**
 * The model of these phrases, each a run of words as the dictionary has them. Any phrase may follow any; its words follow
 * each other. Deterministic: the same phrases give the same text. Throws where there are none.
 */
export function phraseModel(phrases: readonly (readonly string[])[]): string {
  if (phrases.length === 0) throw new Error('a phrase model needs at least one phrase');
  const ones = new Map<string, number>();
  const pairs = new Map<string, number>();
  const triples = new Map<string, number>();
  const count = (table: Map<string, number>, key: string): void => void table.set(key, (table.get(key) ?? 0) + 1);
  for (const phrase of phrases) {
    // A phrase stands between any words: only what is within it is counted as following.
    phrase.forEach((word, at) => {
      count(ones, word);
      if (at >= 1) count(pairs, `${phrase[at - 1]} ${word}`);
      if (at >= 2) count(triples, `${phrase[at - 2]} ${phrase[at - 1]} ${word}`);
    });
  }
  const firsts = new Map<string, number>();
  for (const phrase of phrases) count(firsts, phrase[0]!);
  const log = (probability: number): string => Math.log10(Math.max(probability, 1e-9)).toFixed(4);
  const histories = (table: Map<string, number>): Map<string, number> => {
    const sums = new Map<string, number>();
    for (const [key, times] of table) {
      sums.set(historyOf(key), (sums.get(historyOf(key)) ?? 0) + times);
    }
    return sums;
  };
  const afterOne = histories(pairs);
  const afterTwo = histories(triples);
  // Without a history a phrase begins; its later words are nearly never said alone.
  const alone = (word: string): number => ((firsts.get(word) ?? 0) + 0.02) / (phrases.length * 1.1 + ones.size * 0.02);
  const lines = (table: Map<string, number>, sums: Map<string, number>, weight: (key: string) => string): string[] =>
    [...table].map(
      ([key, times]) => `${log(((1 - KEPT_BACK) * times) / sums.get(historyOf(key))!)} ${key}${weight(key)}`
    );
  const backOff = (sums: Map<string, number>) => (key: string) => (sums.has(key) ? ` ${log(KEPT_BACK)}` : ' 0.0000');
  const words = ['<s>', '</s>', ...ones.keys()];
  const unigrams = words.map((word) => {
    const probability = word === '<s>' ? 1e-9 : word === '</s>' ? 0.05 : alone(word);
    return `${log(probability)} ${word}${backOff(afterOne)(word)}`;
  });
  const parts = [
    '\\data\\',
    `ngram 1=${unigrams.length}`,
    `ngram 2=${pairs.size}`,
    `ngram 3=${triples.size}`,
    '',
    '\\1-grams:',
    ...unigrams,
    '',
    '\\2-grams:',
    ...lines(pairs, afterOne, backOff(afterTwo)),
    '',
    '\\3-grams:',
    ...lines(triples, afterTwo, () => ''),
    '',
    '\\end\\',
    ''
  ];
  return parts.join('\n');
}

/** The words before the last one. */
const historyOf = (key: string): string => key.slice(0, key.lastIndexOf(' '));
