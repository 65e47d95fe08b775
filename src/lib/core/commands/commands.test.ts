import { asCueId, asWordId } from '../id';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyCommandSeed, anyTrack, commandFromSeed, SEED_TYPES, textOf } from '../testing/any-track';
import {
  findBrokenInvariant,
  lookUp,
  makeCue,
  makeTrack,
  makeWord,
  markedLines,
  plainLines,
  trackChangesSchema,
  writtenLines,
  type Track,
  type TrackChange,
  makeSpeaker
} from '../track';
import { applyChanges } from '../changes';
import { asked } from '../testing/asked';
import { COMMAND_TYPES, completeCommand, commandSchema, resolveCommands, type Command, type PlainCommand } from '.';

const bytes = (track: Track): string => JSON.stringify(track);

/** As a change is when it comes out of the database or off the wire. */
const kept = (changes: readonly TrackChange[]): readonly TrackChange[] =>
  trackChangesSchema.parse(JSON.parse(JSON.stringify(changes)));

function replayed(track: Track, changes: readonly TrackChange[]): Track {
  const done = applyChanges(track, kept(changes));
  if (!done.ok) throw new Error(done.problem.message);
  return done.value.document;
}

describe('every command', () => {
  test('is kept as changes that give its bytes, undone and done again, alone and in runs of fifty, and keeps what always holds', () => {
    const tried = new Map<string, number>();
    let accepted = 0;
    let all = 0;
    fc.assert(
      fc.property(anyTrack, fc.array(anyCommandSeed, { minLength: 50, maxLength: 50 }), (before, seeds) => {
        expect(findBrokenInvariant(before)).toBeNull();
        const done: {
          before: string;
          after: string;
          changes: readonly TrackChange[];
          inverse: readonly TrackChange[];
        }[] = [];
        let track = before;
        for (const seed of seeds) {
          const command = commandFromSeed(track, seed);
          const own = bytes(track);
          const resolved = resolveCommands(track, [command]);
          expect(bytes(track)).toBe(own);
          tried.set(command.type, (tried.get(command.type) ?? 0) + 1);
          all++;
          if (!resolved.ok) continue;
          accepted++;
          const { changes, inverse } = resolved.value;
          expect(findBrokenInvariant(resolved.value.track), `${JSON.stringify(command)}`).toBeNull();
          expect(findBrokenInvariant(resolved.value.track, track)).toBeNull();
          const sent: unknown = JSON.parse(JSON.stringify(command));
          expect(commandSchema.parse(sent)).toEqual(sent);
          done.push({ before: own, after: bytes(resolved.value.track), changes, inverse });
          track = resolved.value.track;
        }
        for (const step of [...done].reverse()) {
          track = replayed(track, step.inverse);
          expect(bytes(track)).toBe(step.before);
        }
        for (const step of done) {
          track = replayed(track, step.changes);
          expect(bytes(track)).toBe(step.after);
        }
      }),
      { numRuns: 200 }
    );
    expect(accepted / all).toBeGreaterThanOrEqual(0.7);
    expect([...SEED_TYPES].sort()).toEqual([...COMMAND_TYPES].sort());
    for (const type of SEED_TYPES) expect(tried.get(type) ?? 0, type).toBeGreaterThanOrEqual(200);
  });

  test('resolved twice on the same track gives the same changes, and a batch the same track as its commands one by one', () => {
    fc.assert(
      fc.property(anyTrack, fc.array(anyCommandSeed, { minLength: 1, maxLength: 8 }), (track, seeds) => {
        const commands: Command[] = [];
        let after = track;
        for (const [at, seed] of seeds.entries()) {
          const command = commandFromSeed(after, { ...seed, mint: `${seed.mint}-${at}` });
          const resolved = resolveCommands(after, [command]);
          expect(resolveCommands(structuredClone(after), [command])).toEqual(resolved);
          if (!resolved.ok) continue;
          commands.push(command);
          after = resolved.value.track;
        }
        const batch = resolveCommands(track, commands);
        if (!batch.ok) throw new Error(batch.problem.message);
        expect(bytes(batch.value.track)).toBe(bytes(after));
        expect(bytes(replayed(batch.value.track, batch.value.inverse))).toBe(bytes(track));
      })
    );
  });

  test('that would move times beyond what a track holds is refused, and says by how much', () => {
    const far = resolveCommands(heardTrack(), [{ type: 'retime', shiftMs: 3_600_000_000, speed: 1 }]);
    expect(far).toMatchObject({ ok: false, problem: { code: 'bad_times' } });
    const near = resolveCommands(heardTrack(), [{ type: 'retime', shiftMs: 3_599_995_000, speed: 1 }]);
    expect(near.ok).toBe(true);
  });
});

