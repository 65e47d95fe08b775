/** Lines on a PDF page in any script: HarfBuzz has chosen the glyphs, pdfkit embeds what is used of each font. */
import { readFileSync } from 'node:fs';
import { create, type Font as FontkitFont } from 'fontkit';
import { parseFontKey } from '$lib/core/faces';
import { Typesetter, type Lettering, type SetLine } from '$lib/core/layout';
import { fontShelf } from '../../faces/shelf';
import { shippedFontPath } from '../../faces/shipped';

type ShapedRun = SetLine['glyphs'][number];

/** A glyph as it stands on the page, in points, with the characters that it says to whoever copies the text. */
interface Ink {
  readonly id: number;
  readonly characters: string;
  readonly advance: number;
  readonly dx: number;
  readonly dy: number;
}

/** A cluster's characters are said by those of its glyphs that take room, in order, the last one says the rest. */
function inkOf({ run, glyphs, advances }: ShapedRun, text: string): readonly Ink[] {
  const starts = [...new Set(glyphs.map(({ cluster }) => cluster))].sort((a, b) => a - b);
  const left = new Map(
    starts.map((start, at) => {
      const among = glyphs.flatMap(({ cluster }, index) => (cluster === start ? [index] : []));
      const spacing = among.filter((index) => advances[index]! > 0);
      return [
        start,
        { characters: [...text.slice(start, starts[at + 1] ?? run.to)], sayers: spacing.length === 0 ? among : spacing }
      ];
    })
  );
  return glyphs.map(({ id, cluster, dx, dy }, at) => {
    const { characters, sayers } = left.get(cluster)!;
    const said = sayers.at(-1) === at ? characters : sayers.includes(at) ? characters.splice(0, 1) : [];
    return { id, characters: said.join(''), advance: advances[at]!, dx, dy };
  });
}

/** Parted behind each space. */
function wordsOf(ink: readonly Ink[]): readonly (readonly Ink[])[] {
  const words: Ink[][] = [];
  let begins = true;
  for (const one of ink) {
    if (begins) words.push([]);
    words.at(-1)!.push(one);
    begins = one.characters === ' ';
  }
  return words;
}

/** A font of the document. Like a file, pdfkit takes an object of fontkit's: this one lays out what was shaped before. */
class PageFont {
  readonly source: PDFKit.Mixins.PDFFontSource;
  /** What is drawn next. */
  inked: { readonly ink: readonly Ink[]; readonly sizePt: number } = { ink: [], sizePt: 1 };
  readonly #says = new Map<number, string>();

