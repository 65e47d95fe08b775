/**
 * Words into cues and lines. The optimal break is a dynamic program: `score.ts` is the cost, `breaker.ts` the search;
 * `recue` breaks a whole track anew and leaves locked cues alone.
 */
export { bestBreak, bestLines, breakIntoCues, breakIntoLines, type CueBreak } from './breaker';
export { timeCue } from './cue-times';
export { recue } from './recue';
export { preparePassage, scoreCue, scoreLines, textLength, type Passage } from './score';
export { endsWith, partingCost } from './syntax';
