import { toSpan } from '../time';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { phonesFromIpa, phraseModel, readTerms, spellTerms, spokenForms, termsInNotes, writeTerms } from '.';

const heard = (text: string) =>
  text.split(' ').map((word, at) => ({
    text: word,
    ...toSpan({ startMs: at * 300, endMs: at * 300 + 280 }),
    confidence: 0.9 - at / 100,
    alternatives: [],
    endOdds: null
  }));
const spell = (text: string, ...terms: string[]): string =>
  spellTerms(heard(text), readTerms(terms.join('\n')).terms)
    .map((word) => word.text)
    .join('|');

describe('a list of terms', () => {
  test('is read as people write one', () => {
    const { terms, unread } = readTerms(
      '  Tobin   Ashe\n- Merrowby = merry oh bee\r\n2) escapement; Ines Calder\n\n• tobin ashe = toe bin ash\n*** \n3141\n'
    );
    expect(terms).toEqual([
      { text: 'Tobin Ashe', soundsLike: 'toe bin ash' },
      { text: 'Merrowby', soundsLike: 'merry oh bee' },
      { text: 'escapement', soundsLike: null },
      { text: 'Ines Calder', soundsLike: null }
    ]);
    expect(unread).toEqual(['***', '3141']);
  });

  test('holds up to five thousand lines, of any signs, and comes back as it was written', () => {
    const many = Array.from(
      { length: 6000 },
      (_, at) => `Name ${'abcdefghij'[at % 10]}${String(at).replace(/\d/g, (digit) => 'klmnopqrst'[Number(digit)]!)}`
    );
    const read = readTerms(many.join('\n'));
    expect([read.terms.length, read.unread.length]).toEqual([5000, 1000]);
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 200 }), (list) => {
        const { terms } = readTerms(list);
        expect(readTerms(writeTerms(terms)).terms).toEqual(terms);
        for (const term of terms)
          expect(spokenForms(term.text).every((form) => /^[a-z]+(?:'+[a-z]+)*$/.test(form))).toBe(true);
      })
    );
  });

  test('is spoken in the letters a dictionary has', () => {
    expect(spokenForms('Zoë O’Neil & Søren, verge-and-foliot (1888)')).toEqual([
      'zoe',
      "o'neil",
      'and',
      'soren',
      'verge',
      'and',
      'foliot'
    ]);
  });
});

describe('what was heard of the terms', () => {
  test('is written as the list has it, the longest term first, and the rest as it was', () => {
    expect(spell('today tobin ashe winds the merrowby clock', 'Tobin Ashe', 'Tobin', 'Merrowby')).toBe(
      'today|Tobin|Ashe|winds|the|Merrowby|clock'
    );
    expect(spell('tobin went home', 'Tobin Ashe')).toBe('tobin|went|home');
  });

  test('words heard apart for one that is written together become one, with the time of both', () => {
    const words = spellTerms(heard('a fly wheel turns'), readTerms('Fly-Wheel').terms);
    expect(words.map((word) => word.text)).toEqual(['a', 'Fly-Wheel', 'turns']);
    expect(words[1]).toMatchObject({ ...toSpan({ startMs: 300, endMs: 880 }), confidence: 0.88 });
  });

  test('no word is lost, and times stay in order, whatever the terms', () => {
    const anyWord = fc.constantFrom('the', 'clock', 'tobin', 'ashe', 'merrowby', 'wheel');
    fc.assert(
      fc.property(
        fc.array(anyWord, { minLength: 1, maxLength: 20 }),
        fc.array(fc.array(anyWord, { minLength: 1, maxLength: 3 }), { maxLength: 5 }),
        (words, phrases) => {
          const before = heard(words.join(' '));
          const terms = readTerms(phrases.map((phrase) => phrase.join(' ').toUpperCase()).join('\n')).terms;
          const after = spellTerms(before, terms);
          expect(after.map((word) => word.text.toLowerCase())).toEqual(words);
          expect(after.map(({ startMs, endMs }) => [startMs, endMs])).toEqual(
            before.map(({ startMs, endMs }) => [startMs, endMs])
          );
        }
      )
    );
  });
});

