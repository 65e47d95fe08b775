export { bestBreak, bestLines, breakIntoCues, breakIntoLines, type CueBreak } from './breaker';
export { timeCue } from './cue-times';
export { recue } from './recue';
export { preparePassage, scoreCue, scoreLines, textLength, type Passage } from './score';
export { endsWith, partingCost } from './syntax';
