import { wholeMs } from '../time';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyTrack } from '../testing/any-track';
import { resolveCommands } from '../commands';
import {
  findBrokenInvariant,
  HOUSE_RULES,
  makeCue,
  makeTrack,
  makeWord,
  plainLines,
  type Rules,
  type Word,
  makeSpeaker
} from '../track';
import {
  bestBreak,
  bestLines,
  breakIntoCues,
  endsWith,
  partingCost,
  preparePassage,
  recue,
  scoreCue,
  scoreLines,
  timeCue,
  type Passage
} from '.';

const anyPassageWords = fc.array(
  fc.record({
    text: fc.constantFrom(
      'the',
      'a',
      'clock',
      'Merrowby,',
      'tower',
      'swings.',
      'of',
      'and',
      'have',
      'Tobin',
      'Ashe',
      '40',
      'minutes',
      'escapement',
      'x'
    ),
    lengthMs: fc.integer({ min: 60, max: 1500 }),
    pauseMs: fc.oneof(fc.constant(0), fc.integer({ min: 0, max: 2500 })),
    speaker: fc.constantFrom(null, null, 's1', 's1', 's2')
  }),
  { minLength: 1, maxLength: 14 }
);
const SETTING = {
  rules: HOUSE_RULES,
  language: 'en',
  names: [],
  speakers: [makeSpeaker('s1', 'Ines'), makeSpeaker('s2', 'Tobin')]
};

const anyRules: fc.Arbitrary<Rules> = fc.record({
  maxLines: fc.integer({ min: 1, max: 3 }),
  maxCharsPerLine: fc.integer({ min: 5, max: 42 }),
  maxCharsPerSecond: fc.integer({ min: 8, max: 30 }),
  minDurationMs: fc.constantFrom(500, 1000, 2000),
  maxDurationMs: fc.constantFrom(3000, 7000),
  minGapMs: fc.constantFrom(0, 80, 200),
  lingerMs: fc.constant(500),
  oneWordPerCue: fc.constant(false),
  sharedCues: fc.constantFrom('never', 'dash', 'name')
});

function lay(seeds: readonly { text: string; lengthMs: number; pauseMs: number; speaker?: string | null }[]): Word[] {
  let nowMs = 0;
  return seeds.map((seed, at) => {
    const word = makeWord({
      id: `w${at}`,
      text: seed.text,
      startMs: nowMs,
      endMs: nowMs + seed.lengthMs,
      timing: 'heard',
      speakerId: seed.speaker ?? null
    });
    nowMs += seed.lengthMs + seed.pauseMs;
    return word;
  });
}

/** The least cost of lines over every set of line starts, tried one by one. */
function exhaustiveLines(passage: Passage, from: number, to: number): number {
  let least = Number.POSITIVE_INFINITY;
  for (let set = 0; set < 1 << (to - from); set++) {
    const starts: number[] = [];
    for (let bit = 0; bit < to - from; bit++) if (set & (1 << bit)) starts.push(from + bit + 1);
    if (starts.length < passage.rules.maxLines) least = Math.min(least, scoreLines(passage, from, to, starts));
  }
  return least;
}

