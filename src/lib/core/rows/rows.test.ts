import { asWordId } from '../id';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { speechRegions } from '../audio';
import { overlapMs, toSpan } from '../time';
import { breakIntoRows, densityOf, laneSpans, layWords, unfold } from '.';

const anyRecording = fc
  .array(
    fc.record({
      speechMs: fc.integer({ min: 100, max: 9000 }),
      pauseMs: fc.integer({ min: 64, max: 60_000 }),
      isLoud: fc.boolean()
    }),
    { maxLength: 25 }
  )
  .map((parts) => {
    const probabilities: number[] = [];
    const quiet: { startMs: number; endMs: number }[] = [];
    for (const part of parts) {
      for (let frame = 0; frame < part.speechMs / 32; frame++) probabilities.push(0.9);
      const startMs = probabilities.length * 32;
      for (let frame = 0; frame < part.pauseMs / 32; frame++) probabilities.push(0.02);
      if (!part.isLoud) quiet.push({ startMs, endMs: probabilities.length * 32 });
    }
    const durationMs = probabilities.length * 32;
    const speech = { frameMs: 32, probabilities };
    return { durationMs, speech, quiet, regions: speechRegions(speech, durationMs) };
  });
const anyRowMs = fc.integer({ min: 4000, max: 40_000 });

describe('rows', () => {
  test('cover the recording without a gap, none longer than the zoom, and break in speech only where it goes on', () => {
    fc.assert(
      fc.property(anyRecording, anyRowMs, (recording, rowMs) => {
        const rows = breakIntoRows({ ...recording, rowMs });
        let lastMs = 0;
        rows.forEach((row, at) => {
          expect(row.startMs).toBe(lastMs);
          expect(row.endMs).toBeGreaterThan(row.startMs);
          lastMs = row.endMs;
          if (row.kind === 'folded') {
            expect(row.endMs - row.startMs).toBeGreaterThan(rowMs);
            expect(recording.regions.every((region) => overlapMs(region, row) === 0)).toBe(true);
            return;
          }
          expect(row.endMs - row.startMs).toBeLessThanOrEqual(rowMs);
          const next = rows[at + 1];
          if (next?.kind !== 'sound') return;
          expect(row.endMs - row.startMs).toBeGreaterThanOrEqual(Math.floor(rowMs * 0.75));
          const quarter = { startMs: row.startMs + rowMs * 0.75, endMs: row.startMs + rowMs };
          const isInSpeech = recording.regions.some((region) => region.startMs < row.endMs && row.endMs < region.endMs);
          const isAllSpeech = recording.regions.some(
            (region) => region.startMs <= quarter.startMs + 1 && region.endMs >= quarter.endMs - 1
          );
          if (isInSpeech) expect(isAllSpeech).toBe(true);
        });
        expect(lastMs).toBe(recording.durationMs);
      })
    );
  });

  test('a fold in which something stands is rows of full length between the same ends', () => {
    expect(
      unfold({ kind: 'folded', ...toSpan({ startMs: 1000, endMs: 26_000 }) }, 10_000).map((row) => [
        row.startMs,
        row.endMs
      ])
    ).toEqual([
      [1000, 11_000],
      [11_000, 21_000],
      [21_000, 26_000]
    ]);
    expect([4000, 10_000, 10_001, 20_000, 20_001].map(densityOf)).toEqual([
      'close',
      'close',
      'middle',
      'middle',
      'wide'
    ]);
  });
});

describe('nothing overprints', () => {
  const measure = (text: string): number => text.length * 7;

  test('words of a row, however close they are spoken', () => {
    const anyWords = fc.array(
      fc.record({
        gap: fc.integer({ min: 0, max: 90 }),
        text: fc.constantFrom('a', 'the', 'clock', 'escapement', 'antidisestablishment', '🕰️🕰️')
      }),
      { maxLength: 60 }
    );
    fc.assert(
      fc.property(anyWords, fc.integer({ min: 80, max: 900 }), (seeds, width) => {
        let x = 0;
        const words = seeds
          .map((seed, at) => ({ id: asWordId(`${at}`), text: seed.text, x: (x += seed.gap) }))
          .filter((word) => word.x < width);
        const laid = layWords(words, { width, gap: 4, measure });
        for (const word of laid) {
          expect(word.width).toBe(measure(word.text));
          expect(word.x + word.width).toBeLessThanOrEqual(width);
          const clashing = laid.filter(
            (other) =>
              other !== word &&
              other.level === word.level &&
              other.x < word.x + word.width + 4 &&
              word.x < other.x + other.width + 4
          );
          expect(clashing).toEqual([]);
        }
        const free = words
          .filter((word, at) => at === 0 || word.x - words[at - 1]!.x > 160)
          .filter((word) => word.x + measure(word.text) <= width);
        for (const word of free) expect(laid.some((one) => one.id === word.id)).toBe(true);
      })
    );
  });

  test('cues: those that overlap lie in lanes of their own, the others in one', () => {
    const anySpans = fc
      .array(fc.record({ startMs: fc.integer({ min: 0, max: 5000 }), lengthMs: fc.integer({ min: 1, max: 2000 }) }), {
        maxLength: 30
      })
      .map((spans) =>
        spans
          .map(({ startMs, lengthMs }) => ({ startMs, endMs: startMs + lengthMs }))
          .sort((a, b) => a.startMs - b.startMs || a.endMs - b.endMs)
      );
    fc.assert(
      fc.property(anySpans, (spans) => {
        const laned = laneSpans(spans);
        expect(laned).toHaveLength(spans.length);
        for (const one of laned) {
          expect(one.lane).toBeLessThan(one.lanes);
          for (const other of laned) {
            if (other === one || overlapMs(one.item, other.item) === 0) continue;
            expect(other.lane).not.toBe(one.lane);
            expect(other.lanes).toBe(one.lanes);
          }
          if (spans.every((span) => span === one.item || overlapMs(span, one.item) === 0)) expect(one.lanes).toBe(1);
        }
      })
    );
  });
});
