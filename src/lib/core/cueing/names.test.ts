import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { HOUSE_RULES, makeWord, type Word } from '../track';
import { breakIntoCues, breakIntoLines } from './breaker';
import { insideNames } from './names';

/** Words one after the other, at an even pace. */
const say = (text: string, msPerCharacter = 60): Word[] => {
  let atMs = 0;
  return text.split(' ').map((one, at) => {
    const startMs = atMs;
    atMs += one.length * msPerCharacter + 40;
    return makeWord({ id: `w${at}`, text: one, startMs, endMs: atMs - 10, timing: 'heard' });
  });
};
const setting = (names: readonly string[], rules: Partial<typeof HOUSE_RULES> = {}) => ({
  ...{ rules: { ...HOUSE_RULES, ...rules }, language: 'en', speakers: [], names }
});
const linesOf = (words: readonly Word[], names: readonly string[], rules: Partial<typeof HOUSE_RULES>): string[] => {
  const starts = new Set<string>(breakIntoLines(words, setting(names, rules)));
  return words
    .map(({ id, text }) => (starts.has(id) ? `\n${text}` : text))
    .join(' ')
    .split(' \n');
};

describe('names on the list', () => {
  test.each<[string, readonly string[], string]>([
    ['we met ada wren today', ['Ada Wren'], '00100'],
    ['we met Ada Wren’s sister', ['Ada Wren'], '00100'],
    ['we met Ada. Wren came too', ['Ada Wren'], '000000'],
    ['the going train drives it', ['going train', 'train'], '01000'],
    ['Ada Wren Ada Wren', ['Ada Wren'], '1010'],
    ['van der Aa and van der Berg', ['van der Aa', 'van der Berg'], '1100110'],
    ['Wren and Ada', ['Ada Wren'], '000'],
    ['pallets', ['pallets'], '0']
  ])('in “%s” %j is found at %s', (text, names, expected) => {
    expect([...insideNames(say(text), names)].join('')).toBe(expected);
  });

  test('are not parted by a line where another line keeps the rules', () => {
    const words = say('we all went along to Bell and Candle');
    const rules = { maxCharsPerLine: 26 };
    expect(linesOf(words, [], rules)).toEqual(['we all went along to Bell', 'and Candle']);
    expect(linesOf(words, ['Bell and Candle'], rules)).toEqual(['we all went', 'along to Bell and Candle']);
    // Where no line can hold it, the rules come first.
    expect(
      linesOf(say('Featherstonehaugh Cholmondeley'), ['Featherstonehaugh Cholmondeley'], { maxCharsPerLine: 20 })
    ).toEqual(['Featherstonehaugh', 'Cholmondeley']);
  });

  test('are parted by a cue only where every other break would break a rule', () => {
    const anyText = fc.array(fc.constantFrom('a', 'we', 'the', 'tower', 'ringing', 'Merrowby,', 'escapement'), {
      ...{ minLength: 0, maxLength: 9 }
    });
    const parts = (words: readonly Word[], names: readonly string[]): boolean => {
      const inside = insideNames(words, ['Ada Wren']);
      return breakIntoCues(words, setting(names)).some(
        ({ to, lineStarts }) => inside[to] === 1 || lineStarts.some((start) => inside[start - 1] === 1)
      );
    };
    fc.assert(
      fc.property(anyText, anyText, (before, after) => {
        // Slow enough to be read, short enough to stand: no rule asks for a break in the name.
        const words = say([...before, 'Ada', 'Wren', ...after].join(' '), 90);
        expect(parts(words, ['Ada Wren'])).toBe(false);
      })
    );
  });
});