describe('the breaker', () => {
  test('finds the least cost there is: equal to trying every break of up to 14 words', () => {
    fc.assert(
      fc.property(anyPassageWords, anyRules, (seeds, rules) => {
        const words = lay(seeds);
        const passage = preparePassage(words, { ...SETTING, rules });
        const cueCost = new Map<number, number>();
        const costOf = (from: number, to: number): number => {
          const key = from * 16 + to;
          const known = cueCost.get(key);
          if (known !== undefined) return known;
          const cost = scoreCue(passage, from, to) + exhaustiveLines(passage, from, to);
          cueCost.set(key, cost);
          return cost;
        };
        let least = Number.POSITIVE_INFINITY;
        for (let set = 0; set < 1 << (words.length - 1); set++) {
          let cost = 0;
          let from = 0;
          for (let at = 0; at < words.length; at++) {
            if (at === words.length - 1 || set & (1 << at)) {
              cost += costOf(from, at);
              from = at + 1;
            }
          }
          least = Math.min(least, cost);
        }
        const found = bestBreak(passage).reduce(
          (sum, cue) =>
            sum + scoreCue(passage, cue.from, cue.to) + scoreLines(passage, cue.from, cue.to, cue.lineStarts),
          0
        );
        expect(found).toBe(least);
      }),
      { numRuns: 60 }
    );
  }, 120_000);

  test('keeps every limit that the words allow to keep', () => {
    const anyLongPassage = fc.array(
      fc.record({
        text: fc.constantFrom('the', 'clock', 'swings,', 'tower.', 'of', 'and', 'slowly'),
        lengthMs: fc.integer({ min: 200, max: 500 }),
        pauseMs: fc.constantFrom(0, 0, 100, 900)
      }),
      { minLength: 20, maxLength: 120 }
    );
    fc.assert(
      fc.property(anyLongPassage, (seeds) => {
        const words = lay(seeds);
        const passage = preparePassage(words, SETTING);
        const breaks = breakIntoCues(words, SETTING);
        expect(breaks.flatMap(({ from, to }) => Array.from({ length: to - from + 1 }, (_, at) => from + at))).toEqual(
          words.map((_, at) => at)
        );
        for (const { from, to, lineStarts } of breaks) {
          expect(lineStarts.length).toBeLessThan(HOUSE_RULES.maxLines);
          const bounds = [from, ...lineStarts, to + 1];
          for (let line = 1; line < bounds.length; line++) {
            expect(
              words
                .slice(bounds[line - 1], bounds[line])
                .map((word) => word.text)
                .join(' ').length
            ).toBeLessThanOrEqual(HOUSE_RULES.maxCharsPerLine);
          }
          expect(words[to]!.endMs - words[from]!.startMs).toBeLessThanOrEqual(HOUSE_RULES.maxDurationMs);
        }
        expect(bestLines(passage, 0, 0).starts).toEqual([]);
      })
    );
  });

  test('breaks where people breathe, and never between what belongs together', () => {
    const text =
      'Today we are going to open the back of the clock and look at the escapement. The pendulum swings once every two seconds, and every swing lets one tooth of the wheel go past.';
    const words = lay(
      text.split(' ').map((word) => ({ text: word, lengthMs: 260, pauseMs: /[.,]$/.test(word) ? 300 : 20 }))
    );
    const cues = breakIntoCues(words, SETTING).map(({ from, to, lineStarts }) => {
      const bounds = [from, ...lineStarts, to + 1];
      return bounds.slice(1).map((end, at) =>
        words
          .slice(bounds[at], end)
          .map((word) => word.text)
          .join(' ')
      );
    });
    expect(cues).toEqual([
      ['Today we are going to open the back', 'of the clock and look at the escapement.'],
      ['The pendulum swings', 'once every two seconds,'],
      ['and every swing lets one', 'tooth of the wheel go past.']
    ]);
  });

  test('a change of speaker ends a cue', () => {
    const words = lay([
      { text: 'Yes.', lengthMs: 300, pauseMs: 0, speaker: 's1' },
      { text: 'No.', lengthMs: 300, pauseMs: 0, speaker: 's2' }
    ]);
    expect(breakIntoCues(words, SETTING).map((cue) => [cue.from, cue.to])).toEqual([
      [0, 0],
      [1, 1]
    ]);
    expect(
      breakIntoCues(
        words.map((word) => ({ ...word, speakerId: null })),
        SETTING
      )
    ).toHaveLength(1);
  });

  test('where the rules let them, short turns share a cue, a line each with its sign; long ones and three do not', () => {
    const dialogue = lay([
      { text: 'Ready?', lengthMs: 400, pauseMs: 100, speaker: 's1' },
      { text: 'Quite', lengthMs: 250, pauseMs: 0, speaker: 's2' },
      { text: 'ready.', lengthMs: 350, pauseMs: 200, speaker: 's2' },
      ...'Then let us go up to the bells and see what holds the hammer.'
        .split(' ')
        .map((text) => ({ text, lengthMs: 300, pauseMs: 20, speaker: 's1' }))
    ]);
    for (const sharedCues of ['dash', 'name'] as const) {
      const rules = { ...HOUSE_RULES, sharedCues };
      const [first, ...others] = breakIntoCues(dialogue, { ...SETTING, rules });
      expect(first).toEqual({ from: 0, to: 2, lineStarts: [1] });
      expect(others.every(({ from }) => from >= 3)).toBe(true);
      const signed = ['Ready?', 'Quite ready.'].map((text, at) =>
        sharedCues === 'dash' ? `- ${text}` : `${SETTING.speakers[at]!.name}: ${text}`
      );
      const cue = makeCue({
        ...{ id: 'c', startMs: 0, endMs: 2000, wordIds: dialogue.slice(0, 3).map((word) => word.id) },
        lineStarts: [dialogue[1]!.id]
      });
      const track = makeTrack({
        ...{ id: 't', recordingId: 'r', language: 'en', title: '', words: dialogue, cues: [cue], rules },
        speakers: SETTING.speakers
      });
      expect(plainLines(track, cue)).toEqual(signed);
    }
  });

  test('one word a cue where the rules say so', () => {
    const words = lay(['one', 'word', 'each'].map((text) => ({ text, lengthMs: 200, pauseMs: 0 })));
    expect(breakIntoCues(words, { ...SETTING, rules: { ...HOUSE_RULES, oneWordPerCue: true } })).toHaveLength(3);
  });
});

