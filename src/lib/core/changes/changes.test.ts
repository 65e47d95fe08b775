import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { z } from 'zod';
import { applyChanges, changesBetween, changesSchemaOf, type ChangeOf, type Shape } from '.';

/** A document that is none of the product's: a logbook of a tower clock. */
const shape = {
  lists: {
    entries: z.object({ id: z.string(), text: z.string(), tags: z.array(z.string()) }),
    weights: z.object({ id: z.string(), grams: z.number() })
  },
  fields: { title: z.string(), keeper: z.object({ name: z.string() }).nullable() }
} satisfies Shape;

interface Logbook {
  readonly entries: readonly { readonly id: string; readonly text: string; readonly tags: readonly string[] }[];
  readonly weights: readonly { readonly id: string; readonly grams: number }[];
  readonly title: string;
  readonly keeper: { readonly name: string } | null;
}
type Change = ChangeOf<typeof shape>;

const listOf = <T>(item: (id: string) => fc.Arbitrary<T>): fc.Arbitrary<T[]> =>
  fc.uniqueArray(fc.constantFrom(...'abcdefghij'), { maxLength: 8 }).chain((ids) => fc.tuple(...ids.map(item)));

const anyLogbook: fc.Arbitrary<Logbook> = fc.record({
  entries: listOf((id) =>
    fc.record({
      id: fc.constant(id),
      text: fc.constantFrom('wound', 'oiled', 'late'),
      tags: fc.array(fc.constantFrom('bell', 'wheel'), { maxLength: 2 })
    })
  ),
  weights: listOf((id) => fc.record({ id: fc.constant(id), grams: fc.integer({ min: 1, max: 3 }) })),
  title: fc.constantFrom('Merrowby', 'Bexley'),
  keeper: fc.option(fc.record({ name: fc.constantFrom('Ines', 'Tobin') }))
});

/** Written and read, as it is kept. */
const kept = (changes: readonly Change[]): readonly Change[] =>
  changesSchemaOf(shape).parse(JSON.parse(JSON.stringify(changes)));
const applied = (document: Logbook, changes: readonly Change[]) => {
  const done = applyChanges<Logbook, typeof shape>(document, kept(changes));
  if (!done.ok) throw new Error(done.problem.message);
  return done.value;
};
const bytes = (document: Logbook): string => JSON.stringify(document);

describe('changes between any two documents', () => {
  test('make one of the other, and their inverse brings it back, to the byte', () => {
    fc.assert(
      fc.property(anyLogbook, anyLogbook, (before, after) => {
        const { document, inverse } = applied(before, changesBetween(before, after, shape));
        expect(bytes(document)).toBe(bytes(after));
        const back = applied(document, inverse);
        expect(bytes(back.document)).toBe(bytes(before));
        expect(bytes(applied(back.document, back.inverse).document)).toBe(bytes(after));
      })
    );
  });

  test('of a document and itself, or a copy of it, are none', () => {
    fc.assert(
      fc.property(anyLogbook, (document) => {
        expect(changesBetween(document, document, shape)).toEqual([]);
        expect(changesBetween(document, structuredClone(document), shape)).toEqual([]);
      })
    );
  });

  test('leave the items alone that they do not name', () => {
    fc.assert(
      fc.property(anyLogbook, fc.constantFrom('struck', 'stopped'), (before, text) => {
        const [first, ...rest] = before.entries;
        if (first === undefined) return;
        const after = { ...before, entries: [{ ...first, text }, ...rest] };
        const { document } = applied(before, changesBetween(before, after, shape));
        rest.forEach((entry, at) => expect(document.entries[at + 1]).toBe(entry));
        expect(document.weights).toBe(before.weights);
      })
    );
  });

  test('name what moved and nothing else', () => {
    const entry = (id: string) => ({ id, text: 'wound', tags: [] });
    const before: Logbook = { entries: [...'abcdef'].map(entry), weights: [], title: 'Merrowby', keeper: null };
    const after = { ...before, entries: [...'bcdaef'].map(entry) };
    const [change] = changesBetween(before, after, shape);
    const taken = change?.type === 'splice' ? change.stretches.flatMap(({ take }) => take) : null;
    expect(taken).toEqual(['a']);
  });
});

describe('changes on a document that others have changed since', () => {
  const entry = (id: string, text = 'wound') => ({ id, text, tags: [] });
  const before: Logbook = {
    entries: [entry('a'), entry('b'), entry('c')],
    weights: [],
    title: 'Merrowby',
    keeper: null
  };
  const oiled = changesBetween(before, { ...before, entries: [entry('a'), entry('b', 'oiled'), entry('c')] }, shape);
  const without = changesBetween(before, { ...before, entries: [entry('a'), entry('c')] }, shape);

  test('find their items where those are now', () => {
    const now = { ...before, entries: [entry('x'), entry('y'), ...before.entries] };
    expect(applied(now, oiled).document.entries.map(({ id, text }) => `${id} ${text}`)).toEqual([
      ...['x wound', 'y wound', 'a wound', 'b oiled', 'c wound']
    ]);
    expect(applied(now, without).document.entries.map(({ id }) => id)).toEqual(['x', 'y', 'a', 'c']);
  });

  test('are refused as a whole where their item, or its place, is gone', () => {
    const now = { ...before, entries: [entry('a'), entry('c')] };
    for (const changes of [
      oiled,
      without,
      [...changesBetween(before, { ...before, title: 'Bexley' }, shape), ...oiled]
    ])
      expect(applyChanges<Logbook, typeof shape>(now, changes)).toMatchObject({
        ok: false,
        problem: { code: 'does_not_fit' }
      });
  });

  test('are not read where they name a list or a field that the shape has not', () => {
    const schema = changesSchemaOf(shape);
    expect(schema.safeParse([{ type: 'splice', list: 'pages', stretches: [] }]).success).toBe(false);
    expect(
      schema.safeParse([{ type: 'set', list: 'weights', items: [{ at: 0, id: 'a', to: { grams: 'two' } }] }]).success
    ).toBe(false);
    expect(schema.safeParse([{ type: 'set', list: 'weights', items: [{ at: -1, id: 'a', to: {} }] }]).success).toBe(
      false
    );
  });
});
