import { createRequire } from 'node:module';
import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { expect, test } from 'vitest';
import { dictionaryFor } from './dictionaries';

test.each([
  ['en-GB', 'dictionary-en-gb'],
  ['en-ZA', 'dictionary-en'],
  ['it', 'dictionary-it'],
  ['pt-PT', 'dictionary-pt-pt'],
  ['pt-BR', 'dictionary-pt'],
  ['no', 'dictionary-nb'],
  ['ja', null],
  ['gsw', null]
])('%s is spelled by %s', (tag, name) => {
  expect(dictionaryFor(tag)).toBe(name);
});

test.each('bg ca da el fa he hu it nl pl sr sv tr vi'.split(' '))('the dictionary of %s is installed', (tag) => {
  const folder = dirname(createRequire(import.meta.url).resolve(dictionaryFor(tag)!));
  for (const file of ['index.aff', 'index.dic']) expect(existsSync(join(folder, file))).toBe(true);
});
