import { wholeMs } from '../time';
import { asWordId } from '../id';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { resolveCommands } from '../commands';
import { anyCommandSeed, anyTrack, commandFromSeed } from '../testing/any-track';
import {
  countCharacters,
  cueSpeaker,
  findBrokenInvariant,
  formatMarkedLine,
  lineWords,
  lookUp,
  makeCue,
  makeTrack,
  makeWord,
  markedLines,
  partLines,
  normalizeMarks,
  parseMarkedLine,
  plainLines,
  wordAtOffset,
  writtenLines,
  readingSpeed,
  shareTime,
  shownWords,
  shownWordsOfAll,
  tokenize,
  type Track,
  makeSpeaker
} from '.';

const wordsOf = (line: string, language = 'en'): string[] => tokenize(line, language).map((token) => token.text);

test('a full-width space stays in its line, with the word before it', () => {
  expect(wordsOf('塔の　時計が鳴る', 'ja').join('')).toBe('塔の　時計が鳴る');
  expect(wordsOf('　', 'ja')).toEqual([]);
});

describe('finding by id', () => {
  test('after any edits finds what a walk through the lists finds', () => {
    fc.assert(
      fc.property(anyTrack, fc.array(anyCommandSeed, { minLength: 1, maxLength: 12 }), (first, seeds) => {
        let track: Track = first;
        for (const seed of seeds) {
          const before = track;
          const done = resolveCommands(track, [commandFromSeed(track, seed)]);
          if (done.ok) track = done.value.track;
          const { wordAt, cueAt, findWord, findCueOf } = lookUp(track);
          // What was there before and is gone is found nowhere.
          const ids = new Set([...track.words, ...track.cues].map(({ id }) => id));
          for (const { id } of [...before.words, ...before.cues])
            if (!ids.has(id)) expect([wordAt.get(id), cueAt.get(id)]).toEqual([undefined, undefined]);
          track.words.forEach((word, at) => {
            expect(wordAt.get(word.id)).toBe(at);
            expect(findWord(word.id)).toBe(word);
            expect(findCueOf(word.id)).toBe(track.cues.find((cue) => cue.wordIds.includes(word.id)));
          });
          track.cues.forEach((cue, at) => expect(cueAt.get(cue.id)).toBe(at));
          expect(findWord(asWordId('nobody'))).toBeUndefined();
          expect(findCueOf(asWordId('nobody'))).toBeUndefined();
        }
      }),
      { numRuns: 60 }
    );
  });

  test('far from where it was, and in lists that only share their ids', () => {
    const listOf = (from: number, count: number): Track['words'] =>
      Array.from({ length: count }, (_, at) =>
        makeWord({ id: `w${from + at}`, text: 'tick', startMs: 0, endMs: 0, timing: 'heard' })
      );
    const whole = listOf(0, 2000);
    const moved = [...listOf(5000, 400), ...whole.slice(0, 900), ...whole.slice(1000)];
    const reversed = whole.toReversed();
    for (const words of [whole, moved, reversed, whole]) {
      const { wordAt } = lookUp({ words, cues: [] });
      for (const at of [0, 399, 400, 1299, 1300, words.length - 1]) expect(wordAt.get(words[at]!.id)).toBe(at);
    }
    expect(lookUp({ words: moved, cues: [] }).wordAt.get('w950')).toBeUndefined();
  });

  test('the shown words of all cues are those of each', () => {
    fc.assert(
      fc.property(anyTrack, (track) => {
        expect(shownWordsOfAll(track)).toEqual(track.cues.map((cue) => shownWords(track, cue)));
        for (const cue of track.cues) {
          const lines = lineWords(track, cue);
          expect(lines.flat().map(({ id }) => id)).toEqual(shownWords(track, cue).map(({ id }) => id));
          expect(lines.every((line) => line.length > 0)).toBe(true);
          expect(writtenLines(track, cue)).toEqual(partLines(cue, shownWords(track, cue)).map(formatMarkedLine));
        }
      })
    );
  });
});

