import { toSpan, wholeMs } from '../time';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { fittedWords, isSpoken, matchWords, placeInOrder, planFit, readScript, sayNumber } from '.';

const heard = (text: string, startMs: number) =>
  text.split(' ').map((word, at) => ({
    text: word,
    ...toSpan({ startMs: startMs + at * 300, endMs: startMs + at * 300 + 280 }),
    confidence: 0.9,
    alternatives: [],
    endOdds: null
  }));

describe('a script', () => {
  test('keeps its words to the letter and knows how they are spoken', () => {
    const words = readScript(
      '“In 1998, Ashe’s clock – the old one – cost $12.50.\nIt lost 5%.\n\nTobin & I came on May 3rd.',
      'en'
    );
    expect(words.map((word) => word.text).join(' ')).toBe(
      '“In 1998, Ashe’s clock – the old one – cost $12.50. It lost 5%. Tobin & I came on May 3rd.'
    );
    const forms = (text: string) => words.find((word) => word.text === text)!.forms.join(' ');
    expect(forms('1998,')).toBe('nineteen ninety eight');
    expect(forms('Ashe’s')).toBe("ashe's");
    expect(forms('–')).toBe('');
    expect(forms('$12.50.')).toBe('twelve dollars fifty');
    expect(forms('5%.')).toBe('five percent');
    expect(forms('&')).toBe('and');
    expect(forms('3rd.')).toBe('third');
    expect(words.filter((word) => word.startsParagraph).map((word) => word.text)).toEqual(['“In', 'Tobin']);
  });

  test('is parted into the words of its language where it sets no spaces', () => {
    const words = readScript('我们在钟楼。\n\n<b>今天 很 冷', 'zh');
    expect(words.map(({ text }) => text)).toEqual(['我们', '在', '钟楼。', '<b>', '今天', '很', '冷']);
    expect(words.map(({ spaceBefore }) => spaceBefore)).toEqual([true, false, false, true, false, true, true]);
    expect(words.filter((word) => word.startsParagraph).map(({ text }) => text)).toEqual(['我们', '<b>']);
    expect(readScript('Часы – бьют.', 'ru').filter(isSpoken)).toHaveLength(2);
  });

  test.each([
    ['0', 'zero'],
    ['14', 'fourteen'],
    ['40', 'forty'],
    ['112', 'one hundred and twelve'],
    ['1250', 'twelve fifty'],
    ['12500', 'twelve thousand five hundred'],
    ['2000000', 'two million'],
    ['2005', 'two thousand and five'],
    ['1905', 'nineteen oh five'],
    ['1800', 'eighteen hundred'],
    ['21st', 'twenty first'],
    ['30th', 'thirtieth'],
    ['007', 'zero zero seven']
  ])('says %s', (figures, said) => expect(sayNumber(figures)).toBe(said));
});

describe('matching', () => {
  test('pairs what is the same or nearly, in order, and leaves out the rest', () => {
    const script = 'the keeper cleans the pivots and oils the escapement'.split(' ');
    const said = 'the keep her cleans the pivot and oils escapement'.split(' ');
    const pairs = matchWords(script, said).map(({ script: at, heard: to }) => `${script[at]}=${said[to]}`);
    expect(pairs).toEqual([
      ...['the=the', 'keeper=keep', 'cleans=cleans', 'the=the', 'pivots=pivot', 'and=and', 'oils=oils'],
      'escapement=escapement'
    ]);
  });

  test('of any two texts rises on both sides; of a text and itself it is the text', () => {
    const anyText = fc.array(fc.constantFrom(...'the clock tower keeps time and strikes slowly'.split(' ')), {
      maxLength: 60
    });
    fc.assert(
      fc.property(anyText, anyText, (one, other) => {
        const matches = matchWords(one, other);
        for (const [at, match] of matches.entries()) {
          const last = matches[at - 1];
          if (last !== undefined) expect(match.script > last.script && match.heard > last.heard).toBe(true);
          expect(match.isExact).toBe(one[match.script] === other[match.heard]);
        }
        expect(matchWords(one, one)).toHaveLength(one.length);
      })
    );
  });
});

