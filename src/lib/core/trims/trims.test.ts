import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { trimKind } from '../documents';
import { anyTrack } from '../testing/any-track';
import { anyTrim, anyTrimSeed, RECORDED_MS, trimCommandOf, trimFromSeeds, wholeTrim } from '../testing/any-trim';
import { overlapMs, wholeMs, type Ms } from '../time';
import { findBrokenInvariant, makeCue, makeTrack, makeWord, type Track } from '../track';
import {
  findBrokenTrim,
  heardStretches,
  joinsOf,
  mapOf,
  playedMs,
  resolveTrimCommands,
  trimSchema,
  trimTrack,
  type Trim,
  type TrimCommand
} from '.';

const bytes = (value: unknown): string => JSON.stringify(value);
const done = (trim: Trim, ...commands: readonly TrimCommand[]): Trim => {
  const result = resolveTrimCommands(trim, commands);
  if (!result.ok) throw new Error(result.problem.message);
  return result.value;
};
const refused = (trim: Trim, command: TrimCommand): string => {
  const result = resolveTrimCommands(trim, [command]);
  return result.ok ? 'done' : result.problem.code;
};
const ms = (value: number): Ms => wholeMs(value);
const span = (fromMs: number, toMs: number) => ({ fromMs: ms(fromMs), toMs: ms(toMs) });
const anySpan = fc
  .tuple(fc.integer({ min: 0, max: RECORDED_MS - 1 }), fc.integer({ min: 1, max: 3000 }))
  .map(([fromMs, lengthMs]) => span(fromMs, Math.min(RECORDED_MS, fromMs + lengthMs)));
/** What plays, as the API tells it, in a few letters. */
const playing = (trim: Trim): string =>
  mapOf(trim)
    .laid.map(({ plays, fromMs, startMs, endMs }) =>
      fromMs === null ? `pause ${endMs - startMs}` : `${plays} ${fromMs}-${fromMs + endMs - startMs}`
    )
    .join(', ');

