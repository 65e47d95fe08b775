import { describe, expect, test } from 'vitest';
import { makeSpokenTalk, numbers } from '../testing/any-talk';
import type { ReckonedSpan } from '../time';
import { estimateSync, FRAME_RATE_MIX_UPS, speedOfMixUp, syncedSpan, type SyncEstimate } from '.';

const talk = makeSpokenTalk(600_000, 11);

/** Captions that the retime brings back to where they belong. */
const disturbed = (cues: readonly ReckonedSpan[], shiftMs: number, speed: number): ReckonedSpan[] =>
  cues.map((cue) => ({
    startMs: Math.round((cue.startMs - shiftMs) / speed),
    endMs: Math.round((cue.endMs - shiftMs) / speed)
  }));

function meanOffMs(estimate: SyncEstimate, given: readonly ReckonedSpan[], truth: readonly ReckonedSpan[]): number {
  const off = given.map((cue, at) => Math.abs(syncedSpan(cue, estimate).startMs - truth[at]!.startMs));
  return off.reduce((sum, ms) => sum + ms, 0) / off.length;
}

describe('captions are laid on the speech', () => {
  test.each([-60_000, -12_345, 700, 60_000])('shifted by %d ms', (shiftMs) => {
    const given = disturbed(talk.cues, shiftMs, 1);
    const estimate = estimateSync(given, talk.speech, talk.durationMs);
    expect(meanOffMs(estimate, given, talk.cues)).toBeLessThan(40);
    expect(estimate.speed).toBe(1);
    expect(estimate.confidence).toBeGreaterThan(0.8);
  });

  test.each([...FRAME_RATE_MIX_UPS.map(speedOfMixUp), 1.005, 0.995])('at %d of the speed', (speed) => {
    const given = disturbed(talk.cues, 3000, speed);
    const estimate = estimateSync(given, talk.speech, talk.durationMs);
    expect(meanOffMs(estimate, given, talk.cues)).toBeLessThan(40);
    expect(estimate.confidence).toBeGreaterThan(0.8);
  });

  test('with a third of the cues missing, and much taken for speech that is none', () => {
    const noisy = makeSpokenTalk(600_000, 12, 0.3);
    const random = numbers(5);
    const kept = noisy.cues.filter(() => random() > 0.33);
    const given = disturbed(kept, 20_000, 1);
    const estimate = estimateSync(given, noisy.speech, noisy.durationMs);
    expect(meanOffMs(estimate, given, kept)).toBeLessThan(40);
    expect(estimate.confidence).toBeGreaterThan(0.6);
  });

  test('where a piece was taken out and another put in', () => {
    const moved = (cue: ReckonedSpan): number => (cue.startMs < 180_000 ? 0 : cue.startMs < 420_000 ? 9000 : 31_000);
    const given = talk.cues.map((cue) => ({ startMs: cue.startMs + moved(cue), endMs: cue.endMs + moved(cue) }));
    const estimate = estimateSync(given, talk.speech, talk.durationMs);
    expect(estimate.segments?.map(({ shiftMs }) => Math.round(shiftMs / 100) * 100)).toEqual([0, -9000, -31_000]);
    expect(meanOffMs(estimate, given, talk.cues)).toBeLessThan(40);
  });

  test.each([3_600_000, 36_000_000, 5_000_000])('counted from a time code of %d ms', (codeMs) => {
    const given = disturbed(talk.cues, -codeMs - 2500, 1);
    const estimate = estimateSync(given, talk.speech, talk.durationMs);
    expect(meanOffMs(estimate, given, talk.cues)).toBeLessThan(40);
    expect(estimate.confidence).toBeGreaterThan(0.8);
    const mixed = disturbed(talk.cues, -codeMs * (25 / 24), 25 / 24);
    expect(meanOffMs(estimateSync(mixed, talk.speech, talk.durationMs), mixed, talk.cues)).toBeLessThan(40);
  });

  test('with no more than two minutes of them', () => {
    const short = makeSpokenTalk(120_000, 3);
    const given = disturbed(short.cues, -4000, 1);
    const estimate = estimateSync(given, short.speech, short.durationMs);
    expect(meanOffMs(estimate, given, short.cues)).toBeLessThan(40);
  });
});

test('right captions are left alone', () => {
  expect(estimateSync(talk.cues, talk.speech, talk.durationMs)).toMatchObject({ shiftMs: 0, speed: 1 });
});

test('what cannot be laid says so', () => {
  const other = makeSpokenTalk(600_000, 77);
  const silence = { frameMs: 32, probabilities: new Float64Array(18_750).fill(0.02) };
  const random = numbers(3);
  const noise = { frameMs: 32, probabilities: silence.probabilities.map(() => random() * 0.7) };
  for (const speech of [other.speech, silence, noise])
    expect(estimateSync(talk.cues, speech, talk.durationMs).confidence).toBeLessThan(0.3);
  expect(estimateSync([], talk.speech, talk.durationMs).confidence).toBe(0);
  expect(estimateSync(talk.cues.slice(0, 2), talk.speech, talk.durationMs).confidence).toBe(0);
  const hour = [{ startMs: 0, endMs: 3_600_000 }];
  expect(estimateSync(hour, talk.speech, talk.durationMs).confidence).toBe(0);
  const heap = Array.from({ length: 10_000 }, (_, at) => ({ startMs: at * 6, endMs: at * 6 + 500 }));
  expect(estimateSync(heap, talk.speech, talk.durationMs).confidence).toBeLessThan(0.3);
});
