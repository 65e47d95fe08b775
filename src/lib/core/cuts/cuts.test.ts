import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { SAMPLES_A_MS } from '../audio';
import { carryOver, compareCuts, type CutComparison, type SharedStretch } from '.';
import { type Span, toSpan, wholeMs } from '../time';
import { anyTrack } from '../testing/any-track';
import { pieceOf, joinSounds, makeTalkSound, soundOf, wearSound } from '../testing/made-sound';
import { findBrokenInvariant, joinWords, makeCue, makeTrack, makeWord, shownWords, type Track } from '../track';

function expectNear(found: readonly object[], wanted: readonly object[]): void {
  expect(found).toHaveLength(wanted.length);
  for (const [at, one] of wanted.entries())
    for (const [key, value] of Object.entries(one)) {
      const seen = (found[at] as Record<string, unknown>)[key];
      if (typeof value === 'number')
        expect(Math.abs((seen as number) - value), `${at} ${key}: ${String(seen)}`).toBeLessThan(35);
      else expect(seen).toBe(value);
    }
}

const old = makeTalkSound(60_000, 1);

describe('a new cut laid beside the old one', () => {
  test('the same sound is kept whole', () => {
    expect(compareCuts(soundOf(old), soundOf(old))).toEqual({
      shared: [{ newMs: 0, oldMs: 0, lengthMs: 60_000, state: 'kept' }],
      removed: [],
      added: []
    });
  });

  test.each(['clean', 'worn'])('taken out, put in, moved and used twice, %s', (how) => {
    const fresh = makeTalkSound(7000, 2);
    const edited = joinSounds(
      ...[
        pieceOf(old, 30_000, 34_000),
        pieceOf(old, 0, 12_000),
        fresh,
        pieceOf(old, 20_000, 40_000),
        pieceOf(old, 50_000, 60_000)
      ],
      pieceOf(old, 41_000, 49_000)
    );
    const { shared, removed, added } = compareCuts(
      soundOf(old),
      soundOf(how === 'clean' ? edited : wearSound(edited, 3))
    );
    expectNear(shared, [
      { newMs: 0, oldMs: 30_000, lengthMs: 4000, state: 'moved' },
      { newMs: 4000, oldMs: 0, lengthMs: 12_000, state: 'kept' },
      { newMs: 23_000, oldMs: 20_000, lengthMs: 20_000, state: 'kept' },
      { newMs: 43_000, oldMs: 50_000, lengthMs: 10_000, state: 'kept' },
      { newMs: 53_000, oldMs: 41_000, lengthMs: 8000, state: 'moved' }
    ]);
    expectNear(removed, [
      { startMs: 12_000, endMs: 20_000 },
      { startMs: 40_000, endMs: 41_000 },
      { startMs: 49_000, endMs: 50_000 }
    ]);
    expectNear(added, [{ startMs: 16_000, endMs: 23_000 }]);
  });

  test('sounds that share nothing are all removed and all new; so are silences of another length, and no sound', () => {
    const other = makeTalkSound(20_000, 9);
    expect(compareCuts(soundOf(old), soundOf(other))).toEqual({
      shared: [],
      removed: [{ startMs: 0, endMs: 60_000 }],
      added: [{ startMs: 0, endMs: 20_000 }]
    });
    expect(compareCuts(soundOf(new Int16Array(0)), soundOf(other)).added).toHaveLength(1);
    expect(compareCuts(soundOf(other), soundOf(new Int16Array(0))).removed).toHaveLength(1);
  });

  test('what it tells adds up to both cuts, wherever they are cut', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 3, max: 57 }), { minLength: 2, maxLength: 2 }), (seconds) => {
        const [from, to] = seconds.map((second) => second * 1000).sort((a, b) => a - b) as [number, number];
        const edited = joinSounds(pieceOf(old, 0, from), pieceOf(old, to, 60_000));
        const { shared, removed, added } = compareCuts(soundOf(old), soundOf(edited));
        const length = (spans: readonly Span[]): number => spans.reduce((sum, one) => sum + one.endMs - one.startMs, 0);
        const sharedMs = shared.reduce((sum, one) => sum + one.lengthMs, 0);
        expect(Math.abs(sharedMs + length(added) - edited.length / SAMPLES_A_MS)).toBeLessThan(200);
        expect(Math.abs(sharedMs + length(removed) - 60_000)).toBeLessThan(200);
        expect(Math.abs(length(removed) - (to - from))).toBeLessThan(120);
        expect(shared.every(({ state }) => state === 'kept')).toBe(true);
      }),
      { numRuns: 4 }
    );
  });
});

/** Six words in three cues, a word a second; the last cue has two lines. */
function shortTrack(): Track {
  const words = ['The', 'clock', 'was', 'made', 'here', 'once.'].map((text, at) =>
    makeWord({ id: `w${at}`, text, startMs: at * 1000 + 100, endMs: at * 1000 + 800, timing: 'heard' })
  );
  const cue = (id: string, from: number, to: number, lineStarts: string[] = []) =>
    makeCue({
      id,
      startMs: from * 1000,
      endMs: to * 1000,
      wordIds: words.slice(from, to).map((word) => word.id),
      lineStarts,
      note: `about ${id}`
    });
  const cues = [cue('a', 0, 2), cue('b', 2, 4), cue('c', 4, 6, ['w5'])];
  return makeTrack({ id: 't', recordingId: 'r', language: 'en', title: 'A track', words, cues });
}