describe('text into words', () => {
  test('splits at white space, keeps punctuation, no-break spaces and described sounds in a word', () => {
    expect(wordsOf('  The  clock, lets\tgo. ')).toEqual(['The', 'clock,', 'lets', 'go.']);
    expect(wordsOf('at 5\u00a0pm [bell strikes twice] now')).toEqual([
      'at',
      '5\u00a0pm',
      '[bell strikes twice]',
      'now'
    ]);
    expect(wordsOf('')).toEqual([]);
  });

  test('scripts without spaces are split where words end, and joined again without spaces', () => {
    const tokens = tokenize('時計が鳴った。', 'ja');
    expect(tokens.length).toBeGreaterThan(1);
    expect(tokens.map((token) => token.text).join('')).toBe('時計が鳴った。');
    expect(tokens.slice(1).some((token) => token.spaceBefore)).toBe(false);
  });

  test('marks are taken apart by word and come back on the line as they stood', () => {
    const line = 'the <i>old clock</i> &amp; <b>its</b> tower';
    const words = tokenize(line, 'en').map((token, at) =>
      makeWord({ id: `w${at}`, text: token.text, startMs: 0, endMs: 1, timing: 'heard', marks: token.marks })
    );
    expect(words.map((word) => word.text)).toEqual(['the', 'old', 'clock', '&', 'its', 'tower']);
    expect(words[2]!.marks).toEqual([{ kind: 'i', from: 0, to: 5 }]);
    expect(formatMarkedLine(words)).toBe(line);
  });

  test('markup that is nested wrongly or not closed becomes markup that is well nested', () => {
    const again = (line: string): string => {
      const words = tokenize(line, 'en').map((token, at) =>
        makeWord({ id: `w${at}`, text: token.text, startMs: 0, endMs: 1, timing: 'heard', marks: token.marks })
      );
      return formatMarkedLine(words);
    };
    expect(again('<i>one <b>two</i> three</b>')).toBe('<i>one <b>two</b></i><b> three</b>');
    expect(again('<u>to the end')).toBe('<u>to the end</u>');
    expect(again('5 &lt; 6 <script>')).toBe('5 &lt; 6 &lt;script&gt;');
    expect(parseMarkedLine('</i>x').marks).toEqual([]);
  });

  test('any line of words with marks is read as it was written', () => {
    const anyMarked = fc.array(
      fc.record({
        text: fc.constantFrom('clock', '<tick>', 'R&D', 'é', 'שלום', 'a'),
        marks: fc.array(
          fc.record({
            kind: fc.constantFrom('i' as const, 'b' as const, 'u' as const),
            from: fc.nat(2),
            to: fc.integer({ min: 1, max: 5 })
          }),
          { maxLength: 3 }
        )
      }),
      { minLength: 1, maxLength: 6 }
    );
    fc.assert(
      fc.property(anyMarked, (drafts) => {
        const words = drafts.map(({ text, marks }, at) => {
          const inside = marks.map((mark) => ({ ...mark, to: Math.min(mark.to, text.length) }));
          return makeWord({
            id: `w${at}`,
            text,
            startMs: 0,
            endMs: 1,
            timing: 'heard',
            marks: normalizeMarks(inside)
          });
        });
        const read = tokenize(formatMarkedLine(words), 'en');
        expect(read.map((token) => token.text)).toEqual(words.map((word) => word.text));
        expect(read.map((token) => token.marks)).toEqual(words.map((word) => word.marks));
      })
    );
  });
});

describe('figures of a cue', () => {
  const track = makeTrack({
    id: 't',
    recordingId: 'r',
    language: 'en',
    title: 'A track',
    speakers: [makeSpeaker('s1', 'Ines'), makeSpeaker('s2', 'Tobin')],
    words: [
      makeWord({ id: 'a', text: 'Two', startMs: 0, endMs: 500, timing: 'heard', speakerId: 's1' }),
      makeWord({ id: 'b', text: 'lines', startMs: 500, endMs: 1000, timing: 'heard', speakerId: 's1' }),
      makeWord({ id: 'x', text: 'um', startMs: 1000, endMs: 1100, timing: 'heard', speakerId: 's2', shown: false }),
      makeWord({ id: 'd', text: '👩‍🔧', startMs: 1100, endMs: 1500, timing: 'heard', speakerId: 's1', marks: [] })
    ],
    cues: [makeCue({ id: 'c', startMs: 0, endMs: 2000, wordIds: ['a', 'b', 'x', 'd'], lineStarts: ['b'] })]
  });
  const cue = track.cues[0]!;

  test('count what is shown, as a reader sees it: lines joined by a space, one for a joined emoji', () => {
    expect(plainLines(track, cue)).toEqual(['Two', 'lines 👩‍🔧']);
    expect(markedLines(track, cue)).toEqual(['Two', 'lines 👩‍🔧']);
    expect(readingSpeed(track, cue)).toBe(11 / 2);
    expect(['', 'abc', 'e\u0301', '👨‍👩‍👧', 'नि'].map(countCharacters)).toEqual([0, 3, 1, 1, 1]);
    const clusters = new Intl.Segmenter('en', { granularity: 'grapheme' });
    const sign = fc.constantFrom(
      ...'a’–éßΩя漢あー',
      '\u0301',
      '\u3099',
      '\u200d',
      '©',
      '\ufe0f',
      '👨',
      'ก',
      'ำ',
      '한',
      'ᄒ',
      'ᅡ'
    );
    fc.assert(
      fc.property(fc.array(sign), (signs) => {
        const text = signs.join('');
        expect(countCharacters(text)).toBe([...clusters.segment(text)].length);
      })
    );
  });

  test('its speaker is the one all shown words agree on', () => {
    expect(cueSpeaker(track, cue)).toBe('s1');
    const shown = { ...track, words: track.words.map((word) => ({ ...word, shown: true })) };
    expect(cueSpeaker(shown, cue)).toBeNull();
  });

  test('time is shared by spoken length without a gap', () => {
    fc.assert(
      fc.property(
        fc.nat(100_000),
        fc.integer({ min: 1, max: 20_000 }),
        fc.array(fc.string({ minLength: 1, maxLength: 12 }), { minLength: 1, maxLength: 9 }),
        (startMs, lengthMs, texts) => {
          const shares = shareTime(startMs, startMs + lengthMs, texts);
          expect(shares[0]!.startMs).toBe(startMs);
          expect(shares.at(-1)!.endMs).toBe(startMs + lengthMs);
          shares.slice(1).forEach((share, at) => expect(share.startMs).toBe(shares[at]!.endMs));
        }
      )
    );
    const [short, long] = shareTime(0, 1000, ['a', 'escapement']);
    expect(short!.endMs).toBeLessThan(long!.endMs - short!.endMs);
  });
});

