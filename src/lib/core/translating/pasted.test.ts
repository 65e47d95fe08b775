import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { endsWith } from '../cueing';
import {
  DAMAGES_OF_ROWS,
  DAMAGES_OF_SIGNS,
  makePair,
  pastedText,
  saidBy,
  undamaged,
  type Damaged
} from '../testing/any-translation';
import { numbers } from '../testing/any-talk';
import { clipboardParts, readPasted, type Pasted } from '.';

function read(text: string, sources: readonly string[], { firstRow = 0, language = 'es' } = {}): Pasted {
  const done = readPasted(text, { sources, firstRow, language });
  if (!done.ok) throw new Error(done.problem.message);
  return done.value;
}

describe('rows on the clipboard', () => {
  test('come in parts that are no longer than asked, and end with a sentence', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 120 }),
        fc.nat(),
        fc.integer({ min: 400, max: 3000 }),
        (count, seed, most) => {
          const rows = makePair(count, seed).sources.map((source) => ({ source }));
          const parts = clipboardParts(rows, most);
          expect(parts.reduce((sum, part) => sum + part.rows, 0)).toBe(count);
          let next = 0;
          for (const { text, firstRow, rows: own } of parts) {
            expect(text.length).toBeLessThanOrEqual(most);
            expect(firstRow).toBe(next);
            next += own;
            const last = rows[next - 1]!.source;
            const isLong = rows.slice(firstRow, next).every(({ source }) => endsWith(source) !== 'sentence');
            if (!isLong) expect(endsWith(last)).toBe('sentence');
          }
        }
      )
    );
  });

  test('leave out rows that say nothing, and keep the numbers of the others', () => {
    const [part] = clipboardParts([{ source: 'One.' }, { source: '' }, { source: 'Three.' }], 5000);
    expect(part).toEqual({ text: '[1] One.\n\n[3] Three.', firstRow: 0, rows: 3 });
    const back = read('[1] Uno.\n\n[3] Tres.', ['One.', '', 'Three.']);
    expect(back.rows).toEqual([
      { row: 0, text: 'Uno.', sure: true },
      { row: 2, text: 'Tres.', sure: true }
    ]);
  });

  test('come back as they were translated, each part on its own', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 60 }), fc.nat(), (count, seed) => {
        const { sources, targets } = makePair(count, seed);
        const parts = clipboardParts(
          sources.map((source) => ({ source })),
          900
        );
        for (const { firstRow, rows } of parts) {
          const own = targets.slice(firstRow, firstRow + rows);
          const text = own.map((target, at) => `[${firstRow + at + 1}] ${target}`).join('\n\n');
          const back = read(text, sources.slice(firstRow, firstRow + rows), { firstRow });
          expect(back.rows.map((row) => row.text)).toEqual(own);
          expect(back.left).toEqual([]);
        }
      }),
      { numRuns: 30 }
    );
  });
});

/** Rows that are right, and that were wrong but sure, over a few texts. */
function tried(damage: (paste: Damaged, random: () => number) => Damaged): { right: number; wrongButSure: number } {
  let [right, all, wrongButSure] = [0, 0, 0];
  for (const seed of [1, 2, 3]) {
    const { sources, targets } = makePair(80, seed);
    const paste = damage(undamaged(targets), numbers(seed));
    for (const { row, text, sure } of read(pastedText(paste), sources).rows) {
      const isRight = saidBy(text) === saidBy(paste.truth[row]!);
      all++;
      if (isRight) right++;
      else if (sure) wrongButSure++;
    }
  }
  return { right: right / all, wrongButSure };
}

describe('what comes back damaged', () => {
  test.each(Object.keys(DAMAGES_OF_SIGNS))('%s: lies where it belongs', (name) => {
    const { right, wrongButSure } = tried(DAMAGES_OF_SIGNS[name]!);
    expect(right).toBeGreaterThanOrEqual(0.99);
    expect(wrongButSure).toBe(0);
  });
  test.each(Object.keys(DAMAGES_OF_ROWS))('%s: lies where it belongs, or is marked for a look', (name) => {
    const { right, wrongButSure } = tried(DAMAGES_OF_ROWS[name]!);
    expect(right).toBeGreaterThanOrEqual(0.95);
    expect(wrongButSure).toBe(0);
  });

  test('something else is not taken for sure', () => {
    const { sources } = makePair(40, 3);
    const { rows } = read(
      'Milk, eggs, flour. Ring Ada about the key.\n\nThe meeting is at ten; bring the plans for the roof, please, all of them.',
      sources
    );
    expect(rows.filter(({ sure }) => sure)).toEqual([]);
  });

  test('of another size or without words is refused', () => {
    const { sources } = makePair(20, 1);
    expect(readPasted('x '.repeat(2_500_000), { sources, firstRow: 0, language: 'es' })).toMatchObject({
      problem: { code: 'too_long' }
    });
    expect(readPasted(' \n\u200b\n', { sources, firstRow: 0, language: 'es' })).toMatchObject({
      problem: { code: 'no_text' }
    });
  });

  test('markup is text', () => {
    const [row] = read('[1] <b onclick="x()">Hola</b> & <script>alert(1)</script>', ['Hello there, all of you.']).rows;
    expect(row!.text).toContain('Hola');
    const page = read('<html><body><p>[1] Hola<br></p><script>alert(1)</script></body></html>', ['Hello.']);
    expect(page.rows).toEqual([{ row: 0, text: 'Hola', sure: true }]);
  });

  test('scripts without spaces and from the right keep their signs', () => {
    const sources = ['The clock stops in winter.', 'Nobody hears it.'];
    expect(
      read('【1】 時計は冬に止まります。\n【2】 誰にも聞こえません。', sources, { language: 'ja' }).rows
    ).toMatchObject([{ text: '時計は冬に止まります。' }, { text: '誰にも聞こえません。' }]);
    expect(read('[١] توقفت الساعة في الشتاء.\n\n[٢] لا أحد يسمعها.', sources, { language: 'ar' }).rows).toMatchObject([
      { text: 'توقفت الساعة في الشتاء.', sure: true },
      { text: 'لا أحد يسمعها.', sure: true }
    ]);
  });

  test('a translation without times, in paragraphs, is laid on the rows', () => {
    let [right, all] = [0, 0];
    for (const seed of [1, 2, 3]) {
      const { sources, targets, paragraphs } = makePair(100, seed, 0);
      const text = paragraphs.map((rows) => rows.map((row) => targets[row]).join(' ')).join('\n\n');
      for (const row of read(text, sources).rows) {
        all++;
        if (saidBy(row.text) === saidBy(targets[row.row]!)) right++;
      }
    }
    expect(right / all).toBeGreaterThanOrEqual(0.9);
  });
});
