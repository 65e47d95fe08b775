import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyTrack } from '../testing/any-track';
import { makeTrack, makeWord, type Track, type Word, makeSpeaker } from '../track';
import { doubtKey, findDoubts, findNearMisses, phoneDistance, phoneWeight, type DoubtKnowledge } from '.';

/** As the CMU dictionary says them. */
const SAID: Readonly<Record<string, string>> = {
  escapement: 'IH S K EY P M AH N T',
  escape: 'IH S K EY P',
  meant: 'M EH N T',
  the: 'DH AH',
  palace: 'P AE L AH S',
  pallets: 'P AE L AH T S',
  clock: 'K L AA K',
  is: 'IH Z',
  it: 'IH T',
  something: 'S AH M TH IH NG',
  tobin: 'T OW B IH N',
  ashe: 'AE SH',
  ash: 'AE SH',
  toe: 'T OW',
  been: 'B IH N'
};
const pronounce = (form: string): readonly string[] => SAID[form]?.split(' ') ?? [];
const termsOf = (...texts: string[]) => texts.map((text) => ({ text, soundsLike: null }));

const trackOf = (text: string, more: (at: number) => Partial<Word> = () => ({}), language = 'en'): Track =>
  makeTrack({
    ...{ id: 't', recordingId: 'r', language, title: '', cues: [] },
    words: text.split(' ').map((word, at) =>
      makeWord({
        ...{ id: `w${at}`, text: word, startMs: at * 300, endMs: at * 300 + 250, timing: 'heard', confidence: 0.9 },
        ...more(at)
      })
    )
  });
const knowledge = (more: Partial<DoubtKnowledge> = {}): DoubtKnowledge => ({
  ...{ terms: [], pronounce, isSpelled: () => true, suggest: () => [] },
  ...more
});
const doubted = (track: Track, more: Partial<DoubtKnowledge> = {}): string[] =>
  findDoubts(track, knowledge(more)).map(
    ({ reason, wordIds, candidates }) =>
      `${reason}: ${wordIds.map((id) => track.words.find((word) => word.id === id)!.text).join(' ')} > ${candidates.map((one) => one.text).join(' | ')}`
  );

describe('sounds', () => {
  test('are near where they are said alike, and the same both ways', () => {
    expect(phoneDistance('T', 'D')).toBeLessThan(phoneDistance('T', 'S'));
    expect(phoneDistance('T', 'S')).toBeLessThan(phoneDistance('T', 'M'));
    expect(phoneDistance('IH', 'IY')).toBeLessThan(phoneDistance('IH', 'AA'));
    expect(phoneDistance('AA', 'K')).toBeGreaterThan(1);
    expect(phoneWeight('AH')).toBeLessThan(phoneWeight('K'));
    const phones = ['AA', 'IY', 'ER', 'R', 'W', 'UW', 'K', 'S', 'NG', 'HH'];
    for (const one of phones)
      for (const other of phones) expect(phoneDistance(one, other)).toBe(phoneDistance(other, one));
  });
});

describe('near-misses', () => {
  test('what else was heard of a word counts, until the word is put right', () => {
    const near = (more: Partial<Word>) =>
      findNearMisses(
        trackOf('the something ash', (at) => (at === 1 ? { confidence: 0.2, ...more } : { confidence: 0.5 })).words,
        termsOf('Tobin Ashe'),
        pronounce
      ).map(({ from, count, term }) => [from, count, term.text]);
    expect(near({})).toEqual([]);
    expect(near({ alternatives: ['tobin'] })).toEqual([[1, 2, 'Tobin Ashe']]);
    expect(near({ alternatives: ['tobin'], correctedAt: 5 })).toEqual([]);
  });

  test('are found whatever was written, over as many words as it took', () => {
    const { words } = trackOf('something is the escape meant. It is the palace toe been ash', (at) => ({
      confidence: at > 1 ? 0.4 : 0.9
    }));
    const misses = findNearMisses(words, termsOf('escapement', 'pallets', 'Tobin Ashe'), pronounce);
    expect(misses.map(({ from, count, term }) => [term.text, from, count])).toEqual([
      ['escapement', 3, 2],
      ['pallets', 8, 1],
      ['Tobin Ashe', 9, 3]
    ]);
    expect(misses[2]!.distance).toBe(0);
  });

  test('are none where the term stands, also beside it, and none of what a hand has written', () => {
    const right = trackOf('the escapement. It is the pallets', () => ({ confidence: 0.2 }));
    expect(findNearMisses(right.words, termsOf('escapement', 'pallets'), pronounce)).toEqual([]);
    const byHand = trackOf('the escape meant', () => ({ correctedAt: 5 }));
    expect(findNearMisses(byHand.words, termsOf('escapement'), pronounce)).toEqual([]);
    expect(findNearMisses([], termsOf('escapement'), pronounce)).toEqual([]);
  });

  test('a name in small letters is one', () => {
    const { words } = trackOf('tobin ashe is');
    expect(findNearMisses(words, termsOf('Tobin Ashe'), pronounce)).toMatchObject([{ from: 0, count: 2, distance: 0 }]);
  });

  test('lie apart from one another, each within the words', () => {
    const form = fc.constantFrom(...Object.keys(SAID));
    fc.assert(
      fc.property(fc.array(form, { minLength: 1, maxLength: 40 }), fc.array(form, { maxLength: 4 }), (texts, terms) => {
        const { words } = trackOf(texts.join(' '), () => ({ confidence: 0.1 }));
        let last = 0;
        for (const { from, count } of findNearMisses(words, termsOf(...terms), pronounce)) {
          expect(from).toBeGreaterThanOrEqual(last);
          expect(count).toBeGreaterThan(0);
          last = from + count;
        }
        expect(last).toBeLessThanOrEqual(words.length);
      })
    );
  });
});

