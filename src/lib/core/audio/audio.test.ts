import { describe, expect, test } from 'vitest';
import { chunksBetweenPauses, LEVEL_BYTES, LevelMeter, levelsBetween, quietStretches, speechRegions } from '.';

const map = (...parts: [probability: number, lengthMs: number][]) => ({
  frameMs: 32,
  probabilities: parts.flatMap(([probability, lengthMs]) =>
    Array.from({ length: Math.round(lengthMs / 32) }, () => probability)
  )
});

test('a click is found in its bucket, a sine has its level, silence none; pieces give what the whole gives', () => {
  const samples = new Int16Array(16_000);
  for (let at = 8000; at < 16_000; at++) samples[at] = Math.round(3276.8 * Math.sin((2 * Math.PI * 440 * at) / 16_000));
  samples[4000] = 32_767;
  const meter = new LevelMeter(16_000);
  meter.push(samples);
  const levels = meter.finish();
  expect(levels.length).toBe(200 * LEVEL_BYTES);
  expect(levelsBetween(levels, 250, 255).greatest).toBeCloseTo(1, 2);
  expect(levelsBetween(levels, 245, 250)).toEqual({ least: 0, greatest: 0 });
  expect(levelsBetween(levels, 600, 900).greatest).toBeCloseTo(0.1, 2);
  expect(levelsBetween(levels, 600, 900).least).toBeCloseTo(-0.1, 2);
  expect(quietStretches(levels, { minLengthMs: 400 })).toEqual([{ startMs: 0, endMs: 500 }]);
  const pieces = new LevelMeter(16_000);
  for (let at = 0; at < samples.length; at += 333) pieces.push(samples.subarray(at, at + 333));
  expect(pieces.finish()).toEqual(levels);
  expect(new LevelMeter(16_000).finish()).toHaveLength(0);
});

describe('speech', () => {
  test('is one stretch over a short pause, two over a long one, none where it is never likely', () => {
    expect(speechRegions(map([0, 320], [0.9, 960], [0.1, 96], [0.9, 960], [0.1, 640], [0.9, 640]), 3616)).toEqual([
      { startMs: 280, endMs: 2376 },
      { startMs: 2936, endMs: 3616 }
    ]);
    expect(speechRegions(map([0.3, 3200]), 3200)).toEqual([]);
  });

  test('is parted at pauses; where there is none, where speech is least likely; long silence is in no chunk', () => {
    const speech = map(
      [0.9, 6400],
      [0, 640],
      [0.9, 6400],
      [0, 640],
      [0.9, 3200],
      [0, 9600],
      [0.9, 12_800],
      [0.4, 64],
      [0.9, 12_800]
    );
    const regions = speechRegions(speech, 60_000);
    const chunks = chunksBetweenPauses(regions, speech, { targetMs: 15_000, maxMs: 20_000 });
    expect(chunks.map((chunk) => [chunk.startMs, chunk.endMs])).toEqual([
      [0, 13_760],
      [13_760, 17_620],
      [26_540, 39_728],
      [39_728, 52_884]
    ]);
  });
});
