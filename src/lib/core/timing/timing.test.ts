import { asCueId } from '../id';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { resolveCommands } from '../commands';
import { anyTrack } from '../testing/any-track';
import { HOUSE_RULES, makeCue, makeTrack, makeWord, readingSpeed, type Track } from '../track';
import { easeCues, layOnWords } from '.';

const context = { speech: [], shotsMs: [], durationMs: 60_000 };

/** Cues of these times over words that fill them. */
function trackOf(cues: readonly { startMs: number; endMs: number; text: string; locked?: boolean }[]): Track {
  const words = cues.flatMap(({ startMs, endMs, text }, at) =>
    text.split(' ').map((one, step, all) =>
      makeWord({
        ...{ id: `w${at}-${step}`, text: one, timing: 'estimated' },
        startMs: Math.round(startMs + ((endMs - startMs) * step) / all.length),
        endMs: Math.round(startMs + ((endMs - startMs) * (step + 1)) / all.length)
      })
    )
  );
  return makeTrack({
    ...{ id: 't', recordingId: 'r', language: 'en', title: '', words },
    cues: cues.map(({ startMs, endMs, text, locked = false }, at) =>
      makeCue({ id: `c${at}`, startMs, endMs, locked, wordIds: text.split(' ').map((_, step) => `w${at}-${step}`) })
    )
  });
}
const apply = (track: Track, times: ReturnType<typeof easeCues>['times']): Track => {
  const done = resolveCommands(
    track,
    times.map((one) => ({ type: 'setCueTimes' as const, ...one }))
  );
  if (!done.ok) throw new Error(done.problem.message);
  return done.value.track;
};

describe('easing', () => {
  const LONG = 'a line of forty letters, or nearly so, is it';
  test('gives time to what reads too fast, the neediest first, and says what it did', () => {
    const track = trackOf([
      { startMs: 1000, endMs: 2000, text: LONG },
      { startMs: 3000, endMs: 4000, text: 'short' },
      { startMs: 5000, endMs: 5500, text: LONG }
    ]);
    const eased = easeCues(track, context);
    expect(eased).toMatchObject({ tooFastBefore: 2, tooFastAfter: 1 });
    const { cues } = apply(track, eased.times);
    // It takes what is free up to the gap, then a little before it.
    expect(cues[0]).toMatchObject({ startMs: 800, endMs: 2920 });
    expect(cues[2]).toMatchObject({ startMs: 4800, endMs: 7000 });
  });

  test('closes small gaps, and goes to shot changes and speech where it is told to', () => {
    const track = trackOf([
      { startMs: 1000, endMs: 2800, text: 'one two' },
      { startMs: 3000, endMs: 5000, text: 'three four' }
    ]);
    expect(easeCues(track, context)).toMatchObject({ closed: 1, times: [{ cueId: 'c0', startMs: 1000, endMs: 2920 }] });
    const snapped = easeCues(
      track,
      { ...context, shotsMs: [5100], speech: [{ startMs: 1040, endMs: 2700 }] },
      { closeGapsBelowMs: 0, speechReachMs: 120, shotReachMs: 150 }
    );
    expect(snapped.times).toEqual([
      { cueId: 'c0', startMs: 1040, endMs: 2700 },
      { cueId: 'c1', startMs: 3000, endMs: 5100 }
    ]);
  });

  test('overlaps nothing that did not overlap, leaves locked cues, and makes no cue harder to read', () => {
    fc.assert(
      fc.property(anyTrack, fc.nat(3000), fc.nat(600), fc.nat(400), (track, endLaterMs, startEarlierMs, reachMs) => {
        const eased = easeCues(
          track,
          { speech: [{ startMs: 1500, endMs: 3000 }], shotsMs: [900, 4000], durationMs: 30_000 },
          { endLaterMs, startEarlierMs, speechReachMs: reachMs, shotReachMs: reachMs }
        );
        const after = new Map(eased.times.map((one) => [one.cueId, one]));
        const now = track.cues.map((cue) => ({ ...cue, ...after.get(cue.id) }));
        for (const [at, cue] of now.entries()) {
          const old = track.cues[at]!;
          expect(cue.endMs).toBeGreaterThan(cue.startMs);
          if (old.locked) expect(cue).toEqual(old);
          const [next, oldNext] = [now[at + 1], track.cues[at + 1]];
          if (next !== undefined && oldNext !== undefined && old.endMs <= oldNext.startMs)
            expect(cue.endMs).toBeLessThanOrEqual(next.startMs);
        }
        expect(eased.tooFastAfter).toBeLessThanOrEqual(eased.tooFastBefore);
      })
    );
  });

  test('touches the chosen cues alone', () => {
    const track = trackOf([
      { startMs: 1000, endMs: 1500, text: LONG },
      { startMs: 9000, endMs: 9500, text: LONG }
    ]);
    expect(easeCues(track, context, {}, new Set([asCueId('c1')])).times.map(({ cueId }) => cueId)).toEqual(['c1']);
  });
});

describe('laying cues on heard words', () => {
  const heard = ['the', 'clock', 'strikes', 'ten', 'and', 'then', 'it', 'rests'].map((text, at) =>
    makeWord({ id: `h${at}`, text, startMs: 10_000 + at * 400, endMs: 10_300 + at * 400, timing: 'heard' })
  );
  test('starts each with its first word, by what another hearing heard', () => {
    const track = trackOf([
      { startMs: 2000, endMs: 4000, text: 'The clock strikes ten,' },
      { startMs: 4500, endMs: 6000, text: 'and then it rests.' },
      { startMs: 7000, endMs: 8000, text: 'Nobody knows why.' }
    ]);
    const laid = layOnWords(track, heard);
    expect(laid.notHeard).toBe(1);
    const after = apply(track, laid.times);
    expect(after.cues.map(({ startMs }) => startMs)).toEqual([7000, 10_000, 11_600]);
    expect(after.cues[1]!.endMs).toBe(11_600 - HOUSE_RULES.minGapMs);
    expect(readingSpeed(after, after.cues[2]!)).toBeLessThanOrEqual(HOUSE_RULES.maxCharsPerSecond);
  });
});
