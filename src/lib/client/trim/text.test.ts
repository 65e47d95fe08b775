import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyTrim, anyTrimSeed, RECORDED_MS, trimFromSeeds, wholeTrim } from '$lib/core/testing/any-trim';
import { makeWord, type Word } from '$lib/core/track';
import { mapOf, type Trim } from '$lib/core/trims';
import {
  byMiddle,
  comparePlaces,
  findPlace,
  isChosen,
  nextChosen,
  textOf,
  tokensBetween,
  type Paragraph,
  type Token
} from './text';

/** One word every 250 ms, with a pause in each second; new paragraphs and speakers here and there. */
const words: readonly Word[] = Array.from({ length: RECORDED_MS / 250 }, (_, at) =>
  makeWord({
    ...{ id: `w${at}`, text: `word${at}`, startMs: at * 250, endMs: at * 250 + (at % 4 === 3 ? 100 : 240) },
    ...{ startsParagraph: at % 9 === 0, speakerId: at % 14 < 7 ? 'ines' : 'tobin', timing: 'heard' }
  })
).filter((_, at) => at % 11 !== 10);
const order = byMiddle({ words });
const speakers = new Map([
  ['ines', 'Ines Calder'],
  ['tobin', 'Tobin Ashe']
]);
const tokensOf = (text: readonly Paragraph[]): Token[] => text.flatMap(({ tokens }) => tokens);
const plain = (text: readonly Paragraph[]) =>
  text.map(({ key, speaker, startMs, tokens, letters }) => ({ key, speaker, startMs, tokens, letters }));
const textFrom = (trim: Trim) => textOf(trim, order, { speakers, before: null });

describe('the text of a trim', () => {
  test('has every word once for each of its pieces, in playing order, and a join wherever one piece follows another', () => {
    fc.assert(
      fc.property(anyTrim, (trim) => {
        const tokens = tokensOf(textFrom(trim).paragraphs);
        expect(new Set(tokens.map(({ key }) => key)).size).toBe(tokens.length);
        const said = tokens.flatMap((token) => (token.kind === 'word' ? [`${token.pieceId} ${token.word.id}`] : []));
        const wanted = trim.pieces.flatMap((piece) =>
          words.flatMap(({ id, startMs, endMs }) => {
            const middle = (startMs + endMs) / 2;
            return piece.kind === 'stretch' && middle >= piece.fromMs && middle < piece.toMs
              ? [`${piece.id} ${id}`]
              : [];
          })
        );
        expect(said).toEqual(wanted);
        const joins = tokens.flatMap((token) => (token.kind === 'join' ? [token.pieceId] : []));
        expect(joins).toEqual(
          mapOf(trim)
            .laid.slice(1)
            .map(({ piece }) => piece.id)
        );
      })
    );
  });

  test('after an edit is what it would be made anew, and what shows the same is drawn as it was', () => {
    fc.assert(
      fc.property(fc.array(anyTrimSeed, { minLength: 1, maxLength: 12 }), (seeds) => {
        const before = textFrom(trimFromSeeds(seeds.slice(0, -1)));
        const next = trimFromSeeds(seeds);
        const after = textOf(next, order, { speakers, before });
        expect(plain(after.paragraphs)).toEqual(plain(textFrom(next).paragraphs));
        for (const paragraph of after.paragraphs) {
          const old = before.paragraphs.find(({ key }) => key === paragraph.key);
          if (old !== undefined && JSON.stringify(plain([old])) === JSON.stringify(plain([paragraph])))
            expect(paragraph.tokens).toBe(old.tokens);
        }
        const again = textOf(next, order, { speakers, before: after });
        again.paragraphs.forEach((paragraph, at) => expect(paragraph).toBe(after.paragraphs[at]));
      })
    );
  });

  test('is gone through by places, from wherever they are looked for', () => {
    fc.assert(
      fc.property(anyTrim, fc.nat(), fc.nat(), fc.nat(), (trim, a, b, near) => {
        const { paragraphs } = textFrom(trim);
        const tokens = tokensOf(paragraphs);
        const [one, other] = [a % tokens.length, b % tokens.length].sort((x, y) => x - y) as [number, number];
        const find = (at: number) => findPlace(paragraphs, tokens[at]!.key, near % (paragraphs.length + 3))!;
        expect(Math.sign(comparePlaces(find(one), find(other)))).toBe(Math.sign(one - other));
        expect(tokensBetween(paragraphs, find(one), find(other))).toEqual(tokens.slice(one, other + 1));
        expect(nextChosen(paragraphs, find(one), 1)).toBe(tokens.slice(one + 1).find(isChosen) ?? null);
        expect(nextChosen(paragraphs, find(other), -1)).toBe(tokens.slice(0, other).findLast(isChosen) ?? null);
        expect(findPlace(paragraphs, 'no such key', 0)).toBe(null);
      })
    );
  });

  test('of words that were said anew is drawn anew only where they stand', () => {
    const before = textFrom(wholeTrim());
    const changed = byMiddle({ words: words.map((word) => (word.id === 'w12' ? { ...word, text: 'bell' } : word)) });
    const after = textOf(wholeTrim(), changed, { speakers, before });
    const differing = after.paragraphs.filter(({ tokens }, at) => tokens !== before.paragraphs[at]!.tokens);
    expect(differing).toHaveLength(1);
    expect(tokensOf(differing).some((token) => token.kind === 'word' && token.word.text === 'bell')).toBe(true);
  });
});
