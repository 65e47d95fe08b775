import { findFace, type Face } from './faces';

/** One font file of a face. */
export interface FontFile {
  readonly faceId: string;
  readonly weight: number;
  readonly italic: boolean;
}

/** A name for a font file: `atkinson-600`, `atkinson-600i`. */
export const fontKey = ({ faceId, weight, italic }: FontFile): string => `${faceId}-${weight}${italic ? 'i' : ''}`;

const KEY = /^([a-z0-9-]{1,60})-([1-9]00)(i?)$/;

/** `null` where it is no key. */
export function parseFontKey(key: string): FontFile | null {
  const found = KEY.exec(key);
  return found === null ? null : { faceId: found[1]!, weight: Number(found[2]), italic: found[3] === 'i' };
}

/** The file of a face whose weight is the nearest, the heavier of two; italic only where the face has italics. */
export function nearestFile(face: Face, weight: number, italic: boolean): FontFile {
  const isItalic = italic && face.italicWeights.length > 0;
  const weights = isItalic ? face.italicWeights : face.weights;
  const nearest = weights.reduce((best, one) => (Math.abs(one - weight) <= Math.abs(best - weight) ? one : best));
  return { faceId: face.id, weight: nearest, italic: isItalic };
}

/** The key of the file that letters of this style are drawn from, where their own face has them. */
export const fontKeyOf = (
  faces: readonly Face[],
  { face, weight, italic }: { readonly face: string; readonly weight: number; readonly italic: boolean }
): string => fontKey(nearestFile(findFace(faces, face), weight, italic));
