import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyTrim, RECORDED_MS } from '../testing/any-trim';
import { mapOf } from '../trims';
import { cutPicture, isSteady, type PictureCut } from '.';

/** Recorded times of what is shown, each with the trimmed time from which on it is, as a player takes them. */
const shownIn = ({ runs }: PictureCut, times: readonly number[]): { readonly atMs: number; readonly ms: number }[] =>
  runs
    .flatMap(({ parts }) =>
      parts.flatMap(({ fromMs, toMs, sourceMs, shownMs }) =>
        times
          .filter((ms) => ms >= fromMs && ms < toMs)
          .map((ms) => ({ atMs: shownMs + Math.max(0, ms - sourceMs), ms }))
      )
    )
    .sort((a, b) => a.atMs - b.atMs);

describe('the picture of a trim', () => {
  test('of steady frames is steady, and off its sound by half a frame, wherever it is cut', () => {
    fc.assert(
      fc.property(
        anyTrim,
        fc.constantFrom(23.976, 25, 29.97),
        fc.integer({ min: 0, max: 39 }),
        (trim, rate, firstMs) => {
          const frameMs = 1000 / rate;
          const times = Array.from(
            { length: Math.floor((RECORDED_MS - firstMs) / frameMs) },
            (_, at) => firstMs + at * frameMs
          );
          const map = mapOf(trim);
          const cut = cutPicture(map, times, rate);
          expect(isSteady(cut.frameTimesMs, rate) || cut.frameTimesMs.length === 0).toBe(true);
          const shown = shownIn(cut, times);
          for (const { plays, fromMs, startMs, endMs } of map.laid) {
            // A shorter one may have no frame of its own, nor has what lies before the first.
            if (plays === 'room' || fromMs === null || fromMs < firstMs || endMs - startMs < 3 * frameMs) continue;
            const first = Math.ceil(startMs / frameMs) + 1;
            for (const slot of [first, Math.floor((endMs - frameMs / 2) / frameMs)]) {
              const recordedMs = fromMs + slot * frameMs - startMs;
              if (recordedMs < firstMs || recordedMs > times.at(-1)!) continue;
              const seen = shown.findLast(({ atMs }) => atMs <= slot * frameMs + 0.01)!;
              expect(Math.abs(seen.ms - recordedMs), `at ${slot}`).toBeLessThanOrEqual(frameMs / 2 + 0.1);
            }
          }
        }
      )
    );
  });

  test('of frames that keep their own times shows each at the time of its sound', () => {
    fc.assert(
      fc.property(
        anyTrim,
        fc.array(fc.integer({ min: 15, max: 400 }), { minLength: 30, maxLength: 200 }),
        (trim, gaps) => {
          const times: number[] = [];
          for (let ms = 0, at = 0; ms < RECORDED_MS; ms += gaps[at++ % gaps.length]!) times.push(ms);
          const map = mapOf(trim);
          const shown = shownIn(cutPicture(map, times, null), times);
          for (const { fromMs, startMs, endMs } of map.laid) {
            if (fromMs === null) continue;
            for (const ms of times.filter((one) => one > fromMs && one < fromMs + endMs - startMs - 1))
              expect(shown.some((one) => one.ms === ms && Math.abs(one.atMs - (ms - fromMs + startMs)) < 1)).toBe(true);
          }
        }
      )
    );
  });
});
