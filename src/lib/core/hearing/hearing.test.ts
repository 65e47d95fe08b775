import { expect, test } from 'vitest';
import { findBrokenInvariant, HOUSE_RULES } from '../track';
import { draftTrack, wordFromDictionary } from '.';

const heard = (text: string, startMs: number) =>
  text.split(' ').map((word, at) => ({
    text: word,
    startMs: startMs + at * 300,
    endMs: startMs + at * 300 + 280,
    confidence: 0.5,
    alternatives: []
  }));

test('sentences come from pauses, chunks stand in order, and what was not heard is a marked hole that no caption shows', () => {
  let minted = 0;
  const track = draftTrack(
    [
      { startMs: 5000, endMs: 9000, words: null },
      { startMs: 0, endMs: 5000, words: [...heard('good morning', 100), ...heard('today we open it', 1600)] },
      { startMs: 9000, endMs: 12_000, words: heard('and listen', 9100) }
    ],
    { trackId: 't', recordingId: 'r', language: 'en', title: 'Draft', rules: HOUSE_RULES, mint: () => `m${minted++}` }
  );
  expect(track.words.map((word) => word.text).join(' ')).toBe(
    'Good morning. Today we open it. [not heard, 0:05–0:09] And listen.'
  );
  expect(track.words.find((word) => word.kind === 'hole')).toMatchObject({ shown: false, startMs: 5000, endMs: 9000 });
  expect(track.cues.flatMap((cue) => cue.wordIds)).not.toContain(track.words.find((word) => word.kind === 'hole')!.id);
  expect(findBrokenInvariant(track)).toBeNull();
});

test('dictionary entries become words as they are written', () => {
  expect(['the(2)', "i'm", 'i', '<sil>', '++NOISE++', '[SPEECH]', "it's"].map(wordFromDictionary)).toEqual([
    'the',
    "I'm",
    'I',
    null,
    null,
    null,
    "it's"
  ]);
});
