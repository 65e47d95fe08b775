/** A font file, opened by HarfBuzz: it measures, shapes and gives outlines, all in the font's own units. */
import type * as harfbuzz from 'harfbuzzjs';

/** The package, which loads its program when it is imported: it is handed in, so that the core loads nothing. */
export type HarfBuzz = typeof harfbuzz;

export interface ShapedGlyph {
  readonly id: number;
  /** Where in the text the characters begin that it draws, in UTF-16 units. */
  readonly cluster: number;
  readonly xAdvance: number;
  readonly xOffset: number;
  readonly yOffset: number;
}

export interface ShapeRequest {
  /** The whole line: what stands around the run shapes it, too. */
  readonly text: string;
  readonly from: number;
  readonly to: number;
  readonly isRightToLeft: boolean;
  /** ISO 15924; `null`: as the text says. */
  readonly script: string | null;
  /** BCP 47. */
  readonly language: string;
}

export interface Font {
  readonly key: string;
  readonly unitsPerEm: number;
  /** Above the base line, positive. */
  readonly ascender: number;
  /** Below the base line, positive. */
  readonly descender: number;
  readonly covers: (codePoint: number) => boolean;
  /** In visual order, from the left. */
  readonly shape: (request: ShapeRequest) => readonly ShapedGlyph[];
  /** An SVG path, its y axis up; empty for what has no ink. */
  readonly outline: (glyphId: number) => string;
}

/** Opens a font file. What HarfBuzz cannot read has no glyphs. */
export function openFont(hb: HarfBuzz, key: string, bytes: Uint8Array): Font {
  const face = new hb.Face(new hb.Blob(bytes));
  const font = new hb.Font(face);
  const { ascender, descender } = font.hExtents();
  const covered = new Map<number, boolean>();
  const outlines = new Map<number, string>();
  return {
    key,
    unitsPerEm: face.upem,
    ascender,
    descender: -descender,
    covers: (codePoint) => remember(covered, codePoint, () => font.nominalGlyph(codePoint) !== undefined),
    shape: ({ text, from, to, isRightToLeft, script, language }) => {
      const buffer = new hb.Buffer();
      buffer.addText(text, from, to - from);
      buffer.setDirection(isRightToLeft ? hb.Direction.RTL : hb.Direction.LTR);
      if (script !== null) buffer.setScript(script);
      buffer.setLanguage(language);
      buffer.guessSegmentProperties();
      hb.shape(font, buffer);
      return buffer.getGlyphInfosAndPositions().map(({ codepoint, cluster, xAdvance, xOffset, yOffset }) => ({
        id: codepoint,
        cluster,
        xAdvance: xAdvance ?? 0,
        xOffset: xOffset ?? 0,
        yOffset: yOffset ?? 0
      }));
    },
    outline: (glyphId) => remember(outlines, glyphId, () => font.glyphToPath(glyphId))
  };
}

function remember<K, V>(known: Map<K, V>, key: K, make: () => V): V {
  const old = known.get(key);
  if (old !== undefined) return old;
  const made = make();
  known.set(key, made);
  return made;
}
