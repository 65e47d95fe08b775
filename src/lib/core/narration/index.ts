/**
 * Speech that is recorded while it is spoken: what a microphone brings in pieces, its levels, the words so far and their sentences, the one
 * that is said anew, and where in a script somebody reads.
 */
export { Incoming, type SoundBlock } from './incoming';
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
