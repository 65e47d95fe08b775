import fc from 'fast-check';
import { iso6393 } from 'iso-639-3';
import { expect, test } from 'vitest';
import { inThreeLetters, nameFiles, namingSchema, USUAL_NAMING, type NamedFile, type Naming } from '.';

const FILE: NamedFile = {
  ...{ title: 'Winding the Merrowby clock', track: '', language: 'en-CA', kind: 'captions', version: 7 },
  ...{ atMs: Date.UTC(2026, 4, 6, 23, 59), extension: 'srt' }
};
const name = (file: Partial<NamedFile>, naming: Partial<Naming> = {}): string =>
  nameFiles([{ ...FILE, ...file }], { ...USUAL_NAMING, ...naming })[0]!;

test('parts stand where the pattern has them, languages as it wants them', () => {
  expect(name({})).toBe('winding-the-merrowby-clock.en-CA.srt');
  expect(name({ track: 'For children' })).toBe('winding-the-merrowby-clock.for-children.en-CA.srt');
  const all = { pattern: '{date} {title} ({language}, {region}, {kind}) v{version}', letters: 'as written' } as const;
  expect(name({}, { ...all, languages: 'en_CA' })).toBe(
    '2026-05-06 Winding the Merrowby clock (en_CA, CA, captions) v7.srt'
  );
  expect(name({ language: 'de' }, { pattern: '{title}_{language}', languages: 'eng' })).toBe(
    'winding-the-merrowby-clock_deu.srt'
  );
});

test('every language of two letters has its three, as the standard lists them', () => {
  for (const { iso6391, iso6392T, iso6393: three } of iso6393)
    if (iso6391 !== undefined) expect(inThreeLetters(iso6391)).toBe(iso6392T ?? three);
  expect(inThreeLetters('yue')).toBe('yue');
});

test('a pattern that has no part, or one that there is not, is refused', () => {
  const isTaken = (pattern: string): boolean => namingSchema.safeParse({ ...USUAL_NAMING, pattern }).success;
  expect(['{title}', 'a {date}', '{title}{language}'].map(isTaken)).toEqual([true, true, true]);
  expect(['', 'captions', '{titel}', '{title} {x}'].map(isTaken)).toEqual([false, false, false, false]);
});

test('names are safe on every system, short enough, and each once, whatever is in them', () => {
  const nasty = fc.constantFrom(
    '../',
    'CON',
    'a/b\\c:d',
    'x'.repeat(400),
    '塔'.repeat(200),
    '👩‍👩‍👧',
    '. . .',
    'É',
    '\u202e',
    '\ud800',
    'nul.txt'
  );
  const anyText = fc.oneof(nasty, fc.string({ unit: 'binary', maxLength: 60 }));
  const anyFile = fc
    .record({ title: anyText, track: anyText, extension: fc.constantFrom('srt', 'vtt') })
    .map((some) => ({ ...FILE, ...some }));
  fc.assert(
    fc.property(
      fc.array(anyFile, { maxLength: 6 }),
      fc.constantFrom('{title}', '{title}.{track}.{language}', '../{title}', '{kind}/{title}', 'con.{title}'),
      fc.constantFrom('small' as const, 'as written' as const),
      (files, pattern, letters) => {
        const names = nameFiles(files, { ...USUAL_NAMING, pattern, letters });
        expect(new Set(names.map((one) => one.toLowerCase())).size).toBe(files.length);
        for (const [at, one] of names.entries()) {
          expect(one).toMatch(/^[^<>:"/\\|?*\p{Cc}\p{Cs}]+$/u);
          expect(one).not.toMatch(/^[ .]|^(?:con|nul)\./i);
          expect(one.normalize('NFC')).toBe(one);
          expect(one.endsWith(`.${files[at]!.extension}`)).toBe(true);
          expect(new TextEncoder().encode(one).length).toBeLessThanOrEqual(255);
        }
      }
    )
  );
});
