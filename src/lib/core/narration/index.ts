/**
 * Speech that is recorded while it is spoken: the levels of what comes in, the words so far and their sentences, the one
 * that is said anew, and where in a script somebody reads.
 */
export { hasTrouble, InputWatch, measureInput, type InputLevel, type InputTrouble } from './input';
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