describe('doubts', () => {
  test('each has its reason and what may be meant, as it would stand there', () => {
    expect(
      doubted(
        trackOf('The Club, keeps time.', (at) => (at === 1 ? { confidence: 0.3, alternatives: ['clock', 'clap'] } : {}))
      )
    ).toEqual(['unsure: Club, > Clock, | Clap,']);
    expect(doubted(trackOf('It is the the clock.'))).toEqual(['repeated: the the > the']);
    expect(doubted(trackOf('So, um, we go.'))).toEqual(['hesitation: um, > ']);
    expect(doubted(trackOf('the clock i saw.'))).toEqual(['capital: the > The', 'capital: i > I']);
    expect(doubted(trackOf('The Clock is late'))).toEqual([
      'capital: Clock > clock',
      'sentence_end: late > late. | late? | late!'
    ]);
    expect(
      doubted(trackOf('The “Escapment” is.'), {
        isSpelled: (word) => word !== 'Escapment',
        suggest: () => ['Escapement', 'Escarpment']
      })
    ).toEqual(['spelling: “Escapment” > “Escapement” | “Escarpment”']);
    expect(
      doubted(
        trackOf('The escape meant, is.', () => ({ confidence: 0.4 })),
        { terms: termsOf('escapement') }
      )[1]
    ).toBe('near_miss: escape meant, > escapement,');
  });

  test('a sentence without an end, a stretch not heard', () => {
    const endless = trackOf(`The ${'clock '.repeat(60).trim()}.`, (at) => ({ text: `w${at}` }));
    expect(doubted(endless).filter((one) => one.startsWith('sentence_end'))).toHaveLength(2);
    const hole = trackOf('The clock. gap', (at) =>
      at === 2 ? { kind: 'hole', shown: false, text: '[not heard]' } : {}
    );
    expect(doubted(hole)).toEqual(['hole: [not heard] > ']);
  });

  test('names, numbers, contractions, hyphens and sounds are spelled right; so is a corrected word sure', () => {
    const isSpelled = (word: string): boolean => /^(The|the|don't|well|known|saw|in)$/.test(word);
    const text = 'The Merrowby’s don’t well-known 1,200 in 3rd 🕰️ [bell] Tobin saw.';
    const track = trackOf(text, (at) => (at === 8 ? { kind: 'sound' } : {}));
    const named = { ...track, speakers: [makeSpeaker('s', 'Tobin Ashe')] };
    expect(doubted(named, { isSpelled, terms: termsOf('Merrowby') })).toEqual([]);
    expect(doubted(trackOf('The clock.', () => ({ confidence: null, correctedAt: 5 })))).toEqual([]);
  });

  test('other languages have their own capitals and no English hesitations', () => {
    expect(doubted(trackOf('Die Uhr am Turm um zehn.', () => ({}), 'de'))).toEqual([]);
  });

  test('stand in order, on words that are there, and have the key of what they say', () => {
    fc.assert(
      fc.property(anyTrack, (track) => {
        const said = (form: string): readonly string[] => form.split('').map(() => 'AH');
        const doubts = findDoubts(track, knowledge({ pronounce: said, terms: termsOf('clock'), isSpelled: null }));
        const places = doubts.map((doubt) => track.words.findIndex((word) => word.id === doubt.wordIds[0]));
        expect(places).toEqual(places.toSorted((a, b) => a - b));
        for (const doubt of doubts) {
          const run = doubt.wordIds.map((id) => track.words.find((word) => word.id === id)!);
          expect(doubt.key).toBe(doubtKey(doubt.reason, run));
          expect(doubt.startMs).toBeLessThanOrEqual(doubt.endMs);
        }
        expect(new Set(doubts.map((doubt) => doubt.key)).size).toBe(doubts.length);
      })
    );
  });
});