test('parting costs follow the words', () => {
  const cost = (text: string): number =>
    partingCost(
      lay(text.split(' ').map((word) => ({ text: word, lengthMs: 1, pauseMs: 0 }))),
      text.split(' ').length - 2,
      'en'
    );
  for (const held of ['the clock', 'of brass', 'is turning', 'says Tobin Ashe', 'forty 40 minutes', 'because it'])
    expect(cost(held), held).toBeGreaterThanOrEqual(100);
  for (const free of ['clock turns', 'the clock, which', 'brass and']) expect(cost(free), free).toBeLessThanOrEqual(0);
  expect(endsWith('Mr.')).toBe('nothing');
  expect(endsWith('past.”')).toBe('sentence');
});

test('a cue lingers to a readable length, as far as the gap allows', () => {
  const cue = { firstStartMs: 1000, lastEndMs: 1400, characters: 30 };
  expect(timeCue(cue, null, HOUSE_RULES)).toEqual({ startMs: 1000, endMs: 2500 });
  expect(timeCue(cue, 2000, HOUSE_RULES)).toEqual({ startMs: 1000, endMs: 1920 });
  expect(timeCue({ ...cue, lastEndMs: wholeMs(12_000) }, null, HOUSE_RULES)).toEqual({ startMs: 1000, endMs: 8000 });
  // Never shorter than a frame, whatever follows.
  expect(timeCue(cue, 1010, HOUSE_RULES)).toEqual({ startMs: 1000, endMs: 1042 });
  expect(timeCue(cue, 1090, { ...HOUSE_RULES, minGapMs: 80 })).toEqual({ startMs: 1000, endMs: 1042 });
});

test('breaking a track anew keeps what always holds, every shown word, and locked cues', () => {
  fc.assert(
    fc.property(anyTrack, anyRules, (track, rules) => {
      let minted = 0;
      const cues = recue(track, rules, () => `n${minted++}`);
      const done = resolveCommands(track, [{ type: 'setCues', cues, rules }]);
      if (!done.ok) throw new Error(done.problem.message);
      expect(findBrokenInvariant(done.value.track)).toBeNull();
      const inCues = new Set(cues.flatMap((cue) => cue.wordIds));
      expect(track.words.filter((word) => word.shown && !inCues.has(word.id))).toEqual([]);
      for (const cue of track.cues.filter((one) => one.locked)) expect(cues).toContainEqual(cue);
    })
  );
});

test('chosen cues are broken anew and the others stay as they are', () => {
  fc.assert(
    fc.property(anyTrack, anyRules, fc.nat(), (track, rules, pick) => {
      let minted = 0;
      const one = track.cues[pick % Math.max(1, track.cues.length)];
      if (one === undefined) return;
      const cues = recue(track, rules, () => `n${minted++}`, new Set([one.id]));
      for (const cue of track.cues.filter(({ id }) => id !== one.id)) expect(cues).toContainEqual(cue);
      expect(resolveCommands(track, [{ type: 'setCues', cues, rules }]).ok).toBe(true);
    })
  );
});
