import { toSpan } from '../time';
import { asTrackId } from '../id';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { applyChanges } from '../changes';
import { resolveCommands } from '../commands';
import { findBrokenInvariant, HOUSE_RULES, joinWords, makeCue, makeTrack, makeWord, type Track } from '../track';
import { draftTrack, growDraft, NO_GROWTH, proposedPassages, takePassages, type HeardChunk } from '.';

let minted = 0;
const mint = (): string => `m${minted++}`;
const options = {
  trackId: asTrackId('t'),
  recordingId: 'r',
  language: 'en',
  title: 'Draft',
  rules: HOUSE_RULES,
  names: [],
  mint,
  recordingDurationMs: 3_600_000
};
const manner = { writing: { figures: true, names: new Set<string>() }, turns: [], speakers: [] };
const empty = (): Track => makeTrack({ id: 't', recordingId: 'r', language: 'en', title: '', words: [], cues: [] });

const WORDS = 'the clock keeps time and we hear it when the bell strikes um every heavy weight falls'.split(' ');
/** Chunks that follow one another, some of them not heard. */
const anyChunks = fc
  .array(
    fc.record({
      words: fc.array(fc.record({ pick: fc.nat(WORDS.length - 1), pauseMs: fc.constantFrom(10, 40, 250, 900) }), {
        minLength: 1,
        maxLength: 25
      }),
      isLost: fc.boolean()
    }),
    { minLength: 1, maxLength: 6 }
  )
  .map((chunks) => {
    let nowMs = 500;
    return chunks.map(({ words, isLost }): HeardChunk => {
      const startMs = nowMs;
      const heard = words.map(({ pick, pauseMs }) => {
        const from = nowMs;
        nowMs += 200 + pauseMs;
        const known = { confidence: 0.7, alternatives: [], endOdds: null };
        return { text: WORDS[pick]!, ...toSpan({ startMs: from, endMs: from + 200 }), ...known };
      });
      nowMs += 300;
      return { ...toSpan({ startMs, endMs: nowMs }), words: isLost && words.length < 6 ? null : heard };
    });
  });

const grown = (chunks: readonly HeardChunk[]): Track => {
  let track = empty();
  let growth = NO_GROWTH;
  for (const chunk of [...chunks, 'end' as const]) {
    const more = growDraft(growth, chunk, manner, options);
    growth = more.growth;
    if (more.parts.length === 0) continue;
    const applied = resolveCommands(track, [{ type: 'addHeard', parts: more.parts, speakers: [] }]);
    if (!applied.ok) throw new Error(applied.problem.message);
    const undone = applyChanges(applied.value.track, applied.value.inverse);
    expect(undone.ok && JSON.stringify(undone.value.document)).toBe(JSON.stringify(track));
    track = applied.value.track;
    expect(findBrokenInvariant(track)).toBeNull();
  }
  return track;
};

describe('a draft that grows', () => {
  test('holds every word of the draft made whole, in order, each shown one in a cue', () => {
    fc.assert(
      fc.property(anyChunks, (chunks) => {
        const whole = draftTrack(chunks, manner, options);
        const track = grown(chunks);
        const bare = ({ words }: Track): string[] =>
          words.map((word) => word.text.toLowerCase().replace(/[.,?!]+$/, ''));
        expect(bare(track)).toEqual(bare(whole));
        const inCues = new Set(track.cues.flatMap((cue) => cue.wordIds));
        for (const word of track.words) expect(inCues.has(word.id)).toBe(word.shown);
        track.words.forEach((word, at) =>
          expect(word.startMs).toBeGreaterThanOrEqual(track.words[at - 1]?.startMs ?? 0)
        );
      }),
      { numRuns: 60 }
    );
  });

  test('keeps back a sentence that may go on, and puts it in with its end', () => {
    const word = (text: string, startMs: number) => ({
      ...{ text, ...toSpan({ startMs, endMs: startMs + 200 }) },
      ...{ confidence: 1, alternatives: [], endOdds: null }
    });
    const first = {
      ...toSpan({ startMs: 0, endMs: 3000 }),
      words: [word('good', 0), word('morning', 220), word('today', 1800)]
    };
    const begun = growDraft(NO_GROWTH, first, manner, options);
    const text = (parts: typeof begun.parts): string => joinWords(parts.flatMap(({ words }) => words));
    expect(text(begun.parts)).toBe('Good morning.');
    const ended = growDraft(begun.growth, 'end', manner, options);
    expect(text(ended.parts)).toBe('Today.');
    expect(ended.growth.tail).toEqual([]);
  });

  test('stands ahead of a cue that was added by hand further on', () => {
    const own = makeWord({ id: 'own', text: 'Later.', startMs: 90_000, endMs: 90_500, timing: 'estimated' });
    const cue = makeCue({ id: 'c', startMs: 90_000, endMs: 91_000, wordIds: ['own'] });
    const heard = makeWord({ id: 'h', text: 'Now.', startMs: 1000, endMs: 1300, timing: 'heard' });
    const part = { cue: makeCue({ id: 'd', startMs: 1000, endMs: 2000, wordIds: ['h'] }), words: [heard] };
    const applied = resolveCommands({ ...empty(), words: [own], cues: [cue] }, [
      { type: 'addHeard', parts: [part], speakers: [] }
    ]);
    expect(applied.ok && applied.value.track.words.map(({ text }) => text)).toEqual(['Now.', 'Later.']);
  });
});