describe('any commands, in any order', () => {
  test('leave a trim that keeps its promises, is read as it was written, and is undone to the byte', () => {
    fc.assert(
      fc.property(anyTrim, anyTrimSeed, (before, seed) => {
        expect(findBrokenTrim(before)).toBeNull();
        expect(trimSchema.parse(JSON.parse(bytes(before)))).toEqual(before);
        const command = trimCommandOf(before, seed, 900);
        const made = command === null ? null : trimKind.resolve(before, [command]);
        if (made?.ok !== true) return;
        const { document, changes, inverse } = made.value;
        expect(findBrokenTrim(document)).toBeNull();
        expect(changes).toEqual(trimKind.openChanges(JSON.parse(bytes(changes))));
        const back = trimKind.apply(document, trimKind.openChanges(JSON.parse(bytes(inverse))));
        expect(back.ok && bytes(back.value.document)).toBe(bytes(before));
        const again = trimKind.apply(before, changes);
        expect(again.ok && bytes(again.value.document)).toBe(bytes(document));
      }),
      { numRuns: 400 }
    );
  });

  test('taking out and putting back gives the same bytes', () => {
    fc.assert(
      fc.property(
        anyTrim,
        fc.array(anySpan, { minLength: 1, maxLength: 4 }),
        fc.boolean(),
        (before, spans, leaveGap) => {
          const isOut = before.pieces.some(
            (piece) =>
              piece.kind === 'stretch' &&
              piece.out !== 'no' &&
              spans.some(({ fromMs, toMs }) => fromMs < piece.toMs && toMs > piece.fromMs)
          );
          fc.pre(!isOut);
          const out = done(before, { type: 'takeOut', spans, leaveGap, newId: 'a' });
          expect(bytes(done(out, { type: 'putBack', spans, newId: 'b' }))).toBe(bytes(before));
        }
      )
    );
  });

  test('durations add up to the millisecond, and what plays lies end to end', () => {
    fc.assert(
      fc.property(anyTrim, anySpan, (trim, one) => {
        const { laid, lengthMs } = mapOf(trim);
        expect(trim.pieces.reduce((sum, piece) => sum + playedMs(piece), 0)).toBe(lengthMs);
        laid.forEach((piece, at) => expect(piece.startMs).toBe(laid[at - 1]?.endMs ?? 0));
        const heardIn = laid.reduce((sum, { plays, fromMs, startMs, endMs }) => {
          const isOwn = fromMs !== null && plays !== 'room';
          return isOwn
            ? sum +
                overlapMs(
                  { startMs: fromMs, endMs: fromMs + endMs - startMs },
                  { startMs: one.fromMs, endMs: one.toMs }
                )
            : sum;
        }, 0);
        const gapsIn = laid.reduce(
          (sum, { plays, fromMs, startMs, endMs }) =>
            fromMs !== null && plays === 'room'
              ? sum +
                overlapMs(
                  { startMs: fromMs, endMs: fromMs + endMs - startMs },
                  { startMs: one.fromMs, endMs: one.toMs }
                )
              : sum,
          0
        );
        const shorter = mapOf(done(trim, { type: 'takeOut', spans: [one], newId: 'x' })).lengthMs;
        expect(lengthMs - shorter).toBe(heardIn + gapsIn);
      })
    );
  });

  test('the map and its inverse agree at every instant', () => {
    fc.assert(
      fc.property(anyTrim, fc.integer({ min: 0, max: RECORDED_MS - 1 }), (trim, recordedMs) => {
        const { laid, lengthMs, recordedAt, trimmedAt } = mapOf(trim);
        for (const trimmedMs of trimmedAt(recordedMs)) expect(recordedAt(trimmedMs)).toBe(recordedMs);
        for (const trimmedMs of [0, Math.floor(lengthMs / 2), lengthMs - 1, ...laid.map(({ startMs }) => startMs)]) {
          const there = recordedAt(trimmedMs);
          if (there !== null) expect(trimmedAt(there)).toContain(trimmedMs);
        }
        expect(recordedAt(lengthMs)).toBeNull();
        expect(recordedAt(-1)).toBeNull();
        const holding = laid.filter(
          ({ fromMs, startMs, endMs }) =>
            fromMs !== null && recordedMs >= fromMs && recordedMs < fromMs + endMs - startMs
        );
        expect(trimmedAt(recordedMs)).toHaveLength(holding.length);
      })
    );
  });

  test('going back to the recorded order plays each instant once, in order', () => {
    fc.assert(
      fc.property(anyTrim, (trim) => {
        const ordered = done(trim, { type: 'restoreOrder', newId: 'o' });
        expect(findBrokenTrim(ordered)).toBeNull();
        const stretches = ordered.pieces.filter((piece) => piece.kind === 'stretch');
        stretches.forEach((piece, at) => expect(piece.fromMs).toBe(stretches[at - 1]?.toMs ?? 0));
        expect(stretches.at(-1)?.toMs).toBe(RECORDED_MS);
        for (const instant of [0, 3000, 9999])
          expect(mapOf(ordered).trimmedAt(instant).length > 0).toBe(mapOf(trim).trimmedAt(instant).length > 0);
        const pauseMs = (one: Trim): number =>
          one.pieces.reduce((sum, piece) => sum + (piece.kind === 'pause' ? piece.lengthMs : 0), 0);
        expect(pauseMs(ordered)).toBe(pauseMs(trim));
      })
    );
  });
});

describe('captions through the map', () => {
  const shownHeard = (track: Track, trim: Trim) =>
    track.words.filter((word) => {
      const middleMs = (word.startMs + word.endMs) / 2;
      return heardStretches(trim).some(({ oldMs, lengthMs }) => middleMs >= oldMs && middleMs < oldMs + lengthMs);
    });

  test('are a track, in order, that loses no word that is still heard and keeps none that is not', () => {
    fc.assert(
      fc.property(anyTrack, anyTrim, (track, trim) => {
        const trimmed = trimTrack(track, trim).track;
        expect(findBrokenInvariant(trimmed)).toBeNull();
        const kept = new Set(trimmed.words.map(({ id }) => id));
        for (const word of shownHeard(track, trim)) expect(kept.has(word.id)).toBe(true);
        const speech = trimmed.words.filter(({ kind }) => kind !== 'sound');
        const heard = new Set(shownHeard(track, trim).map(({ id }) => id));
        for (const word of speech) expect(heard.has(word.id) || word.id.startsWith('again-')).toBe(true);
        const { lengthMs } = mapOf(trim);
        for (const { endMs } of trimmed.words) expect(endMs).toBeLessThanOrEqual(lengthMs);
      })
    );
  });

  test('never overlap more than before', () => {
    fc.assert(
      fc.property(anyTrack, anyTrim, (track, trim) => {
        const { cues } = trimTrack(track, trim).track;
        const old = new Map(track.cues.map((cue) => [cue.id, cue]));
        // Those whose words lie in their time: of others no time can be kept.
        const own = cues.filter((cue) => {
          const was = old.get(cue.id);
          return was?.wordIds.every((id) => {
            const word = track.words.find((one) => one.id === id)!;
            return word.startMs >= was.startMs && word.endMs <= was.endMs;
          });
        });
        own.forEach((cue, at) => {
          for (const other of own.slice(at + 1))
            expect(overlapMs(cue, other)).toBeLessThanOrEqual(overlapMs(old.get(cue.id)!, old.get(other.id)!));
        });
      })
    );
  });

  test('of a whole trim are the track itself', () => {
    fc.assert(
      fc.property(anyTrack, (track) => {
        const lastMs =
          Math.max(1, ...track.words.map(({ endMs }) => endMs), ...track.cues.map(({ endMs }) => endMs)) + 1;
        const { cues } = trimTrack(track, wholeTrim(lastMs)).track;
        expect(cues).toEqual(track.cues);
      })
    );
  });
});

