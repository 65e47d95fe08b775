import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { resolveCommands, type PlainCommand } from '../commands';
import { recue } from '../cueing';
import { asCueId, asTrackId } from '../id';
import { anyClientCommandSeed, anyTrack, commandFromSeed } from '../testing/any-track';
import { asked } from '../testing/asked';
import {
  findBrokenInvariant,
  HOUSE_RULES,
  makeCue,
  makeTrack,
  makeWord,
  plainLines,
  tokenize,
  type Track
} from '../track';
import { makeTranslation, rowsOf, sentencesOf, withSourceAbove } from '.';

/** A track of one cue a line, two seconds each. */
function spoken(lines: readonly string[], language = 'en'): Track {
  const cues = lines.map((line, at) => ({
    line,
    at,
    words: tokenize(line, language).map((token, place) =>
      makeWord({
        id: `w${at}.${place}`,
        ...token,
        startMs: at * 2000 + place * 100,
        endMs: at * 2000 + place * 100 + 90,
        timing: 'heard'
      })
    )
  }));
  return makeTrack({
    ...{ id: 'source', recordingId: 'r', language, title: 'Said' },
    words: cues.flatMap(({ words }) => words),
    cues: cues.map(({ at, words }) =>
      makeCue({ id: `s${at}`, startMs: at * 2000, endMs: at * 2000 + 1900, wordIds: words.map(({ id }) => id) })
    )
  });
}

function minting(): () => string {
  let count = 0;
  return () => `t${count++}`;
}
const translated = (source: Track, language = 'es', text: 'sounds' | 'words' = 'sounds'): Track =>
  makeTranslation(source, { id: 'target', language, title: 'Dicho', text, mint: minting() });

function done(track: Track, ...commands: readonly PlainCommand[]): Track {
  const resolved = resolveCommands(track, commands.map(asked));
  if (!resolved.ok) throw new Error(resolved.problem.message);
  return resolved.value.track;
}

const ids = Array.from({ length: 40 }, (_, at) => `n${at}`);
const written = (
  cueId: string,
  text: string,
  state: 'machine' | 'mine' | 'done',
  sourceText: string
): PlainCommand => ({
  type: 'writeRows',
  cues: [{ cueId, lines: [text], translation: { state, sourceText } }],
  newWordIds: ids.map((id) => `${cueId}-${id}`),
  atMs: 5
});

const CLOCK = spoken(['The clock stops', 'in winter.', '[bell strikes]', 'Nobody hears it.']);

