import { toSpan } from '../time';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  asks,
  figureAt,
  isHesitation,
  numberWord,
  punctuate,
  readDictionary,
  writeEnglish,
  writeInPlace,
  type SpokenWord
} from '.';

/** Words 300 ms each; `/` is a pause of 800 ms, `|` one of 120 ms; a number in brackets is the model's odds behind the word. */
function spoken(text: string): SpokenWord[] {
  const words: SpokenWord[] = [];
  let nowMs = 0;
  for (const token of text.split(' ')) {
    if (token === '/') nowMs += 800;
    else if (token === '|') nowMs += 120;
    else {
      const [, word, odds] = /^(.*?)(?:\((-?[\d.]+)\))?$/.exec(token)!;
      words.push({ text: word!, ...toSpan({ startMs: nowMs, endMs: nowMs + 300 }), endOdds: Number(odds ?? -8) });
      nowMs += 300;
    }
  }
  return words;
}
const written = (text: string, figures = true, names: readonly string[] = []): string =>
  writeEnglish(spoken(text), { figures, names: new Set(names) })
    .map((word) => word.text)
    .join(' ');

const inFigures = (text: string): string => {
  const words = text.split(' ').map(numberWord);
  const out: string[] = [];
  for (let at = 0; at < words.length;) {
    const figure = figureAt(words, at);
    out.push(figure?.text ?? words[at]!);
    at = figure?.end ?? at + 1;
  }
  return out.join(' ');
};

describe('figures', () => {
  test.each([
    ['there are a hundred and twelve steps', 'there are 112 steps'],
    ['two hundred and thirty people', '230 people'],
    ['kept for forty years', 'kept for 40 years'],
    ['three of them came', 'three of them came'],
    ['a hundred times', 'a hundred times'],
    ['one thousand two hundred and fifty', '1,250'],
    ['two thousand and five', '2,005'],
    ['three million people', '3 million people'],
    ['it cost one million two hundred thousand', 'it cost 1.2 million'],
    ['in nineteen ninety eight', 'in 1998'],
    ['since eighteen hundred', 'since 1800'],
    ['nineteen oh five', '1905'],
    ['in twenty twenty four', 'in 2024'],
    ['twenty four', '24'],
    ['at nine thirty', 'at 9:30'],
    ['by ten oh five', 'by 10:05'],
    ['seven fifteen p.m.', '7:15 p.m.'],
    ['eight a.m.', '8 a.m.'],
    ["ten o'clock", "10 o'clock"],
    ['ten to eleven', 'ten to eleven'],
    ['half past twelve', 'half past twelve'],
    ['twelve dollars', '$12'],
    ['five dollars and fifty cents', '$5.50'],
    ['two euros', '€2'],
    ['five percent', '5%'],
    ['twenty per cent', '20%'],
    ['three point one four', '3.14'],
    ['the twenty first of may', 'the 21st of may'],
    ['the first time', 'the first time'],
    ['may third', 'may 3rd'],
    ['the eleventh hour', 'the 11th hour'],
    ['five five five oh one two', '555012'],
    ['one two', 'one two'],
    ['one by one', 'one by one']
  ])('%s', (said, figures) => expect(inFigures(said)).toBe(figures));

  const ones = 'one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen'.split(
    ' '
  );
  const teens = [...ones, 'seventeen', 'eighteen', 'nineteen'];
  const tens = 'twenty thirty forty fifty sixty seventy eighty ninety'.split(' ');
  const say = (value: number): string => {
    if (value >= 1000) return [`${say(Math.floor(value / 1000))} thousand`, ...rest(value % 1000)].join(' ');
    if (value >= 100) return [`${say(Math.floor(value / 100))} hundred`, ...rest(value % 100)].join(' ');
    if (value < 20) return teens[value - 1]!;
    return [tens[Math.floor(value / 10) - 2]!, ...rest(value % 10)].join(' ');
  };
  const rest = (value: number): string[] => (value === 0 ? [] : [say(value)]);

  test('every number as it is said, with and without "and", comes back as it is written', () => {
    fc.assert(
      fc.property(fc.integer({ min: 10, max: 999_999 }), fc.boolean(), (value, hasAnd) => {
        const said = hasAnd ? say(value).replace(/hundred (?!thousand)/g, 'hundred and ') : say(value);
        expect(inFigures(`some ${said} things`)).toBe(`some ${value.toLocaleString('en-US')} things`);
      })
    );
  });
});

