/** Generated talks: sentences of a small grammar, spoken with pauses where people breathe; always the same. */
import { makeWord, type Word } from '../src/lib/core/track';

const NOUNS = [
  'clock',
  'tower',
  'pendulum',
  'wheel',
  'keeper',
  'weight',
  'rope',
  'museum',
  'winter',
  'morning',
  'escapement',
  'bell'
];
const VERBS = ['swings', 'falls', 'turns', 'has stopped', 'is running', 'will strike', 'holds', 'was cleaned'];
const ADJECTIVES = ['old', 'heavy', 'small', 'brass', 'slow', 'careful'];
/** Words that begin a further clause: nothing else in these talks begins with them. */
export const LINKS = ['and', 'but', 'because', 'when', 'which'];
const PLACES = [
  'of the',
  'in the',
  'behind the',
  'over the',
  'for the',
  'near Tobin Ashe and the',
  'after 40 years in the'
];

/** Numbers from 0 to 1, the same every time. */
export function makeRandom(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 16_807) % 2_147_483_647;
    return state / 2_147_483_647;
  };
}

export function makeTalk(count: number, seed = 11): Word[] {
  const random = makeRandom(seed);
  const pick = (list: readonly string[]): string => list[Math.floor(random() * list.length)]!;
  const words: Word[] = [];
  let nowMs = 500;
  while (words.length < count) {
    const clause = (): string =>
      `the ${random() < 0.5 ? `${pick(ADJECTIVES)} ` : ''}${pick(NOUNS)} ${pick(VERBS)} ${pick(PLACES)} ${pick(NOUNS)}`;
    const clauses = Array.from({ length: 1 + Math.floor(random() * 3) }, clause);
    const sentence = `${clauses.join(random() < 0.7 ? `, ${pick(LINKS)} ` : ` ${pick(LINKS)} `)}.`;
    const texts = sentence.replace(/^./, (letter) => letter.toUpperCase()).split(' ');
    texts.forEach((text) => {
      const lengthMs = 110 + text.length * 45 + random() * 60;
      words.push(
        makeWord({
          id: `w${words.length}`,
          text,
          startMs: Math.round(nowMs),
          endMs: Math.round(nowMs + lengthMs),
          timing: 'heard',
          confidence: random()
        })
      );
      nowMs += lengthMs + (text.endsWith('.') ? 450 + random() * 900 : text.endsWith(',') ? 120 + random() * 250 : 15);
    });
  }
  return words.slice(0, count);
}
