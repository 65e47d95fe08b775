import fc from 'fast-check';
import { expect, test } from 'vitest';
import { resolveCommands, completeCommand } from '$lib/core/commands';
import { anyTrack } from '$lib/core/testing/any-track';
import { lookUp, type Track } from '$lib/core/track';
import { bareText, editForTexts, paragraphsOf, wordAtOffset } from './page-model';

const texts = (track: Track): string[] => paragraphsOf(track).map((paragraph) => paragraph.text);

test('whatever is typed over the page, one edit makes the track say it, and words that stay keep their ids', () => {
  const anyTyping = fc.array(
    fc
      .array(fc.constantFrom('the', 'clock', 'tick', 'שלום', 'R&D', '[bell strikes]'), { minLength: 1, maxLength: 8 })
      .map((words) => words.join(' ')),
    { minLength: 1, maxLength: 4 }
  );
  fc.assert(
    fc.property(anyTrack, anyTyping, fc.nat(), fc.nat(), (track, typed, pick, many) => {
      const paragraphs = paragraphsOf(track);
      fc.pre(paragraphs.length > 0 && track.words[0]!.startsParagraph);
      const from = pick % paragraphs.length;
      const to = Math.min(paragraphs.length, from + 1 + (many % 3));
      const old = paragraphs.slice(from, to).flatMap((paragraph) => paragraph.words);
      const edit = editForTexts(
        old,
        typed,
        { before: paragraphs[from - 1]?.words.at(-1), after: paragraphs[to]?.words[0] },
        'en'
      );
      const wanted = [...texts(track).slice(0, from), ...typed, ...texts(track).slice(to)];
      if (edit === null) {
        expect(texts(track)).toEqual(wanted);
        return;
      }
      let minted = 0;
      const done = resolveCommands(track, [completeCommand(track, edit, { mint: () => `n${minted++}`, atMs: 1 })]);
      if (!done.ok) throw new Error(done.problem.message);
      expect(texts(done.value.track).map(bareText)).toEqual(wanted.map(bareText));
      const outside = track.words.filter((word) => !old.includes(word));
      const { findWord } = lookUp(done.value.track);
      for (const word of outside) expect(findWord(word.id)?.text).toBe(word.text);
    })
  );
});

test('a word is found by where it stands in the text, however it is spaced', () => {
  fc.assert(
    fc.property(anyTrack, (track) => {
      for (const { words } of paragraphsOf(track)) {
        const text = `  ${words.map((word) => word.text).join('   ')} `;
        let from = 0;
        for (const word of words) {
          from = text.indexOf(word.text, from) + word.text.length;
          expect(wordAtOffset(words, text, from)).toBe(word);
        }
      }
    })
  );
});
