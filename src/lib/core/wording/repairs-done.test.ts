import { expect, test } from 'vitest';
import { resolveCommands } from '../commands';
import { makeCue, makeTrack, makeWord, type Track } from '../track';
import { repairEdits, repairsDone, REPAIRS, type Repair } from '.';

const texts = ['mind', 'the', 'last', 'step', 'now'];
const words = texts.map((text, at) =>
  makeWord({ id: `w${at}`, text, startMs: at * 400, endMs: at * 400 + 300, timing: 'heard' })
);
const cue = makeCue({ id: 'c', startMs: 0, endMs: 2500, wordIds: words.map(({ id }) => id) });
const track = makeTrack({ ...{ id: 't', recordingId: 'r', language: 'en', title: '' }, words, cues: [cue] });
const run = (of: Track) => of.words.slice(1, 3);
const repaired = (of: Track, repair: Repair): Track => {
  const done = resolveCommands(of, repairEdits(of, run(of), repair));
  if (!done.ok) throw new Error(done.problem.message);
  return done.value.track;
};

const toggles = REPAIRS.filter((repair) => !['noMark', 'remove', 'join'].includes(repair));

test.each(toggles)('%s is seen as done once it is, and no more when it is taken back', (repair) => {
  expect(repairsDone(run(track)).has(repair)).toBe(false);
  const once = repaired(track, repair);
  expect(repairsDone(run(once)).has(repair), JSON.stringify(run(once))).toBe(true);
  expect(repairsDone(run(repaired(once, repair))).has(repair)).toBe(false);
});

test('a mark within closing signs is seen, one mark takes the place of another, and nothing is done to no words', () => {
  const quoted = repaired(repaired(track, 'quotes'), 'question');
  expect(repairsDone(run(quoted))).toEqual(new Set(['quotes', 'question']));
  expect(repairsDone(run(repaired(quoted, 'comma')))).toEqual(new Set(['quotes', 'comma']));
  expect(repairsDone(run(repaired(quoted, 'noMark'))).has('question')).toBe(false);
  expect(repairsDone([])).toEqual(new Set());
});
