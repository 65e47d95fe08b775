/** Whether captions can be read on their picture: its light behind them, and their contrast against it. */
export {
  channelsOf,
  contrastOf,
  contrastRatio,
  hasLargeLetters,
  LEAST_CONTRAST,
  linearLight,
  luminanceOf
} from './contrast';
export {
  BIN_BYTES,
  BIN_MS,
  binCount,
  FRAME_HEIGHT,
  FRAME_WIDTH,
  FRAMES_A_SECOND,
  LightMeter,
  plainLight,
  type LightMap
} from './light-map';
export { isOverLettering } from './lettering';
export { findMendings, legibilityOf, type Colors, type Legibility, type Mending, type TextArea } from './legibility';
