import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { makeWord, type Word } from '../track';
import { countWordErrors, draftErrors, findChanges } from '.';

const words = (text: string, more: (at: number) => Partial<Word> = () => ({})): { words: Word[] } => ({
  words: text
    .split(' ')
    .filter((word) => word !== '')
    .map((word, at) =>
      makeWord({
        ...{ id: `w${at}`, text: word, startMs: at * 1000, endMs: at * 1000 + 800, timing: 'heard' },
        ...more(at)
      })
    )
});
const said = (list: readonly Word[]): string => list.map((word) => word.text).join(' ');

describe('changes between two versions', () => {
  test('stand word by word, with what was there and what is', () => {
    const changes = findChanges(words('the club keeps time um all day'), words('The clock keeps time all day long'));
    expect(changes.map(({ before, after }) => [said(before), said(after)])).toEqual([
      ['the club', 'The clock'],
      ['um', ''],
      ['', 'long']
    ]);
    expect(changes[0]).toMatchObject({ startMs: 0, endMs: 1800 });
  });

  test('the one with its changes made is the other', () => {
    const text = fc
      .array(fc.constantFrom('a', 'b', 'tick', 'tock', 'the'), { maxLength: 25 })
      .map((list) => list.join(' '));
    fc.assert(
      fc.property(text, text, (before, after) => {
        const [old, now] = [words(before), words(after)];
        const changes = findChanges(old, now);
        const gone = new Set(changes.flatMap((change) => change.before));
        const come = new Set(changes.flatMap((change) => change.after));
        expect(said(old.words.filter((word) => !gone.has(word)))).toBe(
          said(now.words.filter((word) => !come.has(word)))
        );
      })
    );
  });
});

describe('the errors of a draft', () => {
  test('are counted without capitals and marks, by speaker and over time', () => {
    const corrected = words('The clock keeps time. We clean the pivots.', (at) => ({
      speakerId: at < 4 ? 'ines' : null
    }));
    const errors = draftErrors(words('the club keeps time we green the'), corrected, { stretchMs: 4000 });
    expect(errors.all).toMatchObject({ words: 8, substitutions: 2, deletions: 1, insertions: 0, wordErrorRate: 3 / 8 });
    expect(errors.bySpeaker).toMatchObject([
      { speakerId: 'ines', errors: { words: 4, substitutions: 1 } },
      { speakerId: null, errors: { words: 4, substitutions: 1, deletions: 1 } }
    ]);
    expect(errors.byTime.map((one) => one.wordErrorRate)).toEqual([0.25, 0.5]);
  });

  test('are never fewer than the least, and none where nothing differs', () => {
    const text = fc
      .array(fc.constantFrom('a', 'b', 'tick', 'tock', 'the'), { maxLength: 25 })
      .map((list) => list.join(' '));
    fc.assert(
      fc.property(text, text, (before, after) => {
        const { all } = draftErrors(words(before), words(after), { stretchMs: 5000 });
        const least = countWordErrors(after, before);
        const sum = ({ substitutions, insertions, deletions }: typeof all): number =>
          substitutions + insertions + deletions;
        expect(all.words).toBe(least.words);
        expect(sum(all)).toBeGreaterThanOrEqual(sum(least));
        expect(sum(draftErrors(words(after), words(after), { stretchMs: 5000 }).all)).toBe(0);
      })
    );
  });
});