/** "the clock lets / one tooth go | past every day" heard, from 1 s, 400 ms a word. */
function heardTrack(): Track {
  const texts = ['the', 'clock', 'lets', 'one', 'tooth', 'go', 'past', 'every', 'day'];
  const words = texts.map((text, at) =>
    makeWord({ id: `w${at}`, text, startMs: 1000 + at * 400, endMs: 1380 + at * 400, timing: 'heard', confidence: 0.8 })
  );
  return makeTrack({
    id: 't',
    recordingId: 'r',
    language: 'en',
    title: 'A track',
    words,
    cues: [
      makeCue({ id: 'a', startMs: 1000, endMs: 3320, wordIds: words.slice(0, 6).map((w) => w.id), lineStarts: ['w3'] }),
      makeCue({ id: 'b', startMs: 3400, endMs: 5000, wordIds: words.slice(6).map((w) => w.id) })
    ]
  });
}

function edited(track: Track, ...edits: PlainCommand[]): Track {
  let minted = 0;
  const done = resolveCommands(
    track,
    edits.map((edit) => completeCommand(track, asked(edit), { mint: () => `new${minted++}`, atMs: 5 }))
  );
  if (!done.ok) throw new Error(done.problem.message);
  return done.value.track;
}
const refusal = (track: Track, edit: PlainCommand): string => {
  const done = resolveCommands(track, [asked(edit)]);
  return done.ok ? 'accepted' : done.problem.code;
};