describe('sentences', () => {
  test('end at a long pause, at a short one where the language ends one, and not behind a word that leads on', () => {
    expect(written('we open the clock / the wheel turns(0.5) | it stops')).toBe(
      'We open the clock. The wheel turns. It stops.'
    );
    expect(written('this is the / old wheel(-7) | of the clock')).toBe('This is the old wheel of the clock.');
  });

  test('are joined by a comma before what goes on, after what leads in, and about a hesitation', () => {
    expect(written('the ferry is late(-2) | but we wait')).toBe('The ferry is late, but we wait.');
    expect(written('if it rains(0.7) | we meet inside')).toBe('If it rains, we meet inside.');
    expect(written('um let us begin with um the weight')).toBe('Um, let us begin with, um, the weight.');
  });

  test('ask where the words do', () => {
    const questions = [
      'do you hear it',
      'what do you hear when something is wrong',
      'and who taught you to listen',
      'how many people came',
      'what time is it',
      'could you tell me',
      'why did it stop'
    ];
    const statements = [
      'when the train is dirty you can hear it',
      'what he said is true',
      'who they are we do not know',
      'how it works is simple',
      'do not forget to write',
      'where the road ends there is a house'
    ];
    for (const text of questions) expect(asks(text.split(' ')), text).toBe(true);
    for (const text of statements) expect(asks(text.split(' ')), text).toBe(false);
  });

  test('end where another voice speaks on, whatever the words', () => {
    const words = spoken('who taught you to listen for that(1) my grandfather did');
    const turn = words.map((word) => (word.text === 'that' ? { ...word, endOdds: Infinity } : word));
    expect(punctuate(turn)[6]).toBe('?');
  });

  test('without a model only pauses speak', () => {
    const words = spoken('so it goes / and goes').map((word) => ({ ...word, endOdds: null }));
    expect(punctuate(words)).toEqual(['', '', '.', '', '.']);
  });
});

test('names take their capital, sentences theirs, and a figure that begins a sentence stays words', () => {
  expect(
    written("we meet on monday in london's harbor / forty people came at nine thirty", true, ['monday', 'london'])
  ).toBe("We meet on Monday in London's harbor. Forty people came at 9:30.");
  expect(written('there were forty people', false)).toBe('There were forty people.');
});

test('a spelling dictionary gives the words that always have a capital, and not those that also have none', () => {
  const { names, isKnown } = readDictionary('5\nMonday/M\nMark/M\nmark/GSD\nReading/M\nread/G\nNATO\nLondon/M\n');
  expect([...names].sort()).toEqual(['london', 'monday']);
  expect(['mark', 'marking', 'reads', 'monday', 'escapement'].map(isKnown)).toEqual([true, true, true, false, false]);
});

test('a reading takes the place of a passage with the passage’s first capital and last mark', () => {
  const inPlace = (reading: string, old: string): string => writeInPlace(reading, old.split(' '));
  expect(inPlace('on the wall', 'On along.')).toBe('On the wall.');
  expect(inPlace('on the wall', 'on along,”')).toBe('on the wall,”');
  expect(inPlace('eye want', 'I won’t')).toBe('eye want');
});

test('hesitations are known by their letters', () => {
  expect(['Um,', 'er', 'Erm.', 'mm', 'hum', 'her', 'umbrella'].map(isHesitation)).toEqual([
    ...[true, true, true, true],
    ...[false, false, false]
  ]);
});

test('every heard word stands in exactly one written word, in order, whatever was said', () => {
  const anyWords = fc.array(
    fc.record({
      text: fc.constantFrom(
        ...'a the one two ten twenty hundred thousand million and point oh first third may dollars cents percent past to'.split(
          ' '
        ),
        ...'um what is it at nineteen thirty if p.m. monday'.split(' ')
      ),
      gap: fc.constantFrom(0, 0, 40, 700),
      endOdds: fc.option(fc.double({ min: -9, max: 4, noNaN: true }))
    }),
    { maxLength: 30 }
  );
  fc.assert(
    fc.property(anyWords, fc.boolean(), (list, figures) => {
      let nowMs = 0;
      const words = list.map(({ text, gap, endOdds }) => {
        const startMs = nowMs;
        nowMs += 200 + gap;
        return { text, ...toSpan({ startMs, endMs: startMs + 200 }), endOdds };
      });
      const out = writeEnglish(words, { figures, names: new Set(['monday']) });
      let at = 0;
      for (const word of out) {
        expect(word.from).toBe(at);
        expect(word.to).toBeGreaterThan(at);
        expect(word.text).toMatch(/^\S+$/);
        expect([word.startMs, word.endMs]).toEqual([words[word.from]!.startMs, words[word.to - 1]!.endMs]);
        at = word.to;
      }
      expect(at).toBe(words.length);
    })
  );
});
