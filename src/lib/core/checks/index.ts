/** What breaks the house's rules, cue by cue. */
export { checkCue, checkTrack, isOffWords, OFF_WORDS_MS, type CheckRule, type Finding } from './check';
