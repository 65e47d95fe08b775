import fc from 'fast-check';
import { expect, test } from 'vitest';
import { fromStream, toStream } from './stream';

test('what nobody translates comes back as it was, signs of the format and all', () => {
  const words = fc.array(
    fc.constantFrom('clock', '[sic]', '<i>', 'a/b', '40%', 'x^2', '{}', '@home', '#1', '*', '~', 'é'),
    {
      minLength: 1,
      maxLength: 12
    }
  );
  fc.assert(
    fc.property(words, fc.nat(), (own, number) => {
      const text = own.join(' ');
      expect(fromStream(toStream(text, number), number)).toEqual({ text, unknown: [] });
    })
  );
});

test('marks of what was not known become places of words', () => {
  expect(fromStream('[7]El *escapement deja «*pallets» y @algo#mal.[]\n', 7)).toEqual({
    text: 'El escapement deja «pallets» y algo#mal.',
    unknown: [1, 3, 5]
  });
  expect(fromStream('[7]  Oyes   el timbre?[]\n', 7)).toEqual({ text: 'Oyes el timbre?', unknown: [] });
});

test('an answer to something else is none', () => {
  expect(fromStream('[6]El reloj.[]\n', 7)).toBeNull();
});
