/**
 * A script on the sound. It is heard with its sentences as phrases to expect; its words and the heard ones are
 * aligned; each stretch is then decoded with nothing but its own words as a grammar, those that were not heard
 * optional. In languages that no engine hears a synthesised reading is laid on the speech by dynamic time warping,
 * from frames of 320 ms down to 10 (`warp.ts`); the same reading backwards is the measure of whether it is what is
 * spoken.
 */
export {
  fittedWords,
  placeInOrder,
  planFit,
  type FitPlan,
  type FitTask,
  type FittedWord,
  type HeardStretch,
  type TaskTimes
} from './fit';
export { placeByReading, strangeness } from './by-reading';
export { warp, type Frames, type Warp } from './warp';
export { matchWords, type Match } from './match';
export { isSpoken, readScript, withoutForms, type ScriptWord } from './script';
export { sayNumber } from './say-number';
