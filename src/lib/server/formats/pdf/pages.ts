/** A document as tagged pages (PDF 1.7, ISO 32000-1 §14.8): what a screen reader reads is told, and in which language. */
import PDFDocument from 'pdfkit';
import { DEFAULT_FACE_ID } from '$lib/core/faces';
import type { SetLine } from '$lib/core/layout';
import { textOf, type Paper, type Part, type Phrase } from '$lib/core/paper';
import { assertNever } from '$lib/core/result';
import { formatClock } from '$lib/core/time';
import { Letters } from './letters';

/** In points; A4. */
const MARGIN = 60;
const FOOT = 44;
const TIME_COLUMN = 54;
const LEAD = 1.45;

const INK = '#1f1f1a';
const SOFT = '#5a5a50';
const RULE = '#dcdacb';
const BAR = { inside: '#3f7d4e', outside: '#a8502f' };

interface Style {
  readonly sizePt: number;
  readonly weight: 400 | 700;
  readonly italic: boolean;
  readonly color: string;
}
const style = (sizePt: number, weight: Style['weight'] = 400, color = INK, italic = false): Style => ({
  ...{ sizePt, weight, italic, color }
});
const STYLES = {
  title: style(18, 700),
  heading2: style(13, 700),
  heading3: style(11, 700),
  plain: style(11),
  soft: style(11, 400, SOFT),
  sound: style(11, 400, SOFT, true),
  name: style(10, 700),
  cell: style(9.5),
  label: style(9.5, 400, SOFT),
  small: style(8.5, 400, SOFT)
} as const;

interface Column {
  readonly x: number;
  readonly widthPt: number;
}

interface Cell extends Column {
  readonly tag: 'TH' | 'TD';
  readonly scope?: 'Row' | 'Column';
  readonly phrase: Phrase;
  readonly style: Style;
}

type Structure = PDFKit.PDFStructureElement;

class Pages {
  readonly #document: PDFKit.PDFDocument;
  readonly #letters: Letters;
  readonly #paper: Paper;
  readonly #root: Structure;
  readonly #left: number;
  readonly #widthPt: number;
  /** Where the next thing goes. */
  #y = MARGIN;

  constructor(document: PDFKit.PDFDocument, paper: Paper) {
    this.#document = document;
    this.#paper = paper;
    this.#letters = new Letters(document);
    this.#root = document.struct('Document');
    document.addStructure(this.#root);
    const isTimed = paper.parts.some((part) => part.kind === 'paragraph' && part.startMs !== null);
    this.#left = MARGIN + (isTimed ? TIME_COLUMN : 0);
    this.#widthPt = document.page.width - MARGIN - this.#left;
  }

  write(): void {
    const { title, parts } = this.#paper;
    this.#text('H1', title, STYLES.title);
    this.#y += 8;
    for (const part of parts) this.#part(part);
    this.#root.end();
    this.#foot();
  }

  #part(part: Part): void {
    switch (part.kind) {
      case 'heading': {
        this.#y += part.level === 2 ? 12 : 6;
        // Never alone at the foot of a page.
        this.#makeRoom(70);
        this.#document.outline.addItem(textOf(part.text));
        return this.#text(`H${part.level}`, part.text, part.level === 2 ? STYLES.heading2 : STYLES.heading3);
      }
      case 'paragraph': {
        if (part.startMs !== null) {
          this.#makeRoom(STYLES.plain.sizePt * LEAD);
          const y = this.#y;
          const column = { x: MARGIN, widthPt: TIME_COLUMN };
          this.#text('P', formatClock(part.startMs), { ...STYLES.small, sizePt: 9 }, { ...column, dropPt: 1.5 });
          this.#y = y;
        }
        this.#text('P', part.text, STYLES[part.tone]);
        this.#y += 7;
        return;
      }
      case 'facts': {
        const [label, value] = this.#columns([30, 70]);
        const rows = part.facts.map((fact): readonly Cell[] => [
          { ...label!, tag: 'TH', scope: 'Row', phrase: fact.label, style: STYLES.label },
          { ...value!, tag: 'TD', phrase: fact.value, style: STYLES.cell }
        ]);
        return this.#table(part.name, null, rows);
      }
      case 'table': {
        const columns = this.#columns(part.columns.map(({ share }) => share));
        const head = part.columns.map(({ head: phrase }, at): Cell => {
          return { ...columns[at]!, tag: 'TH', scope: 'Column', phrase, style: STYLES.label };
        });
        const rows = part.rows.map((row) =>
          row.map((phrase, at): Cell => ({ ...columns[at]!, tag: 'TD', phrase, style: STYLES.cell }))
        );
        return this.#table(part.name, head, rows);
      }
      case 'bars':
        return this.#bars(part);
      default:
        return assertNever(part);
    }
  }

