/**
 * Parts a line into runs of one style, direction, script and font: graphemes, then bidi levels (UAX #9), then scripts,
 * then the first face that has the letters of each cluster.
 */
import bidiFactory from 'bidi-js';
import { findFace, fontKey, fontKeyOf, nearestFile, standInsFor, type Face, type FontFile } from '../faces';
import { graphemes, isFromTheRight, primarySubtag } from '../track';
import type { SpanStyle, TextSpan } from './block';
import type { Font } from './font';
import { isEmoji, needsGlyph, scriptOf } from './script';

/** The fonts that are loaded, and the faces there are. */
export interface Fonts {
  readonly faces: readonly Face[];
  /** By `fontKey`; `undefined` while it is not loaded. */
  readonly find: (key: string) => Font | undefined;
}

export interface Run {
  readonly from: number;
  readonly to: number;
  readonly style: SpanStyle;
  readonly level: number;
  readonly script: string | null;
  readonly font: Font;
  /** Upright letters that are to be slanted. */
  readonly isSlanted: boolean;
}

/** A letter that its own face lacks. `drawnIn` is `null` where no face has it. */
export interface Lacking {
  readonly text: string;
  readonly face: string;
  readonly drawnIn: string | null;
}

export interface Itemised {
  readonly text: string;
  /** In the order of the text. */
  readonly runs: readonly Run[];
  /** Of the line as a whole: 0 from the left, 1 from the right. */
  readonly baseLevel: number;
  /** Fonts without which it cannot be told how it looks. */
  readonly wanted: readonly FontFile[];
  readonly lacking: readonly Lacking[];
}

const bidi = bidiFactory();
/** From which side a line runs as a whole; `auto`: from that of its first letter that has one. */
export type Direction = 'ltr' | 'rtl' | 'auto';

const directionOf = (language: string): Direction => (isFromTheRight(language) ? 'rtl' : 'auto');

/** Whether a text runs from the right as a whole: by its language, else by its first letter that has a direction. */
export const runsFromTheRight = (text: string, language: string): boolean =>
  (bidi.getEmbeddingLevels(text, directionOf(language)).paragraphs[0]?.level ?? 0) % 2 === 1;

export function itemise(
  spans: readonly TextSpan[],
  language: string,
  fonts: Fonts,
  direction: Direction = directionOf(language)
): Itemised {
  const text = spans.map((span) => span.text).join('');
  const { levels, paragraphs } = bidi.getEmbeddingLevels(text, direction);
  const wanted = new Map<string, FontFile>();
  const lacking: Lacking[] = [];
  const runs: Run[] = [];
  const extend = (run: Run, to: number): void => void (runs[runs.length - 1] = { ...run, to });
  for (const { from, to, style, script, clusterText } of clustersOf(spans)) {
    const level = levels[from]!;
    const last = runs.at(-1);
    const same = last?.style === style && last.level === level && last.script === script ? last : undefined;
    // What goes with its neighbours is drawn in their font where that has it.
    if (same !== undefined && hasAll(same.font, clusterText) && isOwn(same, fonts)) {
      extend(same, to);
      continue;
    }
    const chosen = chooseFont(clusterText, { style, script, language, fonts, wanted });
    if (chosen === null) continue;
    if (chosen.lacking !== undefined) lacking.push(chosen.lacking);
    const { font, isSlanted } = chosen;
    if (same?.font === font) extend(same, to);
    else runs.push({ from, to, style, level, script, font, isSlanted });
  }
  return { text, runs, baseLevel: paragraphs[0]?.level ?? 0, wanted: [...wanted.values()], lacking };
}

interface Cluster {
  readonly from: number;
  readonly to: number;
  readonly style: SpanStyle;
  readonly script: string | null;
  readonly clusterText: string;
}

/** The graphemes of a line; one that lies over two spans has the first one's style. Shared characters get a script. */
function clustersOf(spans: readonly TextSpan[]): readonly Cluster[] {
  const text = spans.map((span) => span.text).join('');
  const ends: number[] = [];
  for (const span of spans) ends.push((ends.at(-1) ?? 0) + span.text.length);
  let at = 0;
  const clusters = [...graphemes.segment(text)].map(({ segment, index }): Cluster => {
    while (ends[at]! <= index) at++;
    return {
      from: index,
      to: index + segment.length,
      style: spans[at]!.style,
      script: scriptOf(segment),
      clusterText: segment
    };
  });
  let script = clusters.find((cluster) => cluster.script !== null)?.script ?? null;
  return clusters.map((cluster) => {
    script = cluster.script ?? script;
    return { ...cluster, script };
  });
}

const hasAll = (font: Font, text: string): boolean =>
  [...text].every((character) => !needsGlyph(character) || font.covers(character.codePointAt(0)!));

/** A stand-in is left again as soon as the face itself has the letter. */
const isOwn = ({ style, font }: Run, { faces }: Fonts): boolean => fontKeyOf(faces, style) === font.key;

interface Choice {
  readonly font: Font;
  readonly isSlanted: boolean;
  readonly lacking?: Lacking;
}

/** `null` where a font must be loaded before it can be told. */
function chooseFont(
  text: string,
  {
    style,
    script,
    language,
    fonts,
    wanted
  }: {
    readonly style: SpanStyle;
    readonly script: string | null;
    readonly language: string;
    readonly fonts: Fonts;
    readonly wanted: Map<string, FontFile>;
  }
): Choice | null {
  const own = findFace(fonts.faces, style.face);
  const standIns = standInsFor(script ?? 'Zyyy', primarySubtag(language), isEmoji(text));
  let first: Choice | null = null;
  for (const id of [own.id, ...standIns]) {
    const face = findFace(fonts.faces, id);
    if (face.id !== id) continue;
    const file = nearestFile(face, style.weight, style.italic);
    const font = fonts.find(fontKey(file));
    if (font === undefined) {
      wanted.set(fontKey(file), file);
      return null;
    }
    const choice = { font, isSlanted: style.italic && !file.italic };
    if (hasAll(font, text))
      return face === own ? choice : { ...choice, lacking: { text, face: own.name, drawnIn: face.name } };
    first ??= choice;
  }
  return first === null ? null : { ...first, lacking: { text, face: own.name, drawnIn: null } };
}
