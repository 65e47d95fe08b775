import { existsSync, readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { readTerms } from '$lib/core/expecting';
import { tempFolder } from '../../testing/temp-database';
import { writeExpected } from './expect';
import { DICTIONARY } from './model';

/** The pronunciations that were added to the dictionary, and the language model. */
async function expecting(list: string): Promise<{ added: string[]; model: string }> {
  const { files, remove } = (await writeExpected(readTerms(list).terms, tempFolder()))!;
  const general = readFileSync(DICTIONARY, 'utf8').trimEnd();
  const whole = readFileSync(files.dictionaryPath, 'utf8');
  expect(whole.startsWith(general)).toBe(true);
  const added = whole.slice(general.length).split('\n').filter(Boolean);
  const model = readFileSync(files.phraseModelPath, 'utf8');
  await remove();
  expect([existsSync(files.dictionaryPath), existsSync(files.phraseModelPath)]).toEqual([false, false]);
  return { added, model };
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
    expect(await writeExpected([], tempFolder())).toBeNull();
    expect(await writeExpected([{ text: '***', soundsLike: null }], tempFolder())).toBeNull();
  });
});
