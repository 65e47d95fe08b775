import fc from 'fast-check';
import { expect, test } from 'vitest';
import { shelf } from '../testing/fonts';
import { graphemes } from '../track';
import { Typesetter, type SetLine } from '.';

const typesetter = new Typesetter(shelf);
const SETTING = {
  lettering: { face: 'atkinson', weight: 400, italic: false },
  language: 'en',
  sizePx: 10,
  widthPx: 120
};
const set = (text: string, more: Partial<typeof SETTING> = {}): readonly SetLine[] =>
  typesetter.set(text, { ...SETTING, ...more });
const texts = (lines: readonly SetLine[]): readonly string[] => lines.map(({ text }) => text);
const bare = (text: string): string => text.replaceAll(/\s/g, '');

const anyText = fc
  .array(
    fc.oneof(
      fc.string({ unit: 'grapheme-ascii' }),
      fc.constantFrom(
        'clock',
        'escapement',
        'השעון',
        'الساعة',
        'घड़ी',
        'นาฬิกาช้าไปสิบสองนาที',
        '時計は十二分遅れています。',
        '12,5'
      )
    ),
    { maxLength: 25 }
  )
  .map((words) => words.join(' '));

test('nothing is lost or put in, and no line is wider than it may be, if it can be parted', () => {
  fc.assert(
    fc.property(
      anyText,
      fc.integer({ min: 8, max: 300 }),
      fc.constantFrom('en', 'he', 'th'),
      (text, widthPx, language) => {
        const lines = set(text, { widthPx, language });
        expect(bare(texts(lines).join(''))).toBe(bare(text));
        for (const line of lines)
          // Letters that touch two pieces may be drawn a touch wider together.
          if (line.widthPx > widthPx + 2) expect([...graphemes.segment(line.text)].length).toBe(1);
      }
    ),
    { numRuns: 150 }
  );
});

test('as many words as go on a line stand there; signs stay with their words, a no-break space holds them', () => {
  expect(texts(set('The clock of the tower, it is said, is late.'))).toEqual([
    'The clock of the tower, it is',
    'said, is late.'
  ]);
  expect(texts(set('The clock is late by\u00a012\u00a0minutes.'))).toEqual([
    'The clock is late',
    'by\u00a012\u00a0minutes.'
  ]);
  expect(set('  \n ')).toEqual([]);
});

test('scripts without spaces are broken between words, and not before a closing sign', () => {
  expect(texts(set('นาฬิกาช้าไปสิบสองนาทีแล้ว', { language: 'th', widthPx: 60 }))).toEqual(['นาฬิกาช้าไปสิบ', 'สองนาทีแล้ว']);
  for (const { text } of set('時計は、十二分、遅れています。', { language: 'ja', widthPx: 42 }))
    expect(text).toMatch(/^[^、。]/);
});

test('a paragraph runs from one side as a whole, by its language, else by its first letter', () => {
  const levels = (text: string, language: string) =>
    new Set(set(text, { language, widthPx: 60 }).map(({ baseLevel }) => baseLevel % 2));
  expect(levels('השעון מאחר today and tomorrow', 'en')).toEqual(new Set([1]));
  expect(levels('tower clock השעון מאחר ועוד', 'en')).toEqual(new Set([0]));
  expect(levels('tower clock השעון מאחר', 'he')).toEqual(new Set([1]));
});
