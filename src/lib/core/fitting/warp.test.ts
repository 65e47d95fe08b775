import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { placeByReading, readScript, warp, type Frames } from '.';

const WIDTH = 6;
/** A run of syllables, each with a sound of its own, as long as is said. */
function frames(lengths: readonly number[], voice = 1): Frames {
  const values = lengths.flatMap((length, syllable) =>
    Array.from({ length }, () =>
      Array.from({ length: WIDTH }, (_, at) => voice * Math.sin((syllable + 1) * (at + 1.7) * 2.3) + 0.3 * voice)
    ).flat()
  );
  return { count: values.length / WIDTH, width: WIDTH, values: Float32Array.from(values) };
}
const startsOf = (lengths: readonly number[]): number[] => {
  let sum = 0;
  return lengths.map((length) => (sum += length) - length);
};

describe('warping', () => {
  test('syllables lie on their own, however they are drawn out and however loud the voice is; none goes back', () => {
    const length = fc.integer({ min: 10, max: 24 });
    const some = fc.array(fc.record({ one: length, other: length }), { minLength: 20, maxLength: 60 });
    fc.assert(
      fc.property(some, (syllables) => {
        const [one, other] = [syllables.map((pair) => pair.one), syllables.map((pair) => pair.other)];
        const { path, cost } = warp(frames(one), frames(other, 2.5));
        const [from, to] = [startsOf(one), startsOf(other)];
        const near = from.filter((start, at) => Math.abs(path[start]! - to[at]!) <= 3).length;
        expect(near / from.length).toBeGreaterThan(0.9);
        path.forEach((column, row) => expect(column).toBeGreaterThanOrEqual(path[row - 1] ?? 0));
        const backwards = frames(other);
        backwards.values.reverse();
        expect(cost).toBeLessThan(0.6 * warp(frames(one), backwards).cost);
      }),
      { numRuns: 40 }
    );
  });

  test('sounds that do not belong together cost about as much as chance; nothing lies on nothing', () => {
    const lengths = Array.from({ length: 60 }, (_, at) => 8 + ((at * 7) % 13));
    const other = frames(lengths);
    const shuffled: Frames = { ...other, values: Float32Array.from(other.values).reverse() };
    expect(warp(frames(lengths), shuffled).cost).toBeGreaterThan(0.5);
    expect(warp(frames(lengths), frames([])).path).toHaveLength(other.count);
    expect(warp(frames([]), other).path).toHaveLength(0);
  });
});

test('words lie where the reading’s frames are laid; a run pressed into nothing is not spoken', () => {
  const script = readScript('Der Turm hat – eine alte kleine Uhr', 'de');
  const words = script.map((word, at) => (word.text === '–' ? null : { startMs: at * 300, endMs: at * 300 + 250 }));
  // The sound goes as the reading for three words, has nothing of the next three, and goes on.
  const path = Int32Array.from({ length: 240 }, (_, frame) => (frame < 120 ? frame : frame < 210 ? 120 : frame - 90));
  const msOfFrame = Array.from({ length: 160 }, (_, frame) => 1000 + frame * 10);
  const placed = placeByReading(script, { words, frameMs: 10 }, { path, cost: 0 }, msOfFrame);
  expect(placed.map(({ text }) => text).join(' ')).toBe('Der Turm hat – eine alte kleine Uhr');
  expect(placed.map(({ place }) => place)).toEqual([
    ...['fitted', 'fitted', 'fitted', 'estimated'],
    ...['not spoken', 'not spoken', 'not spoken', 'fitted']
  ]);
  expect(placed.slice(0, 3).map(({ startMs }) => startMs)).toEqual([1000, 1300, 1600]);
});
