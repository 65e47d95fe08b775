import fc from 'fast-check';
import { expect, test } from 'vitest';
import { countWordErrors } from '.';

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
