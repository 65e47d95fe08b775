/** A transcript as a Word document (ECMA-376). */
import { Document, HeadingLevel, Packer, Paragraph, TextRun } from 'docx';
import { transcriptOf, type TranscriptOptions } from '$lib/core/formats';
import { formatClock } from '$lib/core/time';
import type { Track } from '$lib/core/track';

/** Where the text begins behind the time, in twentieths of a point. */
const INDENT = 1000;

// XML 1.0, 2.2: these cannot stand in a document, not even escaped.
// eslint-disable-next-line no-control-regex -- they are what is taken out
const printable = (text: string): string => text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '');

export function transcriptDocx(
  track: Track,
  { title, times, speakers }: TranscriptOptions & { readonly title: string }
): Promise<Buffer> {
  const indent = times ? { left: INDENT, hanging: INDENT } : {};
  const body = transcriptOf(track).flatMap(({ startMs, speaker, text, isSound }) => [
    ...(speakers && speaker !== null
      ? [
          new Paragraph({
            keepNext: true,
            indent: times ? { left: INDENT } : {},
            spacing: { before: 240 },
            children: [new TextRun({ text: printable(speaker), bold: true })]
          })
        ]
      : []),
    new Paragraph({
      indent,
      spacing: { after: 160, line: 320 },
      tabStops: times ? [{ type: 'left', position: INDENT }] : [],
      children: [
        ...(times ? [new TextRun({ text: `${formatClock(startMs)}\t`, color: '5A5A50' })] : []),
        new TextRun({ text: printable(text), italics: isSound })
      ]
    })
  ]);
  const document = new Document({
    title: printable(title),
    creator: 'Vine Tap',
    description: `Transcript, ${track.language}`,
    styles: { default: { document: { run: { font: 'Calibri', size: 23, language: { value: track.language } } } } },
    sections: [{ children: [new Paragraph({ text: printable(title), heading: HeadingLevel.HEADING_1 }), ...body] }]
  });
  return Packer.toBuffer(document);
}