describe('correcting words', () => {
  test('a word written for a word keeps its id and time, and is no longer the recogniser’s', () => {
    const track = edited(heardTrack(), { type: 'setWordText', wordId: 'w1', text: 'Clock' });
    expect(track.words[1]).toMatchObject({
      id: 'w1',
      text: 'Clock',
      startMs: 1400,
      endMs: 1780,
      confidence: null,
      correctedAt: 5,
      timing: 'heard'
    });
    expect(refusal(track, { type: 'setWordText', wordId: 'w1', text: 'two words' })).toBe('word_has_space');
    expect(refusal(track, { type: 'setWordText', wordId: 'w1', text: ' ' })).toBe('empty_text');
  });

  test('fewer words share the time of those they replace; the rest keep theirs', () => {
    const track = edited(heardTrack(), { type: 'replaceWords', wordIds: ['w2', 'w3', 'w4'], text: 'escapement tooth' });
    expect(track.words.map((word) => word.text).join(' ')).toBe('the clock escapement tooth go past every day');
    expect(track.words[2]).toMatchObject({ startMs: 1800, endMs: 2580, timing: 'estimated' });
    expect(track.words[3]).toMatchObject({ id: 'w4', startMs: 2600, timing: 'heard' });
    expect(plainLines(track, track.cues[0]!)).toEqual(['the clock escapement', 'tooth go']);
  });

  test('what was heard anew brings its times; there must be one for each word', () => {
    const times = [
      { startMs: 1810, endMs: 2300 },
      { startMs: 2310, endMs: 2640 }
    ];
    const again = { type: 'replaceWords', wordIds: ['w2', 'w3', 'w4'], text: 'escapement tooth', times } as const;
    const track = edited(heardTrack(), again);
    expect(track.words[2]).toMatchObject({ text: 'escapement', ...times[0], timing: 'heard', confidence: null });
    // The tooth was heard before.
    expect(track.words[3]).toMatchObject({ id: 'w4', startMs: 2600 });
    expect(refusal(heardTrack(), { ...again, times: times.slice(1), newWordIds: ['n1'] })).toBe('bad_times');
    const drawn = edited(heardTrack(), { type: 'addCue', startMs: 6000, endMs: 8000, lines: ['past noon'], times });
    expect(drawn.words.slice(-2)).toMatchObject([{ startMs: 1810 }, { startMs: 2310 }]);
  });

  test('a run across two cues is written anew within both, and a cue left without words goes', () => {
    const across = edited(heardTrack(), { type: 'replaceWords', wordIds: ['w5', 'w6'], text: 'goes by' });
    expect([textOf(across, asCueId('a')), textOf(across, asCueId('b'))]).toEqual([
      'the clock lets one tooth goes',
      'by every day'
    ]);
    const emptied = edited(heardTrack(), { type: 'replaceWords', wordIds: ['w6', 'w7', 'w8'], text: '' });
    expect(emptied.cues.map((cue) => cue.id)).toEqual(['a']);
  });

  test('a line break in the text begins a paragraph, and writing over one joins them', () => {
    const parted = edited(heardTrack(), { type: 'replaceWords', wordIds: ['w5', 'w6'], text: 'go\npast' });
    expect(parted.words.map((word) => word.startsParagraph).indexOf(true)).toBe(6);
    const joined = edited(parted, { type: 'replaceWords', wordIds: ['w5', 'w6'], text: 'go past' });
    expect(joined.words.some((word) => word.startsParagraph)).toBe(false);
    expect(joined.words[6]!.correctedAt).toBeNull();
  });

  test('a heard word deleted on a cue is left out, not lost', () => {
    const track = edited(heardTrack(), {
      type: 'setCueText',
      cueId: 'a',
      lines: ['<i>the</i> clock', 'one tooth goes']
    });
    const { findWord } = lookUp(track);
    expect(findWord(asWordId('w2'))).toMatchObject({ shown: false, text: 'lets' });
    expect(findWord(asWordId('w5'))).toMatchObject({ text: 'goes', startMs: 3000 });
    expect(findWord(asWordId('w0'))!.marks).toEqual([{ kind: 'i', from: 0, to: 3 }]);
    expect(plainLines(track, track.cues[0]!)).toEqual(['the clock', 'one tooth goes']);
  });
});