describe('one by one', () => {
  const whole = wholeTrim();
  const middleOut = done(whole, { type: 'takeOut', spans: [span(4000, 6000)], newId: 'm' });

  test('what is taken out closes up, leaves a gap, or is silenced', () => {
    expect(playing(middleOut)).toBe('sound 0-4000, sound 6000-10000');
    expect(playing(done(whole, { type: 'takeOut', spans: [span(4000, 6000)], leaveGap: true, newId: 'm' }))).toBe(
      'sound 0-4000, room 4000-6000, sound 6000-10000'
    );
    const silenced = done(whole, { type: 'silence', spans: [span(4000, 6000)], newId: 'm' });
    expect(playing(silenced)).toBe('sound 0-4000, nothing 4000-6000, sound 6000-10000');
    expect(bytes(done(silenced, { type: 'putBack', spans: [span(0, 10_000)], newId: 'n' }))).toBe(bytes(whole));
  });

  test('what was silent comes back silent, and then heard', () => {
    const silenced = done(whole, { type: 'silence', spans: [span(4000, 6000)], newId: 'm' });
    const out = done(silenced, { type: 'takeOut', spans: [span(4500, 5000)], newId: 'n' });
    const back = done(out, { type: 'putBack', spans: [span(4500, 5000)], newId: 'p' });
    expect(bytes(back)).toBe(bytes(silenced));
    expect(bytes(done(back, { type: 'putBack', spans: [span(4000, 6000)], newId: 'q' }))).toBe(bytes(whole));
  });

  test('a passage is moved and may stand twice, with what was taken out of it', () => {
    const moved = done(middleOut, { type: 'move', fromMs: ms(5000), toMs: ms(6000), beforeMs: ms(0), newId: 'v' });
    expect(playing(moved)).toBe('sound 7000-8000, sound 0-4000, sound 6000-7000, sound 8000-10000');
    const twice = done(middleOut, { type: 'repeat', fromMs: ms(3000), toMs: ms(5000), beforeMs: ms(8000), newId: 'v' });
    expect(playing(twice)).toBe('sound 0-4000, sound 6000-10000, sound 3000-4000, sound 6000-7000');
    expect(mapOf(twice).trimmedAt(3500)).toEqual([3500, 8500]);
    const onlyCopy = done(twice, {
      type: 'takeOut',
      spans: [{ ...span(3000, 4000), pieceId: twice.pieces.at(-2)!.id }],
      newId: 'w'
    });
    expect(mapOf(onlyCopy).trimmedAt(3500)).toEqual([3500]);
    expect(bytes(done(done(moved, { type: 'restoreOrder', newId: 'r' })))).not.toBe(bytes(moved));
  });

  test('a pause is put in, changed and removed', () => {
    const paused = done(middleOut, { type: 'putInPause', atMs: ms(4000), lengthMs: ms(500), newId: 'p' });
    expect(playing(paused)).toBe('sound 0-4000, pause 500, sound 6000-10000');
    expect(mapOf(paused).recordedAt(4200)).toBeNull();
    const pause = paused.pieces.find(({ kind }) => kind === 'pause')!;
    expect(mapOf(done(paused, { type: 'setPause', pieceId: pause.id, lengthMs: ms(900) })).lengthMs).toBe(8900);
    expect(bytes(done(paused, { type: 'removePauses', pieceIds: [pause.id] }))).toBe(bytes(middleOut));
    expect(playing(done(whole, { type: 'putInPause', atMs: ms(10_000), lengthMs: ms(5), newId: 'e' }))).toBe(
      'sound 0-10000, pause 5'
    );
  });

  test('an edge takes from what was taken out beside it, and gives to it', () => {
    const before = middleOut.pieces[0]!.id;
    const longer = done(middleOut, { type: 'moveEdge', pieceId: before, edge: 'end', atMs: ms(4300), newId: 'k' });
    expect(playing(longer)).toBe('sound 0-4300, sound 6000-10000');
    expect(findBrokenTrim(longer)).toBeNull();
    expect(
      bytes(done(longer, { type: 'moveEdge', pieceId: before, edge: 'end', atMs: ms(6000), newId: 'l' }).pieces.length)
    ).toBe('1');
    const shorter = done(middleOut, { type: 'moveEdge', pieceId: before, edge: 'end', atMs: ms(3900), newId: 'k' });
    expect(playing(shorter)).toBe('sound 0-3900, sound 6000-10000');
  });

  test('pieces given from outside play as they are given, and the rest is taken out', () => {
    const given = done(whole, {
      type: 'setPieces',
      pieces: [
        { kind: 'keep', ...span(5000, 5005) },
        { kind: 'pause', lengthMs: ms(100) },
        { kind: 'silence', ...span(1000, 2000) },
        { kind: 'keep', ...span(1500, 3000), gainDb: -6 }
      ],
      newId: 's'
    });
    expect(playing(given)).toBe('sound 5000-5005, pause 100, nothing 1000-2000, sound 1500-3000');
    expect(findBrokenTrim(given)).toBeNull();
    const none = done(whole, { type: 'setPieces', pieces: [], newId: 's' });
    expect(mapOf(none)).toMatchObject({ laid: [], lengthMs: 0 });
    expect(playing(done(none, { type: 'putBack', spans: [span(0, 10_000)], newId: 't' }))).toBe('sound 0-10000');
  });

  test('what cannot be done says why, and changes nothing', () => {
    const codes = (
      [
        { type: 'takeOut', spans: [span(500, 500)] },
        { type: 'takeOut', spans: [span(900, 200)] },
        { type: 'silence', spans: [span(9000, 10_001)] },
        { type: 'putBack', spans: [{ ...span(0, 10), pieceId: 'nobody' }] },
        { type: 'move', fromMs: ms(1000), toMs: ms(3000), beforeMs: ms(2000) },
        { type: 'move', fromMs: ms(1000), toMs: ms(3000), beforeMs: ms(3000) },
        { type: 'move', fromMs: ms(3000), toMs: ms(1000), beforeMs: ms(0) },
        { type: 'repeat', fromMs: ms(0), toMs: ms(8001), beforeMs: ms(0) },
        { type: 'putInPause', atMs: ms(8001), lengthMs: ms(10) },
        { type: 'moveEdge', pieceId: middleOut.pieces[0]!.id, edge: 'end', atMs: ms(0) },
        { type: 'setPieces', pieces: [{ kind: 'keep', ...span(70, 20) }] },
        { type: 'setFade', pieceId: null, fadeMs: null },
        { type: 'removePauses', pieceIds: [middleOut.pieces[0]!.id] }
      ] as const
    ).map((command) => refused(middleOut, command));
    expect(codes).toEqual([
      ...['bad_times', 'bad_times', 'beyond_recording', 'unknown_piece', 'into_itself', 'into_itself', 'bad_times'],
      ...['bad_times', 'bad_times', 'bad_times', 'bad_times', 'bad_times', 'unknown_piece']
    ]);
  });

  test('joins stand where one piece ends and another begins', () => {
    expect(joinsOf(mapOf(middleOut)).map(({ atMs }) => atMs)).toEqual([4000]);
    expect(joinsOf(mapOf(whole))).toEqual([]);
  });

  test('a sound that is described stays while half a second of it is heard, once', () => {
    const trim = trimFromSeeds([], wholeTrim(20_000));
    const track = trimTrack(soundTrack(), done(trim, { type: 'takeOut', spans: [span(4000, 7000)], newId: 'z' })).track;
    expect(track.words.map(({ text }) => text)).toEqual(['[bell strikes]']);
    expect(track.cues.map(({ startMs, endMs }) => [startMs, endMs])).toEqual([[2000, 5000]]);
  });
});

function soundTrack(): Track {
  const word = makeWord({ id: 'w', text: '[bell strikes]', startMs: 2000, endMs: 8000, timing: 'estimated' });
  return makeTrack({
    ...{ id: 't', recordingId: 'r', language: 'en', title: 'Bells', words: [word] },
    cues: [makeCue({ id: 'c', startMs: 2000, endMs: 8000, wordIds: ['w'] })]
  });
}
