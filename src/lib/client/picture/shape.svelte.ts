/** The shape in which the picture is looked at, and rendered. */
import type { Aspect, Fit } from '$lib/core/rendering';

class PictureShape {
  aspect: Aspect = $state('as is');
  fit: Fit = $state('crop');
  /** What stands in the place of a picture where there is only sound. */
  background = $state('#26382a');
  isWaved = $state(false);
}
export const pictureShape = new PictureShape();
