import { expect, test } from 'vitest';
import { resolveCommands, completeCommand } from '../commands';
import { joinWords, makeTrack, makeWord, type Track } from '../track';
import { hesitationsOf, leaveOutHesitations } from '.';

const trackOf = (text: string, language = 'en-GB'): Track => {
  const words = text
    .split(' ')
    .map((one, at) => makeWord({ id: `w${at}`, text: one, startMs: at * 300, endMs: at * 300 + 200, timing: 'heard' }));
  return makeTrack({ id: 't', recordingId: 'r', language, title: '', words, cues: [] });
};
function without(text: string): string {
  const track = trackOf(text);
  const edits = leaveOutHesitations(track).map((edit) => completeCommand(track, edit, { mint: () => 'id', atMs: 1 }));
  const applied = resolveCommands(track, edits);
  if (!applied.ok) throw new Error(applied.problem.message);
  return joinWords(applied.value.track.words.filter((word) => word.shown));
}

test.each([
  ['Um, the weight falls.', 'The weight falls.'],
  ['So, uh, we wait.', 'So, we wait.'],
  ['We wait, um.', 'We wait.'],
  ['We wait and, uh, um? Uh, then we go.', 'We wait and? Then we go.'],
  ['Um.', ''],
  ['Nothing of the kind.', 'Nothing of the kind.']
])('%s → %s', (said, left) => expect(without(said)).toBe(left));

test('they are marked in English, whatever stands about them, and known after they are left out', () => {
  expect(hesitationsOf(trackOf('Um, well, UH. yes')).map(({ text }) => text)).toEqual(['Um,', 'UH.']);
  expect(hesitationsOf(trackOf('Um die Uhr', 'de'))).toEqual([]);
  expect(leaveOutHesitations(trackOf('All is said.'))).toEqual([]);
});
