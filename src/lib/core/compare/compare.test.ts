import fc from 'fast-check';
import { expect, test } from 'vitest';
import { makeCue, makeWord } from '../track';
import { changesSince, countWordErrors } from '.';

test('errors are told apart', () => {
  expect(countWordErrors('The clock, lets one tooth go.', 'clock lets one big tooth gone')).toEqual({
    words: 6,
    substitutions: 1,
    insertions: 1,
    deletions: 1,
    wordErrorRate: 0.5
  });
  expect(countWordErrors('', '').wordErrorRate).toBe(0);
});

test('a text has no errors against itself, and never more than both lengths', () => {
  const anyText = fc.array(fc.constantFrom('a', 'b', 'c', 'd'), { maxLength: 12 }).map((words) => words.join(' '));
  fc.assert(
    fc.property(anyText, anyText, (reference, text) => {
      expect(countWordErrors(reference, reference).wordErrorRate).toBe(0);
      const there = countWordErrors(reference, text);
      const back = countWordErrors(text, reference);
      expect(there.substitutions + there.insertions + there.deletions).toBe(
        back.substitutions + back.insertions + back.deletions
      );
      expect(there.words - there.deletions + there.insertions).toBe(back.words);
    })
  );
});

test('since the draft: words by their errors, cues by what became of them', () => {
  const cue = (id: string, startMs: number) => makeCue({ id, startMs, endMs: startMs + 500, wordIds: [] });
  const words = (text: string) =>
    text.split(' ').map((one, at) => makeWord({ id: `${at}`, text: one, startMs: at, endMs: at + 1, timing: 'heard' }));
  const draft = { words: words('the club keeps time'), cues: [cue('a', 0), cue('b', 1000), cue('c', 2000)] };
  const now = {
    words: words('the clock keeps good time'),
    cues: [cue('a', 0), cue('b', 1100), cue('d', 2000), cue('e', 3000)]
  };
  const { words: errors, cues } = changesSince(draft, now);
  expect(errors).toMatchObject({ words: 5, substitutions: 1, deletions: 1, insertions: 0, wordErrorRate: 0.4 });
  expect(cues).toEqual({ made: 2, gone: 1, timed: 1, same: 1 });
});
