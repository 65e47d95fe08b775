import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  draftRows,
  layOnPlaces,
  placeOfSource,
  makeTranslation,
  recall,
  rowsOf,
  sentencesOf,
  termsNotUsed,
  typeset,
  hasTerm
} from '.';
import { resolveCommands } from '../commands';
import { anyTrack } from '../testing/any-track';
import { asWordId } from '../id';
import {
  findBrokenInvariant,
  joinTokens,
  lineLength,
  makeCue,
  makeTrack,
  makeWord,
  markedLines,
  plainLines,
  tokenize,
  type Track
} from '../track';

const ROOM = { maxLines: 2, maxCharsPerLine: 42, maxCharacters: 200 };
const laid = (text: string, sources: readonly string[], { room = ROOM, language = 'es' } = {}): string[] => {
  const tokens = tokenize(text, language);
  return layOnPlaces(
    tokens,
    sources.map((source) => placeOfSource(source, room)),
    language
  ).map(({ from, to }) => joinTokens(tokens.slice(from, to)));
};

describe('a translated sentence on the cues of its source', () => {
  test.each([
    [
      ['When the frost comes,', 'the clock stops and nobody hears it.'],
      'Cuando llega la helada, el reloj se para y nadie lo oye.',
      ['Cuando llega la helada,', 'el reloj se para y nadie lo oye.']
    ],
    [
      ['I kept the clock for 40 years', 'and I know every wheel of it.'],
      'Cuidé el reloj durante 40 años y conozco cada una de sus ruedas.',
      ['Cuidé el reloj durante 40 años', 'y conozco cada una de sus ruedas.']
    ],
    [
      ['The weight hangs from a rope', 'that Ines Calloway', 'winds up on Mondays.'],
      'El peso cuelga de una cuerda que Ines Calloway enrolla los lunes.',
      ['El peso cuelga de una cuerda', 'que Ines Calloway', 'enrolla los lunes.']
    ]
  ])('is parted where its language parts itself: %j', (sources, text, expected) => {
    expect(laid(text, sources)).toEqual(expected);
  });

  test('keeps to the room of each cue where the words allow it', () => {
    const room = { maxLines: 1, maxCharsPerLine: 30, maxCharacters: 30 };
    const parts = laid(
      'Cuidé el reloj muchos años y conozco cada rueda.',
      ['I kept it', 'for so many years that I know every single wheel of it.'],
      { room }
    );
    expect(parts.map((part) => lineLength(part, 'es')).every((length) => length <= 30)).toBe(true);
  });

  test('parts scripts without spaces between their words', () => {
    const parts = laid(
      '冬になると時計は止まり、誰にもその音は聞こえません。',
      ['In winter the clock stops,', 'and nobody hears it.'],
      { language: 'ja' }
    );
    expect(parts).toEqual(['冬になると時計は止まり、', '誰にもその音は聞こえません。']);
  });

  test('is all there, in order, whatever the cues', () => {
    const words = fc.array(fc.constantFrom('la', 'torre,', 'y', 'Merrowby', '40', 'campana.'), { maxLength: 24 });
    fc.assert(
      fc.property(
        words,
        fc.array(fc.constantFrom('a', 'the clock', 'when it strikes, 40'), { minLength: 1, maxLength: 6 }),
        (text, sources) => {
          const runs = layOnPlaces(
            text.map((own) => ({ text: own, spaceBefore: true })),
            sources.map((source) => placeOfSource(source, ROOM)),
            'es'
          );
          expect(runs).toHaveLength(sources.length);
          expect(runs[0]!.from).toBe(0);
          expect(runs.at(-1)!.to).toBe(text.length);
          runs.slice(1).forEach(({ from }, at) => expect(from).toBe(runs[at]!.to));
        }
      )
    );
  });
});

