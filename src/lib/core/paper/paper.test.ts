import fc from 'fast-check';
import { expect, test } from 'vitest';
import { formatPaperHtml, paperSchema, type Paper, type Part } from '.';

const TEXT = 'R&D <b>"x"</b>';
const ESCAPED = 'R&amp;D &lt;b&gt;"x"&lt;/b&gt;';
const PARTS: readonly Part[] = [
  { kind: 'heading', level: 2, text: TEXT },
  { kind: 'paragraph', text: TEXT, startMs: null, tone: 'sound' },
  { kind: 'facts', name: TEXT, facts: [{ label: TEXT, value: { text: 'שלום', language: 'he' } }] },
  { kind: 'table', name: TEXT, columns: [{ head: TEXT, share: 1 }], rows: [[TEXT], ['2']] },
  {
    kind: 'bars',
    name: TEXT,
    bars: [
      { label: '0 to 1', count: 3, isOutside: true },
      { label: '1 to 2', count: 0, isOutside: false }
    ]
  }
];
const paper = (parts: readonly Part[], language = 'en'): Paper => ({ title: TEXT, language, parts });

test('every part stands in the page, with its language, and no text is read as markup', () => {
  const page = formatPaperHtml(paper(PARTS));
  expect(page.split(ESCAPED).length - 1).toBe(10);
  expect(page).not.toContain('<b>');
  expect(page).toContain('<td lang="he" dir="auto">שלום</td>');
  expect(page).toContain('<th scope="col">');
  expect(page).toContain('<p class="sound" dir="auto">');
  // A bar beside its number; nothing for none.
  expect(page.match(/<i[ >]/g)).toHaveLength(1);
  expect(page).toContain('<main>');
  expect(formatPaperHtml(paper([], 'ar'))).toContain('<html lang="ar" dir="rtl">');
});

test('a time stands before its paragraph, as a duration that machines read', () => {
  const page = formatPaperHtml(paper([{ kind: 'paragraph', text: 'It strikes.', startMs: 63_250, tone: 'plain' }]));
  expect(page).toContain('<main class="timed">\n<time datetime="PT63.250S">1:03</time><p dir="auto">It strikes.</p>');
});

test('whatever the texts are, the page has as many tags as the parts ask for', () => {
  const tags = (page: string): number => page.match(/<[a-z]/gi)!.length;
  const plain = tags(formatPaperHtml(paper(PARTS)));
  fc.assert(
    fc.property(fc.string({ unit: 'binary' }), (text) => {
      const parts = JSON.parse(JSON.stringify(PARTS), (_, value: unknown) => (value === TEXT ? text : value)) as Part[];
      expect(tags(formatPaperHtml({ title: text, language: 'en', parts }))).toBe(plain);
    })
  );
  expect(paperSchema.safeParse(paper(PARTS)).success).toBe(true);
});
