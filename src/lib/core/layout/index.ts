/**
 * How a cue is drawn on a picture, by one layout and one painter for the preview and for the video it is burnt into.
 * Text is parted into runs of one direction, script and font (`itemise`), shaped by HarfBuzz (`font`), set in lines
 * (`set-lines`), laid out in pixels of the picture (`compose`), timed (`motion`) and painted as outlines on any 2D context (`paint`).
 */
export { areasOfDrawing, measureAdvances, roughAreas, type Advances } from './areas';
export { blockOf, type Block, type SpanStyle, type TextSpan } from './block';
export { compose, type Composed, type Drawing, type Fonts, type GlyphRun, type WordSpan } from './compose';
export { contrastOfCues, type CueContrast } from './contrast';
export { openFont, type Font, type HarfBuzz } from './font';
export { findLacking, groupLacking, type LackingLetters } from './lacking';
export { AT_REST, motionOf, stateAt, type CueMotion, type MotionState } from './motion';
export { Typesetter, type Lettering, type ParagraphSetting } from './paragraph';
export type { SetLine } from './set-lines';
export { isVisible, paintDrawing, type PathMaker, type PicturePath, type PictureContext } from './paint';
export type { PictureSize, Rect } from './place-block';
export { standApart } from './stand-apart';
