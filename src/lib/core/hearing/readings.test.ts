import { toSpan } from '../time';
import { expect, test } from 'vitest';
import { rankReadings } from '.';

const reading = (text: string, logLikelihood: number) => ({
  logLikelihood,
  words: text.split(' ').map((word, at) => ({
    text: word,
    ...toSpan({ startMs: at * 300, endMs: at * 300 + 280 }),
    confidence: 0,
    alternatives: [],
    endOdds: null
  }))
});

test('what several searches found comes first; each word is as sure as the readings that hold it agree', () => {
  const readings = rankReadings([
    [reading('on along', 0), reading('on the wall', -0.1)],
    [reading('on the wall', 0), reading('on the war', -2)]
  ]);
  expect(readings.map((one) => one.text)).toEqual(['on the wall', 'on along', 'on the war']);
  const [on, the, wall] = readings[0]!.words;
  expect(on!.confidence).toBeCloseTo(1);
  expect(wall!.confidence).toBeLessThan(the!.confidence);
  expect(readings[0]!.confidence).toBeCloseTo((on!.confidence + the!.confidence + wall!.confidence) / 3);
});

test('the same words are one reading however letters are written; nothing heard is none', () => {
  expect(rankReadings([[reading('p.m. soon', 0), reading('pm soon', -1)], []])).toHaveLength(1);
  expect(rankReadings([[{ words: [], logLikelihood: 0 }]])).toEqual([]);
});
