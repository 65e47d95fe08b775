/** What a font says of itself: its name, its weight, who may embed it; and whether anything can be drawn with it. */
import * as harfbuzz from 'harfbuzzjs';
import { z } from 'zod';
import { FontRefused } from './sfnt';

export const fontFactsSchema = z
  .object({
    name: z.string(),
    weight: z.int(),
    isItalic: z.boolean(),
    /** By the font's own bits (OpenType, `OS/2.fsType`). */
    embedding: z.enum(['installable', 'editable', 'preview and print'])
  })
  .readonly();
export type FontFacts = z.infer<typeof fontFactsSchema>;

/** Letters are looked for among so many characters: large fonts have tens of thousands. */
const MOST_TRIED = 2000;
const FULL_NAME = 4;
const FAMILY = 1;

/** Throws `FontRefused`. */
export function readFontFacts(sfnt: Uint8Array): FontFacts {
  const face = new harfbuzz.Face(new harfbuzz.Blob(sfnt));
  const os2 = face.referenceTable('OS/2');
  const hasOutlines = ['glyf', 'CFF ', 'CFF2'].some((tag) => (face.referenceTable(tag)?.length ?? 0) > 0);
  if (os2 === undefined || os2.length < 64 || (face.referenceTable('head')?.length ?? 0) < 54 || !hasOutlines)
    throw new FontRefused('This font is damaged, or holds only pictures of letters: no outlines can be drawn from it.');
  const font = new harfbuzz.Font(face);
  const codePoints = face.collectUnicodes().slice(0, MOST_TRIED);
  const hasInk = codePoints.some((codePoint) => {
    const glyph = font.nominalGlyph(codePoint);
    return glyph !== undefined && font.glyphToPath(glyph) !== '';
  });
  if (!hasInk) throw new FontRefused('There is not one letter in this font that can be drawn.');
  const table = new DataView(os2.buffer, os2.byteOffset, os2.byteLength);
  // Only one of these bits may be set; where several are, the one that lets most be done holds.
  const bits = table.getUint16(8) & 0xf;
  if (bits === 0x2)
    throw new FontRefused(
      'Its maker does not let this font be embedded in videos (restricted licence embedding). Ask for a licence that does.'
    );
  const name = [FULL_NAME, FAMILY].map((id) => face.getName(id, 'en').trim()).find((text) => text !== '');
  return {
    name: (name ?? 'Font without a name').slice(0, 200),
    weight: Math.min(900, Math.max(100, Math.round(table.getUint16(4) / 100) * 100)),
    isItalic: (table.getUint16(62) & 1) === 1,
    embedding: bits === 0 ? 'installable' : (bits & 0x8) !== 0 ? 'editable' : 'preview and print'
  };
}