describe('a new hearing of a track', () => {
  const trackOf = (text: string, corrected: readonly string[] = []): Track => {
    const words = text.split(' ').map((one, at) =>
      makeWord({
        ...{ id: `w${at}`, text: one, startMs: at * 400, endMs: at * 400 + 300, timing: 'heard', confidence: 0.6 },
        correctedAt: corrected.includes(one) ? 5 : null
      })
    );
    const cues = [0, 4].map((from) => {
      const run = words.slice(from, from === 0 ? 4 : undefined);
      const [startMs, endMs] = [run[0]!.startMs, run.at(-1)!.endMs + 50];
      return makeCue({ id: `c${from}`, startMs, endMs, wordIds: run.map(({ id }) => id) });
    });
    return { ...empty(), words, cues };
  };
  const heardAs = (text: string) =>
    text.split(' ').map((one, at) =>
      makeWord({
        id: `h${at}`,
        text: one,
        startMs: at * 400 + 10,
        endMs: at * 400 + 300,
        timing: 'heard',
        confidence: 0.9
      })
    );
  const ALL = toSpan({ startMs: 0, endMs: 60_000 });

  test('differs in words, not in marks and capitals; what was corrected says so', () => {
    const track = trackOf('The escape meant is old, and the bell rings.', ['old,']);
    const passages = proposedPassages(track, heardAs('the escapement his new and the bell rings'), ALL);
    expect(passages.map(({ now, heard, isCorrected }) => [now, heard, isCorrected])).toEqual([
      ['escape meant is old,', 'escapement his new', true]
    ]);
    expect(proposedPassages(track, heardAs('The escape meant is old and the bell rings'), ALL)).toEqual([]);
  });

  test('taken passages make the track’s words those that were heard, and the inverse brings it back', () => {
    const anyText = fc
      .array(fc.constantFrom('a', 'bell', 'rings', 'in', 'the', 'old', 'tower'), { minLength: 6, maxLength: 14 })
      .map((words) => words.join(' '));
    fc.assert(
      fc.property(anyText, anyText, (now, heard) => {
        const before = trackOf(now);
        let track = before;
        const inverses = [];
        for (const edit of takePassages(proposedPassages(before, heardAs(heard), ALL), mint)) {
          const applied = resolveCommands(track, [edit]);
          if (!applied.ok) throw new Error(applied.problem.message);
          track = applied.value.track;
          inverses.unshift(applied.value.inverse);
          expect(findBrokenInvariant(track)).toBeNull();
        }
        expect(joinWords(track.words)).toBe(heard);
        for (const inverse of inverses) {
          const undone = applyChanges(track, inverse);
          if (!undone.ok) throw new Error(undone.problem.message);
          track = undone.value.document;
        }
        expect(JSON.stringify(track)).toBe(JSON.stringify(before));
      }),
      { numRuns: 100 }
    );
  });
});
