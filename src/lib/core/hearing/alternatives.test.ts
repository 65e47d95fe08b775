import { toSpan } from '../time';
import { expect, test } from 'vitest';
import { withAlternatives } from '.';

const heard = (text: string, startMs: number, endMs: number) => ({
  ...{ text, ...toSpan({ startMs, endMs }) },
  confidence: 0.5,
  alternatives: [],
  endOdds: null
});
const weighed = (text: string, startMs: number, endMs: number, posterior: number) => ({
  ...{ text, posterior },
  ...toSpan({ startMs, endMs })
});

test('what lies where a word lies is what else it could be, likeliest first, each text once', () => {
  const words = [heard('the', 0, 100), heard('club', 100, 500)];
  const lattice = [
    weighed('the', 0, 100, 1),
    weighed('clap', 120, 480, 0.05),
    weighed('clock', 100, 500, 0.2),
    weighed('clock', 110, 500, 0.1),
    weighed('clapper', 120, 520, 0.2),
    weighed('club', 90, 500, 0.5)
  ];
  expect(withAlternatives(words, lattice).map((word) => word.alternatives)).toEqual([[], ['clock', 'clapper', 'clap']]);
});

test('what only touches it, and what hardly any path goes through, is none', () => {
  const words = [heard('club', 100, 500)];
  const lattice = [weighed('o', 60, 240, 0.4), weighed('the', 480, 700, 0.5), weighed('clubs', 100, 500, 0.0001)];
  expect(withAlternatives(words, lattice)[0]!.alternatives).toEqual([]);
});

test('no word offers more than four', () => {
  const lattice = ['a', 'b', 'c', 'd', 'e', 'f'].map((text, at) => weighed(text, 0, 100, 0.3 - at / 100));
  expect(withAlternatives([heard('x', 0, 100)], lattice)[0]!.alternatives).toEqual(['a', 'b', 'c', 'd']);
});
