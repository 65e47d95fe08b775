import fc from 'fast-check';
import { expect, test } from 'vitest';
import { recue } from '../cueing';
import { resolveCommands } from '../commands';
import { anyTrack } from '../testing/any-track';
import { HOUSE_RULES, makeCue, makeTrack, makeWord, readingSpeed } from '../track';
import { checkCues } from '.';

const cue = (id: string, startMs: number, endMs: number, text: string) => ({ id, startMs, endMs, text });
const trackOf = (cues: readonly ReturnType<typeof cue>[], language = 'en') =>
  makeTrack({
    ...{ id: 't', recordingId: 'r', language, title: '' },
    words: cues.flatMap(({ id, startMs, endMs, text }) =>
      text === '' ? [] : [makeWord({ id: `w${id}`, text, startMs, endMs, timing: 'estimated' })]
    ),
    cues: cues.map(({ id, startMs, endMs, text }) =>
      makeCue({ id, startMs, endMs, wordIds: text === '' ? [] : [`w${id}`] })
    )
  });

test('each rule has its finding, with the cue and the figure', () => {
  const track = trackOf([
    cue('a', 1000, 2000, 'x'.repeat(43)),
    cue('b', 2040, 2500, 'short'),
    cue('c', 2400, 12_000, 'long'),
    cue('d', 13_000, 15_000, ''),
    cue('e', 16_000, 21_000, 'late')
  ]);
  expect(checkCues(track, 20_000).map(({ rule, cueId }) => `${cueId} ${rule}`)).toEqual([
    ...['a reading_speed', 'a line_length', 'b min_duration', 'b min_gap'],
    ...['c max_duration', 'c overlap', 'd empty_cue', 'e past_end']
  ]);
  expect(checkCues(track, 20_000)[0]).toMatchObject({ severity: 'error', startMs: 1000, fixable: true });
});

test('a cue far from its heard words is off them; one that lingers to be read is not', () => {
  const track = trackOf([cue('a', 1000, 3000, 'word')]);
  const at = (startMs: number, endMs: number) => ({
    ...track,
    words: [makeWord({ id: 'wa', text: 'word', startMs, endMs, timing: 'heard' })]
  });
  expect(checkCues(at(1100, 2500), 9000)).toEqual([]);
  expect(checkCues(at(500, 2500), 9000).map(({ rule }) => rule)).toEqual(['late_start']);
  expect(checkCues(at(1100, 3400), 9000).map(({ rule }) => rule)).toEqual(['off_words']);
});

test('full-width signs fill a line, two letters of half the width count as one', () => {
  const rules = { ...HOUSE_RULES, maxCharsPerLine: 10 };
  const lines = (text: string) =>
    checkCues({ ...trackOf([cue('a', 0, 5000, text)], 'ja'), rules }, 9000).filter(({ rule }) => rule === 'line_length')
      .length;
  expect(lines('時計台の鐘が鳴る今日')).toBe(0);
  expect(lines('時計台の鐘が鳴る今日も')).toBe(1);
  expect(lines('twelve letters 20')).toBe(0);
});

test('it agrees with the figures that are shown, whatever the track is', () => {
  fc.assert(
    fc.property(anyTrack, (track) => {
      const findings = checkCues(track, 60_000);
      const tooFast = track.cues.filter((one) => readingSpeed(track, one) > track.rules.maxCharsPerSecond);
      expect(findings.filter(({ rule }) => rule === 'reading_speed').map(({ cueId }) => cueId)).toEqual(
        tooFast.map(({ id }) => id)
      );
    })
  );
});

test('what was broken anew keeps the lines within their limits where the words allow it', () => {
  fc.assert(
    fc.property(anyTrack, (track) => {
      let minted = 0;
      const free = { ...track, cues: track.cues.map((one) => ({ ...one, locked: false })) };
      const cues = recue(free, HOUSE_RULES, () => `n${minted++}`);
      const done = resolveCommands(free, [{ type: 'setCues', cues, rules: HOUSE_RULES }]);
      if (!done.ok) throw new Error(done.problem.message);
      const longest = Math.max(0, ...track.words.map((word) => word.text.length));
      if (longest <= HOUSE_RULES.maxCharsPerLine)
        expect(checkCues(done.value.track, 60_000).filter(({ rule }) => rule === 'line_length')).toEqual([]);
    })
  );
});
