/** Contrast by WCAG 2.2: https://www.w3.org/TR/WCAG22/#dfn-contrast-ratio */

/** The least contrast of large letters, and of letters of any size. */
export const LEAST_CONTRAST = { large: 3, any: 4.5 };

/** How high pictures are shown at least, in CSS pixels: a player in a page of text. */
const SHOWN_HEIGHT_PX = 360;

/** Whether letters are large: 18 points, or 14 in bold, where the picture is small. https://www.w3.org/TR/WCAG22/#dfn-large-scale */
export const hasLargeLetters = ({
  sizePercent,
  weight
}: {
  readonly sizePercent: number;
  readonly weight: number;
}): boolean => (sizePercent / 100) * SHOWN_HEIGHT_PX >= (weight >= 700 ? 14 : 18) * (4 / 3);

/** Light of an sRGB channel, 0 to 255, in linear light, 0 to 1 (IEC 61966-2-1). */
export function linearLight(channel: number): number {
  const share = channel / 255;
  return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
}

/** Red, green and blue of `#rrggbb`, 0 to 255. */
export const channelsOf = (color: string): readonly [number, number, number] => {
  const value = parseInt(color.slice(1), 16);
  return [value >> 16, (value >> 8) & 255, value & 255];
};

/** Relative luminance, 0 to 1. https://www.w3.org/TR/WCAG22/#dfn-relative-luminance */
export function luminanceOf(color: string): number {
  const [red, green, blue] = channelsOf(color).map(linearLight);
  return 0.2126 * red! + 0.7152 * green! + 0.0722 * blue!;
}

/** From 1 to 21, of two relative luminances. */
export const contrastOf = (one: number, other: number): number =>
  (Math.max(one, other) + 0.05) / (Math.min(one, other) + 0.05);

/** Of two colours. */
export const contrastRatio = (one: string, other: string): number => contrastOf(luminanceOf(one), luminanceOf(other));
