import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { resolveCommands, completeCommand } from '../commands';
import { makeTrack, makeWord, type Track } from '../track';
import { findHits, hitText, inCaseOf, replaceHits, type Query } from '.';

const trackOf = (text: string): Track =>
  makeTrack({
    ...{ id: 't', recordingId: 'r', language: 'en', title: '', cues: [] },
    words: text
      .split(' ')
      .map((word, at) =>
        makeWord({ id: `w${at}`, text: word, startMs: at * 300, endMs: at * 300 + 250, timing: 'heard' })
      )
  });
const query = (text: string, more: Partial<Query> = {}): Query => ({
  ...{ text, matchCase: false, wholeWord: false, soundsLike: false },
  ...more
});
const found = (text: string, asked: Query): string[] => {
  const { words } = trackOf(text);
  return findHits(words, asked).map((hit) => hitText(words, hit));
};
function replaced(text: string, asked: Query, replacement: string): string {
  const track = trackOf(text);
  let minted = 0;
  const edits = replaceHits(track.words, findHits(track.words, asked), replacement);
  const done = resolveCommands(
    track,
    edits.map((edit) => completeCommand(track, edit, { mint: () => `n${minted++}`, atMs: 5 }))
  );
  if (!done.ok) throw new Error(done.problem.message);
  return done.value.track.words.map((word) => word.text).join(' ');
}

describe('finding', () => {
  const text = 'The clock keeps time. A Clockmaker’s clock, CLOCK!';
  test('by letters, with case, and by whole words', () => {
    expect(found(text, query('clock'))).toEqual(['clock', 'Clock', 'clock', 'CLOCK']);
    expect(found(text, query('clock', { matchCase: true }))).toEqual(['clock', 'clock']);
    expect(found(text, query('clock', { wholeWord: true }))).toEqual(['clock', 'clock', 'CLOCK']);
    expect(found(text, query('  clock   keeps '))).toEqual(['clock keeps']);
    expect(found(text, query(' '))).toEqual([]);
    expect(found('the (a+)+ of it', query('(a+)+'))).toEqual(['(a+)+']);
  });

  test('by sound: one word that was heard as two, two as one, and other letters for the same', () => {
    expect(found('something is the escape meant. It has', query('escapement', { soundsLike: true }))).toEqual([
      'escape meant'
    ]);
    expect(found('they clean the pivot’s now', query('pivots', { soundsLike: true }))).toEqual(['pivot’s']);
    expect(found('so Maryhill rang', query('Mary Hill', { soundsLike: true }))).toEqual(['Maryhill']);
    expect(found('the write thing', query('right', { soundsLike: true }))).toEqual(['write']);
    expect(found('nothing like it', query('escapement', { soundsLike: true }))).toEqual([]);
  });

  test('every sign counts for one place, whatever its small letters are', () => {
    const { words } = trackOf('İSTANBUL ist İstanbul 🕰️ e\u0301te\u0301 fin');
    const [hit] = findHits(words, query('fin'));
    expect(hit).toMatchObject({ from: 5, start: 0, end: 3 });
  });

  test('a hit is where its text stands', () => {
    const word = fc.constantFrom('the', 'clock', 'a', 'Aa', 'tick,', '“tock”', 'b');
    fc.assert(
      fc.property(fc.array(word, { minLength: 1, maxLength: 30 }), word, fc.boolean(), (texts, wanted, matchCase) => {
        const hits = found(texts.join(' '), query(wanted, { matchCase }));
        const small = (text: string): string => (matchCase ? text : text.toLowerCase());
        expect(hits.every((hit) => small(hit) === small(wanted))).toBe(true);
        expect(hits.length).toBe(small(texts.join(' ')).split(small(wanted)).length - 1);
      })
    );
  });
});

describe('replacing', () => {
  test('keeps the case of what was there, and the marks around it', () => {
    expect(replaced('A Clock, a clock. CLOCK!', query('clock'), 'tower bell')).toBe(
      'A Tower bell, a tower bell. TOWER BELL!'
    );
    expect([inCaseOf('pallets', 'Palace'), inCaseOf('pallets', 'PALACE'), inCaseOf('Ashe', 'ash')]).toEqual([
      'Pallets',
      'PALLETS',
      'Ashe'
    ]);
  });

  test('by nothing takes words out, and parts of words', () => {
    expect(replaced('a very very good, very. End', query('very', { wholeWord: true }), '')).toBe('a good, End');
    expect(replaced('unclear and unkind', query('un'), '')).toBe('clear and kind');
  });

  test('several hits in a word, and hits that share one, are written once', () => {
    expect(replaced('banana bandana', query('an'), 'o')).toBe('booa bodoa');
    expect(replaced('tick tock tick tock', query('k t'), 'k-t')).toBe('tick-tock-tick-tock');
  });

  test('a run that becomes one word has its whole time; what did not change keeps its own', () => {
    const track = trackOf('the escape meant. It has');
    const edits = replaceHits(track.words, findHits(track.words, query('escape meant')), 'escapement');
    const done = resolveCommands(
      track,
      edits.map((edit) => completeCommand(track, edit, { mint: () => 'n0', atMs: 5 }))
    );
    if (!done.ok) throw new Error(done.problem.message);
    expect(done.value.track.words[1]).toMatchObject({ text: 'escapement.', startMs: 300, endMs: 850 });
    expect(done.value.track.words[2]).toMatchObject({ id: 'w3', startMs: 900 });
  });
});