const stretch = (newMs: number, oldMs: number, lengthMs: number): SharedStretch => ({
  ...{ newMs: wholeMs(newMs), oldMs: wholeMs(oldMs), lengthMs: wholeMs(lengthMs) },
  state: 'kept'
});
const carried = (track: Track, comparison: Partial<CutComparison>) => {
  let minted = 0;
  const over = carryOver(track, { shared: [], removed: [], added: [], ...comparison }, () => `new${minted++}`);
  return { ...over, remarks: over.remarks(), track: { ...track, words: over.words, cues: over.cues } };
};
const texts = (track: Track): string[] => track.cues.map((cue) => joinWords(shownWords(track, cue)));

describe('a track carried over', () => {
  test('to the same cut it is the same to the byte', () => {
    fc.assert(
      fc.property(anyTrack, (track) => {
        const { track: same, remarks } = carried(track, { shared: [stretch(0, 0, 10_000_000)] });
        expect(JSON.stringify(same.cues)).toBe(JSON.stringify(track.cues));
        expect(new Set(same.words.map((word) => JSON.stringify(word)))).toEqual(
          new Set(track.words.map((word) => JSON.stringify(word)))
        );
        expect(remarks).toEqual([]);
      })
    );
  });

  test('cues go with their sound; one whose sound is gone is left out and told', () => {
    const { track, remarks } = carried(shortTrack(), { shared: [stretch(0, 0, 2000), stretch(2000, 4000, 2000)] });
    expect(texts(track)).toEqual(['The clock', 'here once.']);
    expect(track.cues[1]).toMatchObject({ id: 'c', startMs: 2000, endMs: 4000, lineStarts: ['w5'], note: 'about c' });
    expect(remarks).toEqual([{ kind: 'left out', startMs: 2000, endMs: 2000, cueIds: [], text: 'was made' }]);
  });

  test('a cue that loses words says which; new sound in its midst parts it; what is used twice is there twice', () => {
    const shorter = carried(shortTrack(), { shared: [stretch(0, 0, 3000), stretch(3000, 4000, 2000)] });
    expect(texts(shorter.track)).toEqual(['The clock', 'was', 'here once.']);
    expect(shorter.remarks).toEqual([{ kind: 'shortened', startMs: 2000, endMs: 3000, cueIds: ['b'], text: 'made' }]);

    const parted = carried(shortTrack(), {
      shared: [stretch(0, 0, 3000), stretch(8000, 3000, 3000)],
      added: [toSpan({ startMs: 3000, endMs: 8000 })]
    });
    expect(texts(parted.track)).toEqual(['The clock', 'was', 'made', 'here once.']);
    expect(parted.remarks).toEqual([
      { kind: 'parted', startMs: 2000, endMs: 3000, cueIds: ['b', 'new0'], text: 'was made' },
      { kind: 'new sound', startMs: 3000, endMs: 8000, cueIds: [], text: '' }
    ]);

    const twice = carried(shortTrack(), { shared: [stretch(0, 4000, 2000), stretch(2000, 0, 6000)] });
    expect(texts(twice.track)).toEqual(['here once.', 'The clock', 'was made', 'here once.']);
    expect(twice.remarks).toEqual([]);
    expect(new Set(twice.track.words.map((word) => word.id)).size).toBe(8);
  });

  test('a word taken from the midst of a cue leaves one cue', () => {
    const words = carried(shortTrack(), { shared: [stretch(0, 0, 2000), stretch(2000, 2800, 3200)] });
    const { track, remarks } = carried(
      {
        ...shortTrack(),
        cues: [
          makeCue({
            ...shortTrack().cues[0]!,
            id: 'x',
            endMs: 6000,
            wordIds: shortTrack().words.map((word) => word.id)
          })
        ]
      },
      { shared: [stretch(0, 0, 2000), stretch(2000, 3000, 3000)] }
    );
    expect(texts(words.track)[1]).toBe('made');
    expect(texts(track)).toEqual(['The clock made here once.']);
    expect(track.cues[0]).toMatchObject({ id: 'x', startMs: 0, endMs: 5000 });
    expect(remarks).toMatchObject([{ kind: 'shortened', cueIds: ['x'], text: 'was' }]);
  });

  test('whatever is cut how, it is a track, and every word is where its sound is', () => {
    const anyStretches = fc
      .array(
        fc.tuple(
          fc.integer({ min: 0, max: 20_000 }),
          fc.integer({ min: 60, max: 9000 }),
          fc.integer({ min: 0, max: 3000 })
        ),
        {
          maxLength: 6
        }
      )
      .map((seeds) => {
        let newMs = 0;
        return seeds.map(([oldMs, lengthMs, gapMs]) => {
          const one = stretch(newMs + gapMs, oldMs, lengthMs);
          newMs = one.newMs + lengthMs;
          return one;
        });
      });
    fc.assert(
      fc.property(anyTrack, anyStretches, (track, shared) => {
        const { track: next, remarks } = carried(track, { shared });
        expect(findBrokenInvariant(next)).toBeNull();
        const copies = track.words.map((word) => {
          const middleMs = (word.startMs + word.endMs) / 2;
          return shared.filter(({ oldMs, lengthMs }) => middleMs >= oldMs && middleMs < oldMs + lengthMs).length;
        });
        expect(next.words).toHaveLength(copies.reduce((sum, count) => sum + count, 0));
        // What is nowhere any more, and was to be seen, is told.
        for (const cue of track.cues) {
          const isGone = cue.wordIds.some((id) => {
            const at = track.words.findIndex((word) => word.id === id);
            return track.words[at]!.shown && copies[at] === 0;
          });
          const isTold = remarks.some(({ kind, text }) => {
            const [first] = shownWords(track, cue);
            return (kind === 'left out' || kind === 'shortened') && (first === undefined || text !== '');
          });
          if (isGone) expect(isTold).toBe(true);
        }
      }),
      { numRuns: 300 }
    );
  });
});