describe('moving cues', () => {
  test('trimming an edge moves no heard word; estimated ones are spread anew', () => {
    const track = edited(heardTrack(), { type: 'setCueTimes', cueId: 'a', startMs: 900, endMs: 2000 });
    expect(track.words).toEqual(heardTrack().words);
    const typed = edited(track, { type: 'addCue', startMs: 6000, endMs: 7000, lines: ['tick tock'], newCueId: 'n' });
    const moved = edited(typed, { type: 'setCueTimes', cueId: 'n', startMs: 8000, endMs: 9000 });
    expect(moved.words.slice(-2).map((word) => [word.startMs, word.endMs])).toEqual([
      [8000, 8500],
      [8500, 9000]
    ]);
  });

  test('a cue moved past another takes its words along in the order', () => {
    const track = edited(heardTrack(), { type: 'setCueTimes', cueId: 'b', startMs: 100, endMs: 900 });
    expect(track.cues.map((cue) => cue.id)).toEqual(['b', 'a']);
    expect(track.words.map((word) => word.text).join(' ')).toBe('past every day the clock lets one tooth go');
  });

  test('a split leaves the least gap before its word; merging gives the lines back', () => {
    const split = edited(heardTrack(), { type: 'splitCue', cueId: 'a', wordId: 'w3', newCueId: 'n' });
    expect(split.cues.map((cue) => [cue.id, cue.startMs, cue.endMs])).toEqual([
      ['a', 1000, 2120],
      ['n', 2200, 3320],
      ['b', 3400, 5000]
    ]);
    const merged = edited(split, { type: 'mergeCues', cueIds: ['a', 'n'] });
    expect(merged).toEqual(heardTrack());
    expect(refusal(split, { type: 'mergeCues', cueIds: ['a', 'b'] })).toBe('not_adjacent');
    expect(refusal(heardTrack(), { type: 'splitCue', cueId: 'a', wordId: 'w0', newCueId: 'n' })).toBe('first_word');
  });

  test('a word pulled over the border takes the edge along, and the lines of both are laid anew', () => {
    const before = heardTrack();
    const pulled = edited(before, { type: 'moveBorder', cueId: 'a', direction: 'pull' });
    expect(pulled.cues.map((cue) => plainLines(pulled, cue).join(' '))).toEqual([
      'the clock lets one tooth go past',
      'every day'
    ]);
    const [first, second] = pulled.cues;
    expect(second!.startMs).toBe(before.words[7]!.startMs);
    expect(second!.startMs - first!.endMs).toBe(pulled.rules.minGapMs);
    expect([first!.startMs, second!.endMs]).toEqual([1000, 5000]);
    const narrow = edited(before, { type: 'setRules', rules: { ...before.rules, maxCharsPerLine: 18 } });
    const laid = edited(narrow, { type: 'moveBorder', cueId: 'a', direction: 'pull' });
    expect(Math.max(...plainLines(laid, laid.cues[0]!).map((line) => line.length))).toBeLessThanOrEqual(18);
    const pushed = edited(pulled, { type: 'moveBorder', cueId: 'a', direction: 'push' });
    expect(pushed.cues.map((cue) => cue.wordIds)).toEqual(before.cues.map((cue) => cue.wordIds));
  });

  test('a border keeps notes where they are, and stays where another speaker begins or a cue would be left empty', () => {
    const noted = edited(heardTrack(), { type: 'annotateCue', cueId: 'b', note: 'tower', bookmark: true });
    const [, second] = edited(noted, { type: 'moveBorder', cueId: 'a', direction: 'pull' }).cues;
    expect([second!.id, second!.note, second!.bookmark]).toEqual(['b', 'tower', true]);
    const named = edited(heardTrack(), { type: 'addSpeaker', name: 'Ines', newSpeakerId: 's' });
    const two = edited(named, { type: 'setSpeaker', wordIds: ['w6', 'w7', 'w8'], speakerId: 's' });
    for (const direction of ['pull', 'push'] as const)
      expect(refusal(two, { type: 'moveBorder', cueId: 'a', direction })).toBe('other_speaker');
    const shared = edited(two, { type: 'setRules', rules: { ...two.rules, sharedCues: 'dash' } });
    expect(edited(shared, { type: 'moveBorder', cueId: 'a', direction: 'pull' }).cues[0]!.wordIds).toContain('w6');
    expect(refusal(heardTrack(), { type: 'moveBorder', cueId: 'b', direction: 'pull' })).toBe('not_adjacent');
    const alone = edited(heardTrack(), { type: 'splitCue', cueId: 'a', wordId: 'w1', newCueId: 'n' });
    expect(refusal(alone, { type: 'moveBorder', cueId: 'a', direction: 'push' })).toBe('first_word');
  });

  test('what was done is taken back to the byte, and not where it does not fit or would break the track', () => {
    const before = heardTrack();
    const done = resolveCommands(before, [asked({ type: 'mergeCues', cueIds: ['a', 'b'] })]);
    if (!done.ok) throw new Error(done.problem.message);
    const { track, inverse } = done.value;
    const back = { type: 'takeBack', changes: inverse } as const;
    expect(bytes(edited(track, back))).toBe(bytes(before));
    expect(refusal(before, back)).toBe('does_not_fit');
    const late = { type: 'set', list: 'cues', items: [{ at: 0, id: 'a', to: { startMs: 9000 } }] } as const;
    expect(refusal(before, { type: 'takeBack', changes: [late] } as never)).toBe('does_not_fit');
  });

  test('a deleted cue leaves its heard words, not shown', () => {
    const track = edited(heardTrack(), { type: 'removeCue', cueId: 'b' });
    expect(track.words.slice(6).map((word) => word.shown)).toEqual([false, false, false]);
  });

  test('retiming never goes below zero and takes the words along', () => {
    const done = resolveCommands(heardTrack(), [{ type: 'retime', shiftMs: -2000, speed: 1 }]);
    if (!done.ok) throw new Error(done.problem.message);
    expect(done.value.track.cues.map((cue) => [cue.startMs, cue.endMs])).toEqual([
      [0, 1320],
      [1400, 3000]
    ]);
    expect(done.value.track.words[6]!.startMs).toBe(1400);
  });

  test('an id in use is refused', () => {
    expect(refusal(heardTrack(), { type: 'splitCue', cueId: 'a', wordId: 'w2', newCueId: 'b' })).toBe('id_taken');
    expect(
      refusal(heardTrack(), { type: 'addCue', startMs: 1, endMs: 2, lines: ['x'], newCueId: 'n', newWordIds: ['w1'] })
    ).toBe('id_taken');
  });
});

