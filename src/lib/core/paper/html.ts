/** A document as a web page of its own (HTML Living Standard), with no part of it elsewhere. */
import { assertNever } from '../result';
import { formatClock } from '../time';
import { escapeMarkup, isFromTheRight } from '../track';
import { textOf, type Paper, type Part, type Phrase } from './paper';

const STYLE = `
  body { max-width: 46rem; margin: 3rem auto; padding: 0 1rem; font: 1.1rem/1.6 'Atkinson Hyperlegible Next', system-ui, sans-serif; color: #1f1f1a; background: #fffef8; }
  h1 { font-size: 1.5rem; line-height: 1.3; }
  h2 { margin: 2rem 0 0.4rem; font-size: 1.15rem; }
  h3 { margin: 1rem 0 0; font-size: 1rem; }
  p { margin: 0 0 0.8rem; }
  .timed { display: grid; grid-template-columns: 4.5rem 1fr; gap: 0 1rem; }
  .timed > * { grid-column: 2; }
  .timed > time { grid-column: 1; color: #5a5a50; font-variant-numeric: tabular-nums; }
  .sound { font-style: italic; }
  .sound, .soft { color: #5a5a50; }
  table { width: 100%; margin: 0 0 1rem; border-collapse: collapse; font-size: 0.92rem; line-height: 1.45; }
  caption { padding: 0.6rem 0 0.2rem; font-weight: 700; text-align: start; }
  th, td { padding: 0.3rem 1rem 0.3rem 0; border-top: 1px solid #dcdacb; text-align: start; vertical-align: top; overflow-wrap: anywhere; }
  thead th { border-top: 0; color: #5a5a50; }
  .facts th, .bars th { width: 11rem; font-weight: 400; color: #5a5a50; }
  .bars th, .bars td { padding-block: 0.1rem; border: 0; font-variant-numeric: tabular-nums; }
  .bars td:last-child { width: 4rem; text-align: end; }
  .bars i { display: block; height: 0.7rem; min-width: 1px; background: #3f7d4e; }
  .bars i.outside { background: #a8502f; }
  @media (prefers-color-scheme: dark) { body { color: #ecebe2; background: #1d1e1a; } .timed > time, .sound, .soft, thead th, .facts th, .bars th { color: #b3b2a6; } th, td { border-color: #45463d; } .bars i { background: #7fb98b; } .bars i.outside { background: #e09a7c; } }
  @media print { body { max-width: none; margin: 0; font-size: 11pt; background: none; color: #000; } p { orphans: 2; widows: 2; } tr { break-inside: avoid; } }`;

const attribute = (text: string): string => escapeMarkup(text).replaceAll('"', '&quot;');

/** Attributes for text of another language: which one, and that it may run the other way. */
const foreign = (phrase: Phrase): string =>
  typeof phrase === 'string' ? '' : ` lang="${attribute(phrase.language)}" dir="auto"`;

const element = (name: string, phrase: Phrase, attributes = ''): string =>
  `<${name}${attributes}${foreign(phrase)}>${escapeMarkup(textOf(phrase))}</${name}>`;

const table = (name: string, kind: string, rows: readonly string[], head = ''): string =>
  `<table class="${kind}">\n<caption>${escapeMarkup(name)}</caption>\n${head}<tbody>\n${rows
    .map((row) => `<tr>${row}</tr>`)
    .join('\n')}\n</tbody>\n</table>`;

function formatPart(part: Part): string {
  switch (part.kind) {
    case 'heading':
      return element(`h${part.level}`, part.text);
    case 'paragraph': {
      const { startMs, tone, text } = part;
      const seconds = ((startMs ?? 0) / 1000).toFixed(3);
      const time = startMs === null ? '' : `<time datetime="PT${seconds}S">${formatClock(startMs)}</time>`;
      // A paragraph of the document's own language may still be a quotation that runs the other way.
      const direction = typeof text === 'string' ? ' dir="auto"' : '';
      return `${time}${element('p', text, `${tone === 'plain' ? '' : ` class="${tone}"`}${direction}`)}`;
    }
    case 'facts': {
      const rows = part.facts.map(({ label, value }) => element('th', label, ' scope="row"') + element('td', value));
      return table(part.name, 'facts', rows);
    }
    case 'table': {
      const heads = part.columns.map(({ head }) => element('th', head, ' scope="col"')).join('');
      const rows = part.rows.map((row) => row.map((cell) => element('td', cell)).join(''));
      return table(part.name, 'list', rows, `<thead><tr>${heads}</tr></thead>\n`);
    }
    case 'bars': {
      const most = Math.max(1, ...part.bars.map(({ count }) => count));
      const rows = part.bars.map(({ label, count, isOutside }) => {
        const bar = `<i${isOutside ? ' class="outside"' : ''} style="width: ${((count / most) * 100).toFixed(1)}%"></i>`;
        return `${element('th', label, ' scope="row"')}<td aria-hidden="true">${count === 0 ? '' : bar}</td>${element('td', String(count))}`;
      });
      return table(part.name, 'bars', rows);
    }
    default:
      return assertNever(part);
  }
}

export function formatPaperHtml({ title, language, parts }: Paper): string {
  const isTimed = parts.some((part) => part.kind === 'paragraph' && part.startMs !== null);
  return `<!doctype html>
<html lang="${attribute(language)}"${isFromTheRight(language) ? ' dir="rtl"' : ''}>
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>${escapeMarkup(title)}</title>
<style>${STYLE}
</style>
</head>
<body>
<h1 dir="auto">${escapeMarkup(title)}</h1>
<main${isTimed ? ' class="timed"' : ''}>
${parts.map(formatPart).join('\n')}
</main>
</body>
</html>
`;
}
