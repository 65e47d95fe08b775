import { expect, test } from 'vitest';
import { languageName } from '$lib/core/track';
import { languageGroups } from './languages';

test('languages stand by what can be done in them, by name, each once', () => {
  const [heard, timed] = languageGroups(['en-US']);
  expect(heard!.tags).toContain('en-GB');
  expect(heard!.tags.every((tag) => tag.startsWith('en'))).toBe(true);
  expect(timed!.tags).not.toContain('en');
  const names = timed!.tags.map(languageName);
  expect(names).toEqual(names.toSorted((one, other) => one.localeCompare(other)));
  expect(new Set(names).size).toBe(names.length);
  expect(languageGroups([])).toHaveLength(1);
});

test('a tag that is none is its own name', () => {
  const tags = ['pt-BR', 'x', '', 'en-12', 'not a tag', 'x'.repeat(300)];
  expect(tags.map(languageName)).toEqual(['Portuguese (Brazil)', ...tags.slice(1)]);
});
