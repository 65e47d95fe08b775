/** A transcript as tagged pages (PDF 1.7, ISO 32000-1 §14.8), in the product's own typeface, embedded. */
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import PDFDocument from 'pdfkit';
import { transcriptOf, type TranscriptOptions } from '$lib/core/formats';
import { formatClock } from '$lib/core/time';
import type { Track } from '$lib/core/track';
import { ApiProblem } from '../problem';

type Weight = '400' | '700';

/** The typeface comes in two files: what Western Europe writes, and what the rest of the Latin script has besides. */
const EXTENDED = /[\u0100-\u024f\u1e00-\u1eff]+/u;
const LATIN = /^[\u0000-\u024f\u02b0-\u02ff\u1e00-\u1eff\u2000-\u206f\u20a0-\u20bf\u2122\u2190-\u2193\u2212]*$/u; // eslint-disable-line no-control-regex -- tabs and the like are drawn as spaces

const PAGE = { size: 'A4', margin: 64 } as const;
const MARGIN_COLUMN = 54;

/** Throws `no_letters` where the typeface cannot write the text. */
export async function transcriptPdf(
  track: Track,
  { title, times, speakers }: TranscriptOptions & { readonly title: string }
): Promise<Buffer> {
  const paragraphs = transcriptOf(track);
  const plain = (text: string): string => text.normalize('NFC').replace(/\s/gu, ' ');
  const texts = [title, ...paragraphs.flatMap(({ speaker, text }) => [speaker ?? '', text])].map(plain);
  const strange = texts.find((text) => !LATIN.test(text));
  if (strange !== undefined)
    throw new ApiProblem(
      422,
      'no_letters',
      `The typeface of the PDF has no letters for “${strange.slice(0, 40)}”: take the transcript as DOCX or HTML.`
    );

  const document = new PDFDocument({
    ...{ ...PAGE, bufferPages: true, pdfVersion: '1.7', tagged: true, displayTitle: true },
    ...{ info: { Title: title, Creator: 'Vine Tap' }, lang: track.language }
  });
  const pieces: Buffer[] = [];
  document.on('data', (piece: Buffer) => pieces.push(piece));
  const ended = new Promise<void>((resolve, reject) => document.once('end', resolve).once('error', reject));
  const folder = dirname(createRequire(import.meta.url).resolve('@fontsource/atkinson-hyperlegible-next/package.json'));
  for (const weight of ['400', '700'])
    for (const part of ['latin', 'latin-ext'])
      document.registerFont(
        `${part} ${weight}`,
        join(folder, 'files', `atkinson-hyperlegible-next-${part}-${weight}-normal.woff`)
      );

  const left = PAGE.margin + (times ? MARGIN_COLUMN : 0);
  const width = document.page.width - PAGE.margin - left;
  const write = (text: string, weight: Weight, size: number, options: PDFKit.Mixins.TextOptions = {}): void => {
    const runs = plain(text)
      .split(new RegExp(`(${EXTENDED.source})`, 'u'))
      .filter((run) => run !== '');
    runs.forEach((run, at) => {
      const isExtended = new RegExp(`^${EXTENDED.source}$`, 'u').test(run);
      document.font(`${isExtended ? 'latin-ext' : 'latin'} ${weight}`).fontSize(size);
      const more = { ...options, width, continued: at < runs.length - 1 };
      if (at === 0) document.text(run, left, document.y, more);
      else document.text(run, more);
    });
  };
  // What a screen reader reads, in order: headings, times and paragraphs.
  const root = document.struct('Document');
  document.addStructure(root);
  const tagged = (type: 'H1' | 'H2' | 'P', draw: () => void): void => void root.add(document.struct(type, {}, draw));
  document.fillColor('#1f1f1a');
  tagged('H1', () => write(title, '700', 18, { lineGap: 4 }));
  document.moveDown(0.8);
  for (const { startMs, speaker, text } of paragraphs) {
    if (document.y > document.page.height - PAGE.margin - 60) document.addPage();
    if (speakers && speaker !== null) tagged('H2', () => write(speaker, '700', 11, { lineGap: 2 }));
    const topY = document.y;
    if (times) {
      document.font('latin 400').fontSize(9).fillColor('#5a5a50');
      tagged('P', () =>
        document.text(formatClock(startMs), PAGE.margin, topY + 2, { width: MARGIN_COLUMN, lineBreak: false })
      );
      document.fillColor('#1f1f1a');
      document.y = topY;
    }
    tagged('P', () => write(text, '400', 11, { lineGap: 4 }));
    document.moveDown(0.7);
  }
  root.end();
  const { count } = document.bufferedPageRange();
  for (let page = 0; page < count; page++) {
    document.switchToPage(page);
    // Below the margin a line would begin a page of its own.
    document.page.margins.bottom = 0;
    document.font('latin 400').fontSize(9).fillColor('#5a5a50');
    document.markContent('Artifact', { type: 'Pagination' });
    document.text(`${page + 1} of ${count}`, PAGE.margin, document.page.height - 40, { lineBreak: false });
    document.endMarkedContent();
  }
  document.end();
  await ended;
  return Buffer.concat(pieces);
}
