import { existsSync, readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { readTerms } from '$lib/core/expecting';
import { tempFolder } from '../../testing/temp-database';
import { withExpected } from './expect';
import { DICTIONARY } from './model';

/** The pronunciations that were added to the dictionary, and the language model. */
async function expecting(list: string): Promise<{ added: string[]; model: string }> {
  const general = readFileSync(DICTIONARY, 'utf8').trimEnd();
  let paths: string[] = [];
  const found = await withExpected(readTerms(list).terms, tempFolder(), (files) => {
    paths = [files!.dictionaryPath, files!.phraseModelPath];
    const whole = readFileSync(files!.dictionaryPath, 'utf8');
    expect(whole.startsWith(general)).toBe(true);
    const added = whole.slice(general.length).split('\n').filter(Boolean);
    return Promise.resolve({ added, model: readFileSync(files!.phraseModelPath, 'utf8') });
  });
  expect(paths.map((path) => existsSync(path))).toEqual([false, false]);
  return found;
}

describe('what an engine is told to expect', () => {
  test('words of the dictionary are said as it says them; others as they are spelled', async () => {
    const { added, model } = await expecting('escapement\nDunmarrow Ashe\nclock tower');
    expect(added).toHaveLength(1);
    expect(added[0]).toMatch(/^dunmarrow D AH N M/);
    for (const word of ['escapement', 'dunmarrow', 'ashe', 'clock', 'tower']) expect(model).toContain(` ${word} `);
  });

  test('a hint says a word, of as many words as it takes, besides its spelling', async () => {
    const { added } = await expecting('Merrowby = merry oh bee');
    expect(added[0]).toBe('merrowby M EH R IY OW B IY');
    expect(added[1]).toMatch(/^merrowby\(2\) M EH R OW/);
  });

  test('a hint of as many words as the term says each; one of another number says nothing', async () => {
    const { added } = await expecting('Marit Haldane = merit hall');
    expect(added.find((line) => line.startsWith('marit '))).toBe('marit M EH R AH T');
    const none = await expecting('Marit Haldane = one two three');
    expect(none.added.some((line) => /W AH N/.test(line))).toBe(false);
  });

  test('a hint for a word of the dictionary is a further way to say it', async () => {
    const { added } = await expecting('Ashe = ash ay');
    expect(added).toEqual(['ashe(2) AE SH EY']);
  });

  test('nothing to say is nothing to expect', async () => {
    const isNothing = (files: unknown): Promise<boolean> => Promise.resolve(files === null);
    expect(await withExpected([], tempFolder(), isNothing)).toBe(true);
    expect(await withExpected([{ text: '***', soundsLike: null }], tempFolder(), isNothing)).toBe(true);
  });
});