  #bars({ name, bars }: Extract<Part, { kind: 'bars' }>): void {
    const [label, bar, count] = this.#columns([18, 72, 10]);
    const most = Math.max(1, ...bars.map((one) => one.count));
    const rows = bars.map((one): readonly Cell[] => [
      { ...label!, tag: 'TH', scope: 'Row', phrase: one.label, style: STYLES.label },
      { ...count!, tag: 'TD', phrase: String(one.count), style: STYLES.cell }
    ]);
    this.#table(name, null, rows, (at, top, heightPt) => {
      const one = bars[at]!;
      if (one.count === 0) return;
      this.#document
        .rect(bar!.x, top + heightPt / 2 - 4, (bar!.widthPt * one.count) / most, 8)
        .fill(one.isOutside ? BAR.outside : BAR.inside);
    });
  }

  /** Side by side, by their shares. */
  #columns(shares: readonly number[]): readonly Column[] {
    const gapPt = 10;
    const all = shares.reduce((sum, share) => sum + share, 0);
    let x = this.#left;
    return shares.map((share) => {
      const widthPt = (this.#widthPt * share) / all;
      x += widthPt;
      return { x: x - widthPt, widthPt: widthPt - gapPt };
    });
  }

  /** With its name above it; its head stands on each page anew. `beside` draws more into a row. */
  #table(
    name: string,
    head: readonly Cell[] | null,
    rows: readonly (readonly Cell[])[],
    beside?: (at: number, top: number, heightPt: number) => void
  ): void {
    const table = this.#document.struct('Table');
    this.#root.add(table);
    this.#makeRoom(60);
    this.#y += 4;
    this.#text('Caption', name, STYLES.name, {}, table);
    this.#y += 2;
    if (head !== null) this.#row(head, table);
    for (const [at, row] of rows.entries()) {
      const lines = row.map((cell) => this.#lines(cell.phrase, cell.style, cell.widthPt));
      const heightPt = Math.max(...lines.map(({ length }) => length), 1) * STYLES.cell.sizePt * LEAD;
      if (this.#makeRoom(Math.min(heightPt, 300)) && head !== null) {
        this.#artifact(() => this.#row(head, null));
      }
      this.#artifact(() => {
        if (beside === undefined)
          this.#document
            .moveTo(this.#left, this.#y)
            .lineTo(this.#left + this.#widthPt, this.#y)
            .lineWidth(0.5)
            .stroke(RULE);
        else beside(at, this.#y, heightPt);
      });
      this.#row(row, table, lines);
    }
    table.end();
    this.#y += 10;
  }

  /** Cells side by side; those that are higher than what is left of the page go on on the next one. `null`: untold. */
  #row(
    cells: readonly Cell[],
    table: Structure | null,
    lines = cells.map((cell) => this.#lines(cell.phrase, cell.style, cell.widthPt))
  ): void {
    const row = table === null ? null : this.#document.struct('TR');
    if (row !== null) table?.add(row);
    const told = cells.map((cell, at) => (row === null ? null : this.#cell(row, cell, lines[at]!)));
    const leadPt = STYLES.cell.sizePt * LEAD;
    this.#y += 2;
    for (let at = 0; at < Math.max(...lines.map(({ length }) => length)); at++) {
      this.#makeRoom(leadPt);
      for (const [index, cell] of cells.entries()) {
        const line = lines[index]![at];
        if (line !== undefined) this.#line(line, cell.style, cell, told[index] ?? null);
      }
      this.#y += leadPt;
    }
    this.#y += 2;
    for (const one of [...told, row]) one?.end();
  }

  #cell(row: Structure, { tag, scope, phrase }: Cell, lines: readonly SetLine[]): Structure {
    const options = { ...languageOf(phrase), ...actualText(phrase, lines), ...(scope !== undefined && { scope }) };
    const cell = this.#document.struct(tag, options);
    row.add(cell);
    return cell;
  }

  /** Text over the width, as one element of what is read. */
  #text(
    tag: string,
    phrase: Phrase,
    how: Style,
    { x = this.#left, widthPt = this.#widthPt, dropPt = 0 } = {},
    parent = this.#root
  ): void {
    const lines = this.#lines(phrase, how, widthPt);
    const element = this.#document.struct(tag, { ...languageOf(phrase), ...actualText(phrase, lines) });
    parent.add(element);
    for (const line of lines) {
      this.#makeRoom(how.sizePt * LEAD);
      this.#y += dropPt;
      this.#line(line, how, { x, widthPt }, element);
      this.#y += how.sizePt * LEAD - dropPt;
    }
    element.end();
  }

  #lines(phrase: Phrase, { sizePt, weight, italic }: Style, widthPt: number): readonly SetLine[] {
    const { lang: language } = languageOf(phrase);
    const lettering = { face: DEFAULT_FACE_ID, weight, italic };
    return this.#letters.set(textOf(phrase), {
      ...{ lettering, sizePt, widthPt },
      language: language ?? this.#paper.language
    });
  }

  #line(line: SetLine, { sizePt, color }: Style, { x, widthPt }: Column, element: Structure | null): void {
    const draw = (): void => {
      this.#document.fillColor(color);
      const fromRight = line.baseLevel % 2 === 1 ? widthPt - line.widthPx : 0;
      this.#letters.draw(line, sizePt, { x: x + fromRight, y: this.#y + sizePt * ((LEAD - 1) / 2 + 0.78) });
    };
    if (element === null) draw();
    else element.add(draw);
  }

  /** Begins a page where less than this is left of one; whether it did. */
  #makeRoom(heightPt: number): boolean {
    if (this.#y + heightPt <= this.#document.page.height - MARGIN) return false;
    this.#document.addPage();
    this.#y = MARGIN;
    return true;
  }

  /** What is drawn, but not read out. */
  #artifact(draw: () => void, type: 'Layout' | 'Pagination' = 'Layout'): void {
    this.#document.markContent('Artifact', { type });
    draw();
    this.#document.endMarkedContent();
  }

  #foot(): void {
    const { count } = this.#document.bufferedPageRange();
    for (let page = 0; page < count; page++) {
      this.#document.switchToPage(page);
      this.#y = this.#document.page.height - FOOT;
      const [line] = this.#lines(`${page + 1} of ${count}`, STYLES.small, this.#widthPt);
      this.#artifact(() => this.#line(line!, STYLES.small, { x: MARGIN, widthPt: this.#widthPt }, null), 'Pagination');
    }
  }
}

const languageOf = (phrase: Phrase): { readonly lang?: string } =>
  typeof phrase === 'string' ? {} : { lang: phrase.language };

/** What is read out where the order of the glyphs is not that of the text. */
const actualText = (phrase: Phrase, lines: readonly SetLine[]): { readonly actual?: string } =>
  lines.some(({ runs }) => runs.some(({ level }) => level > 0)) ? { actual: textOf(phrase) } : {};

export async function paperPdf(paper: Paper): Promise<Buffer> {
  const document = new PDFDocument({
    ...{ size: 'A4', margin: 0, bufferPages: true, pdfVersion: '1.7', tagged: true, displayTitle: true },
    ...{ info: { Title: paper.title, Creator: 'Vine Tap' }, lang: paper.language },
    // None of the fonts that no file is needed for: all that is used is embedded.
    ...{ font: null as unknown as string, fontLayoutCache: false }
  });
  const pieces: Buffer[] = [];
  document.on('data', (piece: Buffer) => pieces.push(piece));
  const ended = new Promise<void>((resolve, reject) => document.once('end', resolve).once('error', reject));
  new Pages(document, paper).write();
  document.end();
  await ended;
  return Buffer.concat(pieces);
}