describe('the plan', () => {
  const chunks = [
    { ...toSpan({ startMs: 0, endMs: 3000 }), words: heard('we open the clock', 200) },
    { ...toSpan({ startMs: 3000, endMs: 7000 }), words: heard('oil is the enemy of dust', 3200) },
    { ...toSpan({ startMs: 7000, endMs: 9000 }), words: null },
    { ...toSpan({ startMs: 9000, endMs: 12_000 }), words: heard('thank you', 9200) }
  ];

  test('gives each chunk its words; what was not heard is looked for between its neighbours', () => {
    const plan = planFit(
      readScript('We open the clock. Oil is the enemy of dust. Then we listen. Thank you.', 'en'),
      chunks
    );
    expect(
      plan.tasks.map(({ startMs, endMs, words }) => [startMs, endMs, words.map((word) => word.form).join(' ')])
    ).toEqual([
      [0, 3000, 'we open the clock'],
      [3000, 12_000, 'oil is the enemy of dust then we listen thank you']
    ]);
    expect(plan.tasks[1]!.words.filter((word) => word.isOptional).map((word) => word.form)).toEqual([
      'then',
      'we',
      'listen'
    ]);
    expect(plan.heardShare).toBe(1);
  });

  test('a script ten times too long is laid where it is spoken; the rest is in nobody’s stretch', () => {
    const rest = Array.from({ length: 120 }, (_, at) => `nothing${'abcdefghij'[at % 10]}`).join(' ');
    const plan = planFit(readScript(`We open the clock. ${rest}`, 'en'), chunks.slice(0, 1));
    expect(plan.tasks).toHaveLength(1);
    expect(plan.tasks[0]!.words.map((word) => word.form)).toEqual(['we', 'open', 'the', 'clock']);
    expect(plan.heardShare).toBe(1);
  });

  test('what is said and not written is told with its place, and is in nobody’s stretch', () => {
    const plan = planFit(
      readScript('We open the clock. Nobody ever speaks of such things here. Thank you.', 'en'),
      chunks
    );
    expect(plan.unwritten.map((run) => [run.before, run.words.map((word) => word.text).join(' ')])).toEqual([
      [11, 'oil is the enemy of dust']
    ]);
    expect(plan.tasks.map(({ words }) => words.map((word) => word.form).join(' '))).toEqual([
      'we open the clock',
      'thank you'
    ]);
  });

  test('what is misheard is no other text', () => {
    const script = readScript('We open the clock. Oil is the enemy of dust. Thank you.', 'en');
    const misheard = chunks.with(1, { ...chunks[1]!, words: heard('all it send him he off dusk', 3200) });
    const plan = planFit(script, misheard);
    expect(plan.unwritten).toEqual([]);
    expect(plan.tasks.flatMap(({ words }) => words)).toHaveLength(12);
  });

  test('of words that stand twice the one is taken that leaves room for the rest', () => {
    const words = ['the', 'clock', 'the', 'bell'].map((form, at) => ({ form, isOptional: at < 2 }));
    const laid = ['the', 'bell'].map((text, at) => ({ text, ...toSpan({ startMs: at, endMs: at + 1 }) }));
    expect(placeInOrder(words, laid)).toEqual([null, null, { startMs: 0, endMs: 1 }, { startMs: 1, endMs: 2 }]);
    expect(placeInOrder(words, laid.slice(0, 1))).toBeNull();
  });
});

test('words that would have been spoken faster than anyone speaks are not spoken', () => {
  const script = readScript('We open the clock. And that is all there is.', 'en');
  const task = planFit(script, [{ ...toSpan({ startMs: 0, endMs: 1900 }), words: heard('we open the clock', 100) }])
    .tasks[0]!;
  const times = task.words.map((_, at) =>
    toSpan(
      at < 4
        ? { startMs: at * 300, endMs: at * 300 + 280 }
        : { startMs: 1200 + (at - 4) * 90, endMs: 1290 + (at - 4) * 90 }
    )
  );
  const places = fittedWords(script, [{ task, times }], wholeMs(2000)).map(({ place }) => place);
  expect(places.slice(0, 4)).toEqual(['fitted', 'fitted', 'fitted', 'fitted']);
  expect(new Set(places.slice(4))).toEqual(new Set(['not spoken']));
});

test('fitted words keep the script’s order; signs share the room between words, and what was not found says so', () => {
  const script = readScript('We open – the heavy clock.', 'en');
  const task = planFit(script, [{ ...toSpan({ startMs: 0, endMs: 4000 }), words: heard('we open the clock', 100) }])
    .tasks[0]!;
  const times = [
    toSpan({ startMs: 100, endMs: 300 }),
    toSpan({ startMs: 400, endMs: 700 }),
    toSpan({ startMs: 900, endMs: 1000 }),
    null,
    toSpan({ startMs: 1500, endMs: 2000 })
  ];
  const words = fittedWords(script, [{ task, times }], wholeMs(4000));
  expect(words.map(({ text, startMs, endMs, place }) => [text, startMs, endMs, place])).toEqual([
    ['We', 100, 300, 'fitted'],
    ['open', 400, 700, 'fitted'],
    ['–', 700, 900, 'estimated'],
    ['the', 900, 1000, 'fitted'],
    ['heavy', 1000, 1500, 'not spoken'],
    ['clock.', 1500, 2000, 'fitted']
  ]);
});