test('lines that are read as they are shown, or as they are written, can be sent back: nothing of the signs stays', () => {
  let minted = 0;
  const anySigns = fc.constantFrom('never' as const, 'dash' as const, 'name' as const);
  fc.assert(
    fc.property(anyTrack, anySigns, (made, sharedCues) => {
      const track = { ...made, rules: { ...made.rules, sharedCues } };
      for (const cue of track.cues) {
        for (const lines of [markedLines(track, cue), writtenLines(track, cue)]) {
          const edit = completeCommand(
            track,
            { type: 'setCueText', cueId: cue.id, lines },
            { mint: () => `new${minted++}`, atMs: 1 }
          );
          const applied = resolveCommands(track, [edit]);
          if (!applied.ok) throw new Error(applied.problem.message);
          const after = applied.value.track;
          const same = after.cues[lookUp(after).cueAt.get(cue.id)!]!;
          expect(markedLines(after, same)).toEqual(markedLines(track, cue));
          expect(same.wordIds).toEqual(cue.wordIds);
        }
      }
    })
  );
});

test('where two speak in a cue each begins a line, behind a dash or a name; marks stay on their letters', () => {
  const words = ['Yes?', 'No', 'no.'].map((text, at) =>
    makeWord({
      ...{ id: `w${at}`, text, startMs: at * 500, endMs: at * 500 + 400, timing: 'heard' },
      speakerId: at === 0 ? 's1' : 's2',
      marks: at === 1 ? [{ kind: 'i', from: 0, to: 2 }] : []
    })
  );
  const cue = makeCue({ id: 'c', startMs: 0, endMs: 2000, wordIds: words.map((word) => word.id) });
  const speakers = [makeSpeaker('s1', 'Ines'), makeSpeaker('s2', 'Tobin')];
  const track = makeTrack({ id: 't', recordingId: 'r', language: 'en', title: '', words, cues: [cue], speakers });
  expect(markedLines(track, cue)).toEqual(['- Yes?', '- <i>No</i> no.']);
  const named = { ...track, rules: { ...track.rules, sharedCues: 'name' as const } };
  expect(markedLines(named, cue)).toEqual(['Ines: Yes?', 'Tobin: <i>No</i> no.']);
  expect(writtenLines(named, cue)).toEqual(['Yes? <i>No</i> no.']);
});
