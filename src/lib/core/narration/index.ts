/**
 * Speech that is recorded while it is spoken: the levels of what comes in, the words so far and their sentences, the one
 * that is said anew, and where in a script somebody reads.
 */
export {
  hasTrouble,
  measureInput,
  UNWATCHED,
  watchInput,
  type InputLevel,
  type InputTrouble,
  type InputWatch
} from './input';
export { placeInScript, scriptWords, type ScriptToken } from './script';
export {
  againFrom,
  isLeftOut,
  LIVE_PAUSE_MS,
  liveWordSchema,
  sentencesOf,
  utteranceEnd,
  type LiveSentence,
  type LiveWord
} from './sentences';
export { MOST_NARRATED_MS, NARRATION_RATE_HZ, narratedBytes, narratedMs, SAMPLE_BYTES } from './samples';
