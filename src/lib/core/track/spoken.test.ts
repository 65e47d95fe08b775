import fc from 'fast-check';
import { expect, test } from 'vitest';
import { makeWord, spokenOrder, type Word } from '.';

const word = (at: number, startMs: number, kind: Word['kind'] = 'speech'): Word => ({
  ...makeWord({ id: `w${at}`, text: 'tick', startMs, endMs: startMs + 100, timing: 'heard' }),
  kind
});

test('words are in the order in which they start, whichever list was asked for before', () => {
  const edit = fc.record({
    at: fc.nat({ max: 7 }),
    startMs: fc.nat({ max: 900 }),
    kind: fc.constantFrom('speech' as const, 'sound' as const, 'hole' as const),
    isTaken: fc.boolean()
  });
  fc.assert(
    fc.property(fc.array(edit, { maxLength: 12 }), (edits) => {
      let words: readonly Word[] = Array.from({ length: 8 }, (_, at) => word(at, at * 100));
      edits.forEach(({ at, startMs, kind, isTaken }, step) => {
        words = isTaken ? words.toSpliced(at, 1) : words.toSpliced(at, 1, word(10 + step, startMs, kind));
        const spoken = words.filter((one) => one.kind !== 'hole');
        expect(spokenOrder(words)).toEqual(spoken.toSorted((a, b) => a.startMs - b.startMs));
      });
    })
  );
});

test('a list in order is given as it is', () => {
  const words = [word(0, 0), word(1, 100), word(2, 100)];
  expect(spokenOrder(words)).toBe(words);
});
