import type { Aspect, Fit } from './request';

/** A picture as its file has it. */
export interface SourcePicture {
  /** In its own pixels, turned as the file says. */
  readonly width: number;
  readonly height: number;
  /** Width of a pixel to its height. */
  readonly pixelAspect: number;
}

export interface Area {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export interface PictureGeometry {
  /** Of the picture that is made; both even. */
  readonly width: number;
  readonly height: number;
  /** What is kept of the source, in its own pixels. */
  readonly crop: Area;
  /** Where that lies in what is made; around it there are bars. */
  readonly at: Area;
}

const even = (value: number): number => Math.max(2, Math.round(value / 2) * 2);

/** On a whole sample of colour. */
const halfOf = (spare: number): number => Math.floor(spare / 4) * 2;

/** Width to height; `null`: as the picture is. */
export function shapeRatio(aspect: Aspect): number | null {
  const [width, height] = aspect.split(':').map(Number);
  return width === undefined || height === undefined ? null : width / height;
}

/**
 * The shape that a picture gets. Left to itself the shorter side stays as long as it was: a wide picture made upright is as
 * wide as it was high.
 */
export function shapePicture(
  source: SourcePicture,
  {
    aspect = 'as is',
    fit = 'crop',
    height
  }: { readonly aspect?: Aspect | undefined; readonly fit?: Fit | undefined; readonly height?: number | undefined }
): PictureGeometry {
  const shown = { width: source.width * source.pixelAspect, height: source.height };
  const own = shown.width / shown.height;
  const ratio = shapeRatio(aspect) ?? own;
  const shorter = Math.min(shown.width, shown.height);
  const made = {
    width: even(height === undefined ? (ratio < 1 ? shorter : shorter * ratio) : height * ratio),
    height: even(height ?? (ratio < 1 ? shorter / ratio : shorter))
  };
  const whole = { x: 0, y: 0, width: source.width, height: source.height };
  const all = { x: 0, y: 0, ...made };
  // Rounding alone makes no bars, and cuts nothing off.
  if (Math.abs(own / ratio - 1) < 0.005) return { ...made, crop: whole, at: all };
  if (fit === 'crop') {
    const width = own > ratio ? (source.width * ratio) / own : source.width;
    const kept = own > ratio ? source.height : (source.height * own) / ratio;
    const size = { width: Math.round(width), height: Math.round(kept) };
    return {
      ...made,
      crop: {
        x: Math.round((source.width - size.width) / 2),
        y: Math.round((source.height - size.height) / 2),
        ...size
      },
      at: all
    };
  }
  const within = {
    width: even(Math.min(made.width, made.height * own)),
    height: even(Math.min(made.height, made.width / own))
  };
  return {
    ...made,
    crop: whole,
    at: { x: halfOf(made.width - within.width), y: halfOf(made.height - within.height), ...within }
  };
}