describe('what always holds', () => {
  const sound = makeTrack({
    id: 't',
    recordingId: 'r',
    language: 'en',
    title: 'A track',
    words: ['a', 'b', 'c'].map((id, at) =>
      makeWord({ id, text: id, startMs: at * 100, endMs: at * 100 + 90, timing: 'heard' })
    ),
    cues: [
      makeCue({ id: 'one', startMs: 0, endMs: 190, wordIds: ['a', 'b'] }),
      makeCue({ id: 'two', startMs: 200, endMs: 290, wordIds: ['c'] })
    ]
  });
  const [one, two] = sound.cues as [Track['cues'][0], Track['cues'][0]];
  test.each<[string, Partial<Track>, RegExp]>([
    ['two words with one id', { words: [...sound.words, sound.words[0]!] }, /two words/],
    ['cues out of order', { cues: [two, one] }, /out of order/],
    ['a cue without length', { cues: [{ ...one, endMs: wholeMs(0) }, two] }, /does not end/],
    ['a word that nobody has', { cues: [one, { ...two, wordIds: [asWordId('z')] }] }, /unknown word z/],
    ['words with a gap between', { cues: [{ ...one, wordIds: ['a', 'c'].map(asWordId) }] }, /not contiguous/],
    ['a word in two cues', { cues: [one, { ...two, wordIds: [asWordId('b')] }] }, /before an earlier/],
    ['a line at a foreign word', { cues: [{ ...one, lineStarts: [asWordId('c')] }, two] }, /not its own/],
    ['a speaker nobody knows', { words: sound.words.map((word) => ({ ...word, speakerId: 's' })) }, /unknown speaker/],
    ['a word that ends before it starts', { words: [{ ...sound.words[0]!, endMs: wholeMs(-1) }] }, /ends before/],
    ['white space in a word', { words: [{ ...sound.words[0]!, text: 'a b' }] }, /white space/]
  ])('%s is found', (_, change, said) => {
    expect(findBrokenInvariant(sound)).toBeNull();
    expect(findBrokenInvariant({ ...sound, ...change })).toMatch(said);
    expect(findBrokenInvariant({ ...sound, ...change }, sound)).toMatch(said);
  });
});

describe('the word at an offset of a cue’s text', () => {
  const texts = ['Mind', 'the', 'the', 'last', 'step.'];
  const words = texts.map((text, at) =>
    makeWord({
      ...{ id: `w${at}`, text, startMs: at * 100, endMs: at * 100 + 90, timing: 'heard' },
      ...(at === 3 && { marks: [{ from: 0, to: 4, kind: 'i' as const }] })
    })
  );
  const cue = makeCue({
    ...{ id: 'c', startMs: 0, endMs: 900, wordIds: words.map(({ id }) => id), lineStarts: [asWordId('w2')] }
  });
  const track = makeTrack({ ...{ id: 't', recordingId: 'r', language: 'en', title: '' }, words, cues: [cue] });
  test.each([
    [0, 'w0'],
    [4, 'w0'],
    [5, 'w1'],
    [8, 'w1'],
    [9, 'w2'],
    [12, 'w2'],
    [16, 'w3'],
    [20, 'w3'],
    [30, 'w4'],
    [99, 'w4']
  ])('%i of “Mind the / the <i>last</i> step.” is %s', (offset, id) => {
    expect(writtenLines(track, cue)).toEqual(['Mind the', 'the <i>last</i> step.']);
    expect(wordAtOffset(track, cue, offset)).toBe(id);
  });
  test('is none in a cue without words', () => {
    expect(wordAtOffset(track, { ...cue, wordIds: [] }, 0)).toBeNull();
  });
});
