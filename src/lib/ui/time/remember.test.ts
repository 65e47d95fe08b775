import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { remembering, type Made } from './remember';

const madeFrom = (from: Readonly<Record<string, readonly number[]>>): Made<{ readonly sum: number }>[] =>
  Object.entries(from).map(([key, parts]) => ({
    key,
    from: parts,
    make: () => ({ sum: parts.reduce((sum, part) => sum + part, 0) })
  }));

describe('remembering', () => {
  it('gives what is made now, whatever was made before', () => {
    const lists = fc.array(
      fc.dictionary(fc.constantFrom('a', 'b', 'c'), fc.array(fc.integer({ min: 0, max: 3 }), { maxLength: 3 }))
    );
    fc.assert(
      fc.property(lists, (all) => {
        const remember = remembering<{ readonly sum: number }>();
        for (const from of all) expect(remember(madeFrom(from))).toEqual(madeFrom(from).map(({ make }) => make()));
      })
    );
  });

  it('makes only what is made from something else, and gives the former list where nothing is', () => {
    const remember = remembering<{ readonly sum: number }>();
    const first = remember(madeFrom({ a: [1, 2], b: [3] }));
    expect(remember(madeFrom({ a: [1, 2], b: [3] }))).toBe(first);
    const second = remember(madeFrom({ a: [1, 2], b: [4] }));
    expect(second[0]).toBe(first[0]);
    expect(second[1]).toEqual({ sum: 4 });
    expect(remember(madeFrom({ b: [4] }))).toEqual([{ sum: 4 }]);
  });
});