  constructor(
    readonly name: string,
    bytes: Buffer
  ) {
    const font = create(bytes) as FontkitFont;
    // The types of pdfkit know of files alone.
    this.source = Object.assign(font, { layout: () => this.#layout(font) }) as unknown as Uint8Array;
  }

  /** In a font of a document a glyph says one thing: takes these glyphs where that is, or may be, what they say. */
  takes(ink: readonly Ink[]): boolean {
    const says = new Map<number, string>();
    for (const { id, characters } of ink) {
      if ((this.#says.get(id) ?? says.get(id) ?? characters) !== characters) return false;
      says.set(id, characters);
    }
    for (const [id, characters] of says) this.#says.set(id, characters);
    return true;
  }

  /** In the font's units. */
  #layout(font: FontkitFont): object {
    const { ink, sizePt } = this.inked;
    const units = font.unitsPerEm / sizePt;
    return {
      advanceWidth: ink.reduce((sum, { advance }) => sum + advance, 0) * units,
      glyphs: ink.map(({ id, characters }) =>
        font.getGlyph(
          id,
          [...characters].map((character) => character.codePointAt(0)!)
        )
      ),
      positions: ink.map(({ advance, dx, dy }) => {
        return { xAdvance: advance * units, yAdvance: 0, xOffset: dx * units, yOffset: -dy * units };
      })
    };
  }
}

/** A font is embedded as often as its glyphs say different things: dotless letters of Arabic, vowel signs of Devanagari. */
const MOST_COPIES = 24;

/** A copy of a font file that differs in its checksum alone (OpenType, `head`): by that pdfkit tells fonts apart. */
function withChecksum(file: Buffer, checksum: number): Buffer {
  const copy = Buffer.from(file);
  const tables = copy.readUInt16BE(4);
  for (let at = 12; at < 12 + 16 * tables; at += 16)
    if (copy.toString('latin1', at, at + 4) === 'head') copy.writeUInt32BE(checksum, copy.readUInt32BE(at + 8) + 8);
  return copy;
}

export interface Setting {
  readonly lettering: Lettering;
  /** BCP 47. */
  readonly language: string;
  readonly sizePt: number;
  readonly widthPt: number;
}

export class Letters {
  readonly #document: PDFKit.PDFDocument;
  readonly #typesetter = new Typesetter(fontShelf());
  readonly #files = new Map<string, Buffer>();
  /** By the key of the file: each copy of it. */
  readonly #copies = new Map<string, readonly PageFont[]>();

  constructor(document: PDFKit.PDFDocument) {
    this.#document = document;
  }

  /** The lines of a text; the widths in them are points. */
  set(text: string, { sizePt, widthPt, ...rest }: Setting): readonly SetLine[] {
    return this.#typesetter.set(text, { ...rest, sizePx: sizePt, widthPx: widthPt });
  }

  /**
   * Draws a line from its left end on its base line. Marks that say nothing by themselves come last: a reader that takes
   * text from the page would end a word at each.
   */
  draw({ glyphs, text }: SetLine, sizePt: number, at: { readonly x: number; readonly y: number }): void {
    const marks: (() => void)[] = [];
    let { x } = at;
    for (const shaped of glyphs) {
      const { font, isSlanted } = shaped.run;
      for (const { copy, ink } of this.#piecesOf(font.key, inkOf(shaped, text))) {
        const from = x;
        const isMark = ink.every(({ characters, advance }) => characters === '' && advance === 0);
        const draw = (): void => this.#drawInk(copy, { ink, sizePt, isSlanted }, { x: from, y: at.y });
        if (isMark) marks.push(draw);
        else draw();
        x += ink.reduce((sum, { advance }) => sum + advance, 0);
      }
    }
    for (const draw of marks) draw();
  }

  /** Each with the copy of the font that it is drawn with: words are not parted while there may be another copy. */
  #piecesOf(key: string, ink: readonly Ink[]): readonly { readonly copy: PageFont; readonly ink: readonly Ink[] }[] {
    const pieces: { readonly copy: PageFont; readonly ink: Ink[] }[] = [];
    const add = (copy: PageFont, one: Ink): void => {
      const last = pieces.at(-1);
      const isMark = one.characters === '' && one.advance === 0;
      if (last?.copy === copy && !isMark && last.ink.at(-1)!.characters !== '') last.ink.push(one);
      else pieces.push({ copy, ink: [one] });
    };
    for (const word of wordsOf(ink)) {
      const copy = this.#copyFor(key, word);
      for (const one of word) add(copy ?? this.#copyFor(key, [one]) ?? this.#copies.get(key)![0]!, one);
    }
    return pieces;
  }

  #drawInk(
    copy: PageFont,
    { ink, sizePt, isSlanted }: { readonly ink: readonly Ink[]; readonly sizePt: number; readonly isSlanted: boolean },
    { x, y }: { readonly x: number; readonly y: number }
  ): void {
    copy.inked = { ink, sizePt };
    this.#document
      .font(copy.name)
      .fontSize(sizePt)
      // What is drawn is the font's ink, whatever the text is; with features, even none, it is not parted at spaces.
      .text('.', x, y, { lineBreak: false, baseline: 'alphabetic', features: [], oblique: isSlanted });
  }

  /** The copy of a font in which glyphs say what they are to say; `null` where there is none, and enough of them. */
  #copyFor(key: string, ink: readonly Ink[]): PageFont | null {
    const copies = this.#copies.get(key) ?? [];
    const known = copies.find((copy) => copy.takes(ink));
    if (known !== undefined) return known;
    if (copies.length === MOST_COPIES) return null;
    const file = this.#files.get(key) ?? readFileSync(shippedFontPath(parseFontKey(key)!)!);
    this.#files.set(key, file);
    const copy = new PageFont(`${key} ${copies.length}`, withChecksum(file, copies.length));
    this.#copies.set(key, [...copies, copy]);
    this.#document.registerFont(copy.name, copy.source);
    return copy.takes(ink) ? copy : null;
  }
}
