export * from './track';
export { findBrokenInvariant } from './invariants';
export { lookUp, type Lookup } from './lookup';
export {
  countCharacters,
  cueSpeaker,
  formatMarkedLine,
  joinWords,
  lineWords,
  markedLines,
  normalizeMarks,
  parseMarkedLine,
  plainLines,
  readingSpeed,
  shareTime,
  shownWords,
  spokenLength,
  tokenize,
  type Token
} from './text';
