import { toSpan } from '../time';
import { expect, test } from 'vitest';
import { findSounds, LevelMeter } from '.';

/** Levels of parts at an amplitude (0 to 1), seconds long. */
function levels(...parts: readonly (readonly [amplitude: number, seconds: number])[]): Uint8Array {
  const meter = new LevelMeter(16_000);
  for (const [amplitude, seconds] of parts)
    meter.push(
      Int16Array.from({ length: seconds * 16_000 }, (_, at) => Math.round(32_767 * amplitude * Math.sin(at * 0.3)))
    );
  return meter.finish();
}

test('a loud stretch away from speech is a sound; speech, quiet and a click are none', () => {
  const sound = levels([0.001, 4], [0.3, 1], [0.001, 3], [0.3, 2], [0.001, 4], [0.4, 0.05], [0.001, 2]);
  const speech = [{ startMs: 8000, endMs: 10_000 }];
  expect(findSounds(sound, speech)).toEqual([{ startMs: 4000, endMs: 5000 }]);
  expect(findSounds(sound, [])).toEqual([
    { startMs: 4000, endMs: 5000 },
    { startMs: 8000, endMs: 10_000 }
  ]);
});

test('strokes close together are one sound; words between them keep them apart', () => {
  const strokes = levels([0.001, 3], [0.5, 0.3], [0.001, 0.5], [0.5, 0.3], [0.001, 3]);
  expect(findSounds(strokes, [])).toEqual([{ startMs: 3000, endMs: 4100 }]);
  expect(findSounds(strokes, [toSpan({ startMs: 3450, endMs: 3650 })])).toHaveLength(2);
});

test('a recording that is loud all the time has its own quiet, and silence has no sounds', () => {
  expect(findSounds(levels([0.05, 10], [0.6, 1], [0.05, 5]), [])).toEqual([{ startMs: 10_000, endMs: 11_000 }]);
  expect(findSounds(levels([0, 10]), [])).toEqual([]);
  expect(findSounds(new Uint8Array(), [])).toEqual([]);
});
