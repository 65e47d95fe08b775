/** The shape in which the picture is looked at, and rendered. */
export const ASPECTS = ['as is', '16:9', '9:16', '1:1', '4:5'] as const;
export type Aspect = (typeof ASPECTS)[number];
export type Fit = 'crop' | 'pad';

/** Width to height; `null`: as the picture is. */
export function shapeRatio(aspect: Aspect): number | null {
  const [width, height] = aspect.split(':').map(Number);
  return width === undefined || height === undefined ? null : width / height;
}

class PictureShape {
  aspect: Aspect = $state('as is');
  fit: Fit = $state('crop');
}
export const pictureShape = new PictureShape();
