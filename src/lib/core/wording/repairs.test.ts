import { describe, expect, test } from 'vitest';
import { resolveCommands, completeCommand } from '../commands';
import { makeTrack, makeWord, type Track } from '../track';
import { repairEdits, type Repair } from '.';

const trackOf = (text: string, language = 'en'): Track =>
  makeTrack({
    id: 't',
    recordingId: 'r',
    language,
    title: '',
    cues: [],
    words: text
      .split(' ')
      .map((word, at) =>
        makeWord({ id: `w${at}`, text: word, startMs: at * 300, endMs: at * 300 + 250, timing: 'heard' })
      )
  });

/** The text after a repair on the words from one place to another. */
function repaired(text: string, repair: Repair, from: number, to = from, language = 'en'): string {
  const track = trackOf(text, language);
  let minted = 0;
  const edits = repairEdits(track, track.words.slice(from, to + 1), repair);
  const done = resolveCommands(
    track,
    edits.map((edit) => completeCommand(track, edit, { mint: () => `n${minted++}`, atMs: 5 }))
  );
  if (!done.ok) throw new Error(done.problem.message);
  return done.value.track.words.map((word) => (word.shown ? word.text : `(${word.text})`)).join(' ');
}

describe('a repair by one key', () => {
  test.each<[string, Repair, number, string]>([
    ['the clock is late', 'capital', 1, 'the Clock is late'],
    ['the “clock” is late', 'capital', 1, 'the “Clock” is late'],
    ['the Clock is late', 'capital', 1, 'the clock is late'],
    ['the bbc said', 'allCapitals', 1, 'the BBC said'],
    ['the BBC said', 'allCapitals', 1, 'the bbc said'],
    ['it is late we go', 'sentenceEnd', 2, 'it is late. We go'],
    ['it is late, we go', 'sentenceEnd', 2, 'it is late. We go'],
    ['it is late. We go', 'sentenceEnd', 2, 'it is late we go'],
    ['is it late? I know', 'sentenceEnd', 2, 'is it late I know'],
    ['it is late. We go', 'comma', 2, 'it is late, we go'],
    ['it is late, we go', 'comma', 2, 'it is late we go'],
    ['he said “late” we go', 'sentenceEnd', 2, 'he said “late”. We go'],
    ['is it late. We go', 'question', 2, 'is it late? We go'],
    ['late we go', 'semicolon', 0, 'late; we go'],
    ['late we go', 'colon', 0, 'late: we go'],
    ['late we go', 'exclamation', 0, 'late! We go'],
    ['late we go', 'dash', 0, 'late— we go'],
    ['(late). We go', 'noMark', 0, 'late we go'],
    ['the under standing of it', 'join', 1, 'the understanding of it'],
    ['the under, standing of it', 'join', 1, 'the understanding of it'],
    ['So we go', 'leaveOut', 0, '(So) We go'],
    ['we go so. Then', 'leaveOut', 2, 'we go. (so.) Then']
  ])('%s, %s of word %i: %s', (before, repair, at, after) => {
    expect(repaired(before, repair, at)).toBe(after);
  });

  test('signs go around all that is selected, inside the stop or outside, and come off again', () => {
    expect(repaired('he said we go. Then', 'quotes', 2, 3)).toBe('he said “we go.” Then');
    expect(repaired('he said “we go.” Then', 'quotes', 2, 3)).toBe('he said we go. Then');
    expect(repaired('so (we go) then', 'brackets', 1, 2)).toBe('so we go then');
    expect(repaired('so we go. Then', 'brackets', 1, 2)).toBe('so (we go). Then');
    expect(repaired('sie sagt los', 'quotes', 2, 2, 'de')).toBe('sie sagt „los“');
  });

  test('left out once, a heard word is kept and not shown; a second time it is back; deleting is another repair', () => {
    const track = trackOf('so we go');
    const hidden = { ...track, words: track.words.map((word) => ({ ...word, shown: word.id !== 'w0' })) };
    expect(repairEdits(hidden, [hidden.words[0]!], 'leaveOut')).toEqual([
      { type: 'setWordsShown', wordIds: ['w0'], shown: true }
    ]);
    expect(repairEdits(hidden, [hidden.words[0]!], 'remove')).toEqual([
      { type: 'replaceWords', wordIds: ['w0'], text: '' }
    ]);
  });

  test('there is nothing to do on no word, nor to join behind the last', () => {
    const track = trackOf('so we go');
    expect(repairEdits(track, [], 'comma')).toEqual([]);
    expect(repairEdits(track, [track.words[2]!], 'join')).toEqual([]);
  });
});