describe('rows', () => {
  test('begin one for each cue of the source, with its times and its sounds', () => {
    const target = translated(CLOCK);
    expect(findBrokenInvariant(target)).toBeNull();
    expect(target).toMatchObject({ sourceTrackId: 'source', kind: 'subtitles', language: 'es' });
    expect(rowsOf(target, CLOCK).map(({ source, target: text, state }) => [source, text, state])).toEqual([
      ['The clock stops', '', 'empty'],
      ['in winter.', '', 'empty'],
      ['[bell strikes]', '[bell strikes]', 'machine'],
      ['Nobody hears it.', '', 'empty']
    ]);
    expect(target.cues.map(({ startMs, endMs }) => [startMs, endMs])).toEqual(
      CLOCK.cues.map(({ startMs, endMs }) => [startMs, endMs])
    );
    const copied = rowsOf(translated(CLOCK, 'es', 'words'), CLOCK);
    expect(copied.every(({ source, target: text, state }) => source === text && state === 'machine')).toBe(true);
  });

  test('follow the script of their language', () => {
    expect(translated(CLOCK, 'ja').rules).toMatchObject({ maxCharsPerLine: 16, maxCharsPerSecond: 7 });
    expect(translated(CLOCK, 'es').rules).toEqual(HOUSE_RULES);
    const japanese = spoken(['時計が止まる。'], 'ja');
    expect(translated({ ...japanese, rules: { ...HOUSE_RULES, maxCharsPerLine: 13 } }, 'en').rules).toEqual(
      HOUSE_RULES
    );
  });

  test('are the machine’s until a hand touches their words, and then mine', () => {
    const [first, second] = translated(CLOCK).cues;
    const drafted = done(
      translated(CLOCK),
      written(first!.id, 'El reloj se para', 'machine', 'The clock stops'),
      written(second!.id, 'en invierno.', 'machine', 'in winter.')
    );
    const states = (track: Track) => rowsOf(track, CLOCK).map(({ state }) => state);
    expect(states(drafted)).toEqual(['machine', 'machine', 'machine', 'empty']);
    expect(drafted.words.every(({ correctedAt }) => correctedAt === null)).toBe(true);
    const [word] = drafted.cues[1]!.wordIds;
    expect(states(done(drafted, { type: 'setWordText', wordId: word!, text: 'En', atMs: 7 }))).toEqual([
      ...['machine', 'mine', 'machine', 'empty']
    ]);
    // A word that goes to the next cue says what it said.
    expect(states(done(drafted, { type: 'moveBorder', cueId: first!.id, direction: 'push' }))[0]).toBe('machine');
    const { sourceText } = drafted.cues[0]!.translation!;
    const marked = done(drafted, {
      type: 'markRows',
      cues: [{ cueId: first!.id, translation: { state: 'done', sourceText } }]
    });
    expect(states(marked)[0]).toBe('done');
    // What was left without words on purpose is done as well.
    const last = marked.cues[3]!.id;
    expect(
      states(
        done(marked, { type: 'markRows', cues: [{ cueId: last, translation: { state: 'done', sourceText: '' } }] })
      )[3]
    ).toBe('done');
  });

  test('mark what a machine did not know as a doubt', () => {
    const [first] = translated(CLOCK).cues;
    const drafted = done(translated(CLOCK), {
      type: 'writeRows',
      cues: [
        {
          cueId: first!.id,
          lines: ['El Merrowby para'],
          translation: { state: 'machine', sourceText: 'The clock stops' },
          doubts: [1]
        }
      ],
      newWordIds: ids,
      atMs: 5
    });
    expect(drafted.words.slice(0, 3).map(({ confidence }) => confidence)).toEqual([null, 0, null]);
  });

  test('hold several cues of either side', () => {
    const target = translated(CLOCK);
    const [first, second] = target.cues;
    const merged = done(
      target,
      written(first!.id, 'El reloj se para', 'mine', 'The clock stops'),
      written(second!.id, 'en invierno.', 'mine', 'in winter.'),
      { type: 'mergeCues', cueIds: [first!.id, second!.id] }
    );
    const [row, ...rest] = rowsOf(merged, CLOCK);
    expect(row).toMatchObject({ source: 'The clock stops in winter.', target: 'El reloj se para en invierno.' });
    expect(row).toMatchObject({ state: 'mine', changedFrom: null });
    expect(rest).toHaveLength(2);
    const parted = done(merged, {
      type: 'splitCue',
      cueId: first!.id,
      wordId: merged.cues[0]!.wordIds[2]!,
      newCueId: 'later'
    });
    const [again] = rowsOf(parted, CLOCK);
    expect(again!.cues.map(({ id }) => id)).toEqual([first!.id, 'later']);
    expect(again).toMatchObject({ target: 'El reloj se para en invierno.', changedFrom: null });
  });

  test('tell what the source said when it says something else now', () => {
    const target = translated(CLOCK);
    const changed = done(CLOCK, { type: 'setWordText', wordId: 'w1.1', text: 'spring.', atMs: 9 });
    expect(rowsOf(target, changed).map(({ changedFrom }) => changedFrom)).toEqual([null, 'in winter.', null, null]);
  });

  test('stay together when either side is broken anew, parted or merged', () => {
    const lines = ['The clock stops', 'in winter and', 'nobody hears it', 'until the spring.'];
    const source = spoken(lines);
    const target = translated(source, 'es', 'words');
    const rules = { ...HOUSE_RULES, maxCharsPerLine: 20, maxLines: 2 };
    const cues = recue(target, rules, minting()).map((cue) => ({ ...cue }));
    const brokenTarget = done(target, { type: 'setCues', cues, rules });
    const rows = rowsOf(brokenTarget, source);
    expect(rows.flatMap(({ sourceCues }) => sourceCues.map(({ id }) => id)).sort()).toEqual(['s0', 's1', 's2', 's3']);
    expect(rows.every(({ source: one, target: other }) => one === other)).toBe(true);
    expect(rows.every(({ changedFrom }) => changedFrom === null)).toBe(true);

    let count = 0;
    const anew = recue(source, rules, () => `anew${count++}`);
    const brokenSource = done(source, { type: 'setCues', cues: anew, rules });
    const after = rowsOf(target, brokenSource);
    expect(after.every(({ source: one, target: other, changedFrom }) => one === other && changedFrom === null)).toBe(
      true
    );
    const parted = done(source, { type: 'splitCue', cueId: 's1', wordId: 'w1.1', newCueId: 'half' });
    expect(rowsOf(target, parted).every(({ source: one, target: other }) => one === other)).toBe(true);
  });

  test('hold each cue of both sides once, whatever was done to either', () => {
    fc.assert(
      fc.property(
        anyTrack,
        fc.array(fc.tuple(fc.boolean(), anyClientCommandSeed), { maxLength: 12 }),
        (source, seeds) => {
          let pair = { source, target: translated(source, 'es', 'words') };
          for (const [isSource, seed] of seeds) {
            const side = isSource ? 'source' : 'target';
            const resolved = resolveCommands(pair[side], [commandFromSeed(pair[side], seed)]);
            if (resolved.ok) pair = { ...pair, [side]: resolved.value.track };
          }
          const rows = rowsOf(pair.target, pair.source);
          const all = (side: 'cues' | 'sourceCues') => rows.flatMap((row) => row[side].map(({ id }) => id)).sort();
          expect(all('cues')).toEqual(pair.target.cues.map(({ id }) => id).sort());
          expect(all('sourceCues')).toEqual(pair.source.cues.map(({ id }) => id).sort());
        }
      )
    );
  });
});

