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
export { isSpoken, readScript, written, type ScriptWord } from './script';
export { sayNumber } from './say-number';
