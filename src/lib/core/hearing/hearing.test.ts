import { asTrackId } from '../id';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { speechRegions } from '../audio';
import { overlapMs, toSpan } from '../time';
import { findBrokenInvariant, HOUSE_RULES } from '../track';
import { draftTrack, timingTrack, wordFromDictionary } from '.';

const heard = (text: string, startMs: number) =>
  text.split(' ').map((word, at) => ({
    text: word,
    ...toSpan({ startMs: startMs + at * 300, endMs: startMs + at * 300 + 280 }),
    confidence: 0.5,
    alternatives: [],
    endOdds: null
  }));

test('sentences come from pauses, chunks stand in order, and what was not heard is a marked hole that no caption shows', () => {
  let minted = 0;
  const track = draftTrack(
    [
      { ...toSpan({ startMs: 5000, endMs: 9000 }), words: null },
      {
        ...toSpan({ startMs: 0, endMs: 5000 }),
        words: [...heard('good morning', 100), ...heard('today we open it', 1600)]
      },
      { ...toSpan({ startMs: 9000, endMs: 12_000 }), words: heard('and listen', 9100) }
    ],
    { writing: { figures: true, names: new Set() }, turns: [] },
    {
      trackId: asTrackId('t'),
      recordingId: 'r',
      language: 'en',
      title: 'Draft',
      rules: HOUSE_RULES,
      names: [],
      mint: () => `m${minted++}`,
      recordingDurationMs: 9800
    }
  );
  expect(track.cues.at(-1)!.endMs, 'no cue ends past the recording').toBe(9800);
  expect(track.words.map((word) => word.text).join(' ')).toBe(
    'Good morning. Today we open it. [not heard, 0:05–0:09] And listen.'
  );
  expect(track.words.find((word) => word.kind === 'hole')).toMatchObject({ shown: false, startMs: 5000, endMs: 9000 });
  expect(track.cues.flatMap((cue) => cue.wordIds)).not.toContain(track.words.find((word) => word.kind === 'hole')!.id);
  expect(findBrokenInvariant(track)).toBeNull();
});

test('dictionary entries become words as they are written', () => {
  expect(['the(2)', "i'm", 'i', '<sil>', '++NOISE++', '[SPEECH]', '(NULL)', "it's"].map(wordFromDictionary)).toEqual([
    'the',
    "I'm",
    'I',
    null,
    null,
    null,
    null,
    "it's"
  ]);
});

describe('empty cues on the speech', () => {
  const anyMap = fc
    .array(
      fc.record({ speechFrames: fc.integer({ min: 1, max: 400 }), quietFrames: fc.integer({ min: 1, max: 120 }) }),
      {
        minLength: 1,
        maxLength: 12
      }
    )
    .map((runs) => ({
      frameMs: 32,
      probabilities: runs.flatMap(({ speechFrames, quietFrames }) => [
        ...new Array<number>(speechFrames).fill(0.95),
        ...new Array<number>(quietFrames).fill(0.02)
      ])
    }));
  const options = () => {
    let minted = 0;
    return {
      trackId: asTrackId('t'),
      recordingId: 'r',
      language: 'cy',
      title: 'Timed',
      rules: HOUSE_RULES,
      names: [],
      mint: () => `m${minted++}`,
      recordingDurationMs: 3_600_000
    };
  };

  test('lie on speech, in order, apart by the least gap, and none is longer than the rules allow', () => {
    fc.assert(
      fc.property(anyMap, (map) => {
        const durationMs = map.probabilities.length * map.frameMs;
        const track = timingTrack(map, durationMs, options());
        expect(findBrokenInvariant(track)).toBeNull();
        expect(track.words).toEqual([]);
        const regions = speechRegions(map, durationMs);
        track.cues.forEach((cue, at) => {
          expect(regions.some((region) => overlapMs(region, cue) > 0)).toBe(true);
          expect(cue.endMs - cue.startMs).toBeLessThanOrEqual(HOUSE_RULES.maxDurationMs);
          const next = track.cues[at + 1];
          if (next !== undefined && cue.endMs - cue.startMs > 100)
            expect(next.startMs - cue.endMs).toBeGreaterThanOrEqual(HOUSE_RULES.minGapMs);
        });
        const spokenMs = regions.reduce((sum, region) => sum + region.endMs - region.startMs, 0);
        const coveredMs = track.cues.reduce(
          (sum, cue) => sum + regions.reduce((own, region) => own + overlapMs(region, cue), 0),
          0
        );
        expect(coveredMs).toBeGreaterThanOrEqual(spokenMs - track.cues.length * (HOUSE_RULES.minGapMs + 1));
      })
    );
  });

  test('a short word gets the least time, as far as there is room', () => {
    const map = {
      frameMs: 32,
      probabilities: [0, 0, 0.9, 0.9, 0.9, 0.9, 0.9, 0.9, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0]
    };
    const [cue] = timingTrack(map, 20_000, options()).cues;
    expect(cue).toMatchObject({ startMs: 24, endMs: 24 + HOUSE_RULES.minDurationMs });
  });
});