describe('sentences', () => {
  test('go over cues, end with their voice, and leave sounds alone', () => {
    const source = spoken(['The clock stops', 'in winter. Nobody', '[bell strikes]', 'hears it.']);
    expect(
      sentencesOf(source, rowsOf(translated(source), source)).map(({ text, kind, pieces }) => [
        text,
        kind,
        pieces.map(({ row, text: own }) => `${row} ${own}`)
      ])
    ).toEqual([
      ['The clock stops in winter.', 'speech', ['0 The clock stops', '1 in winter.']],
      ['Nobody', 'speech', ['1 Nobody']],
      ['[bell strikes]', 'sound', ['2 [bell strikes]']],
      ['hears it.', 'speech', ['3 hears it.']]
    ]);
  });

  test('say together all that is shown', () => {
    fc.assert(
      fc.property(anyTrack, (source) => {
        const rows = rowsOf(translated(source), source);
        const said = sentencesOf(source, rows).flatMap(({ pieces }) => pieces.map(({ text }) => text));
        const shown = rows.map((row) => row.source).filter((text) => text !== '');
        expect(said.join('').replace(/\s/g, '')).toBe(shown.join('').replace(/\s/g, ''));
      })
    );
  });
});

test('with its source above it is a track that says all of both', () => {
  fc.assert(
    fc.property(anyTrack, (source) => {
      const target = translated(source, 'es', 'words');
      const both = withSourceAbove(target, source);
      expect(findBrokenInvariant(both)).toBeNull();
      const said = (track: Track): string[] =>
        track.cues.map((cue) => plainLines({ ...track, rules: both.rules }, cue).join(' '));
      expect(said(both).sort()).toEqual([...said(source), ...said(target)].sort());
      const above = both.cues.filter(({ id }) => !target.cues.some((cue) => cue.id === id));
      expect(above.every(({ placement }) => placement === 'top centre')).toBe(true);
    })
  );
});

test('a translation is a track like any other', () => {
  fc.assert(
    fc.property(anyTrack, fc.constantFrom('es', 'ja', 'he'), (source, language) => {
      const target = translated(source, language, 'words');
      expect(findBrokenInvariant(target)).toBeNull();
      expect(target.cues.map((cue) => plainLines(target, cue))).toEqual(
        source.cues.map((cue) => plainLines({ ...source, rules: target.rules }, cue))
      );
      expect(target.sourceTrackId).toBe(asTrackId(source.id));
      expect(target.cues.map(({ sourceCueIds }) => sourceCueIds)).toEqual(source.cues.map(({ id }) => [asCueId(id)]));
    })
  );
});