describe('the phrase model', () => {
  const read = (arpa: string): Map<string, { log: number; backOff: number }>[] =>
    arpa
      .split(/\\\d-grams:\n/)
      .slice(1)
      .map(
        (part) =>
          new Map(
            part
              .split('\n')
              .filter((line) => /^-?\d/.test(line))
              .map((line) => {
                const fields = line.split(' ');
                const hasBackOff = /^-?\d+\.\d+$/.test(fields.at(-1)!) && fields.length > 2;
                return [
                  fields.slice(1, hasBackOff ? -1 : undefined).join(' '),
                  { log: Number(fields[0]), backOff: hasBackOff ? Number(fields.at(-1)) : 0 }
                ] as const;
              })
          )
      );

  test('gives what follows in a phrase most of the probability, and counts what it says it holds', () => {
    const arpa = phraseModel([['tobin', 'ashe'], ['merrowby'], ['verge', 'and', 'foliot']]);
    const [ones, pairs, triples] = read(arpa);
    expect(arpa).toContain(`ngram 1=${ones!.size}\nngram 2=${pairs!.size}\nngram 3=${triples!.size}\n`);
    expect(10 ** pairs!.get('tobin ashe')!.log).toBeCloseTo(0.8);
    expect(10 ** triples!.get('verge and foliot')!.log).toBeCloseTo(0.8);
    expect(ones!.get('tobin')!.log).toBeGreaterThan(ones!.get('ashe')!.log);
    expect([...ones!.keys()].sort()).toEqual(
      ['<s>', '</s>', 'tobin', 'ashe', 'merrowby', 'verge', 'and', 'foliot'].sort()
    );
  });

  test('shares no more than the whole among the words that may begin', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { minLength: 1, maxLength: 4 }), {
          minLength: 1,
          maxLength: 30
        }),
        (phrases) => {
          const [ones, pairs] = read(phraseModel(phrases));
          const sum = [...ones!.values()].reduce((all, { log }) => all + 10 ** log, 0);
          expect(sum).toBeLessThan(1.01);
          for (const word of ones!.keys()) {
            const after = [...pairs!].filter(([key]) => key.startsWith(`${word} `));
            const shared = after.reduce((all, [, { log }]) => all + 10 ** log, 0);
            if (after.length > 0) expect(shared).toBeCloseTo(0.8, 2);
          }
        }
      )
    );
  });
});

test('IPA becomes the phones of the dictionary', () => {
  expect(phonesFromIpa('mˈɛɹoʊbi').join(' ')).toBe('M EH R OW B IY');
  expect(phonesFromIpa('ɛskˈeɪpmənt').join(' ')).toBe('EH S K EY P M AH N T');
  expect(phonesFromIpa('tʃˈɜːtʃ').join(' ')).toBe('CH ER CH');
  expect(phonesFromIpa('kˈɔldɚ').join(' ')).toBe('K AO L D ER');
  expect(phonesFromIpa('…?')).toEqual([]);
});

test('names and terms of notes are offered, and not what only begins a sentence', () => {
  const notes = `The Lanternfold Museum, programme
Today Tobin Ashe, Keeper of the Clock, opens the back of it. Then we see the escapement and the remontoire.
• Tobin Ashe: winding
• Questions (Ines Calder’s list)
Merrowby is cold in winter. The Remontoire again.`;
  const known = new Set(
    'the museum programme today keeper opens back then see escapement winding questions list cold winter again clock'.split(
      ' '
    )
  );
  const found = termsInNotes(notes, (word) => known.has(word));
  expect(found.map(({ text, count }) => `${text} ${count}`)).toEqual([
    ...['Tobin Ashe 2', 'remontoire 2', 'Lanternfold Museum 1', 'Keeper of the Clock 1', 'Ines Calder 1', 'Merrowby 1']
  ]);
  expect(termsInNotes('', () => true)).toEqual([]);
});