describe('a draft', () => {
  const minting = (): (() => string) => {
    let count = 0;
    return () => `t${count++}`;
  };
  const beginning = (source: Track): Track =>
    makeTranslation(source, { id: 'target', language: 'es', title: 'T', text: 'sounds', mint: minting() });
  const drafted = (target: Track, source: Track, translate: (text: string) => string): Track => {
    const rows = rowsOf(target, source);
    const sentences = sentencesOf(source, rows);
    const cues = draftRows(
      { target, source, rows },
      sentences,
      sentences.map(({ text }) => ({ text: translate(text), unknown: [0] }))
    );
    if (cues.length === 0) return target;
    const newWordIds = Array.from({ length: 2000 }, (_, at) => asWordId(`n${at}`));
    const done = resolveCommands(target, [{ type: 'writeRows', cues, newWordIds, atMs: 1 }]);
    if (!done.ok) throw new Error(done.problem.message);
    return done.value.track;
  };

  test('is laid on the rows that nobody has touched, word for word, and is a machine’s', () => {
    fc.assert(
      fc.property(anyTrack, (source) => {
        const target = drafted(beginning(source), source, (text) => text);
        expect(findBrokenInvariant(target)).toBeNull();
        const said = (track: Track) =>
          track.cues.flatMap((cue) => plainLines({ ...track, rules: { ...track.rules, sharedCues: 'plain' } }, cue));
        expect(said(target).join('').replace(/\s/g, '')).toBe(said(source).join('').replace(/\s/g, ''));
        for (const { state, target: text } of rowsOf(target, source))
          expect(state).toBe(text === '' ? 'empty' : 'machine');
      })
    );
  });

  test('never writes over what somebody wrote', () => {
    const words = ['The', 'clock', 'stops', 'in', 'winter.'].map((text, at) =>
      makeWord({ id: `w${at}`, text, startMs: at * 300, endMs: at * 300 + 200, timing: 'heard' })
    );
    const source = makeTrack({
      ...{ id: 's', recordingId: 'r', language: 'en', title: 'S', words },
      cues: [
        makeCue({ id: 'c1', startMs: 0, endMs: 900, wordIds: ['w0', 'w1', 'w2'] }),
        makeCue({ id: 'c2', startMs: 900, endMs: 2000, wordIds: ['w3', 'w4'] })
      ]
    });
    const begun = beginning(source);
    const cueId = begun.cues[0]!.id;
    const own = resolveCommands(begun, [
      {
        type: 'writeRows',
        cues: [{ cueId, lines: ['Mi reloj'], translation: { state: 'mine', sourceText: 'The clock stops' } }],
        newWordIds: [asWordId('m1'), asWordId('m2')],
        atMs: 1
      }
    ]);
    if (!own.ok) throw new Error(own.problem.message);
    const after = drafted(own.value.track, source, () => 'El reloj se para en invierno.');
    expect(after.cues.map((cue) => markedLines(after, cue))).toEqual([['Mi reloj'], ['en invierno.']]);
  });
});

describe('what was said before', () => {
  const known = [
    { source: 'The clock stops in winter.', target: 'El reloj se para en invierno.' },
    { source: 'Nobody hears the bell.', target: 'Nadie oye la campana.' }
  ];
  test('is found again, the same or nearly', () => {
    expect(recall('the clock stops in winter', known)).toEqual([{ remembered: known[0], likeness: 1 }]);
    const [nearly] = recall('The old clock stops in winter.', known);
    expect(nearly!.remembered).toBe(known[0]);
    expect(nearly!.likeness).toBeGreaterThan(0.7);
    expect(nearly!.likeness).toBeLessThan(1);
    expect(recall('A rope holds the weight.', known)).toEqual([]);
  });
});

describe('terms of the house', () => {
  const terms = [
    { source: 'going train', target: 'tren de marcha', note: '' },
    { source: 'pallet', target: 'paleta', note: '' },
    { source: 'clock', target: '時計', note: '' }
  ];
  test('are missed where the translation has other words, however its words are bent', () => {
    expect(termsNotUsed('The pallets turn.', 'Las paletas giran.', terms)).toEqual([]);
    expect(termsNotUsed('The pallets turn.', 'Las palas giran.', terms)).toEqual([terms[1]]);
    expect(termsNotUsed('The going train.', 'El tren de la marcha.', terms)).toEqual([terms[0]]);
    expect(termsNotUsed('The pallets turn.', '', terms)).toEqual([]);
    expect(hasTerm('古い時計です', '時計')).toBe(true);
  });
});

test('a text gets the marks of its language', () => {
  expect(typeset('He said "stop" twice.', 'de')).toBe('He said „stop“ twice.');
  expect(typeset('Il dit "stop" ! Pourquoi ?', 'fr')).toBe('Il dit «\u00a0stop\u00a0»\u202f! Pourquoi\u202f?');
  expect(typeset('A wheel of 5" turns.', 'de')).toBe('A wheel of 5" turns.');
  expect(typeset('Es más lento . Y 3 , no 4.', 'es')).toBe('Es más lento. Y 3, no 4.');
  expect(typeset('“静かに”', 'ja')).toBe('「静かに」');
});
