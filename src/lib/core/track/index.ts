export * from './track';
export { ruleSetSchema, SHIPPED_RULE_SETS, wordsPerMinute, type RuleSet } from './rule-sets';
export { findBrokenInvariant } from './invariants';
export { isSameLanguage, primarySubtag } from './language';
export { lookUp, type Lookup } from './lookup';
export {
  countCharacters,
  cueSpeaker,
  escapeMarkup,
  formatMarkedLine,
  joinWords,
  lineLength,
  lineWords,
  markedLines,
  normalizeMarks,
  parseMarkedLine,
  partLines,
  plainLines,
  readingSpeed,
  shareTime,
  shownWords,
  shownWordsOfAll,
  spokenLength,
  tokenize,
  type Token
} from './text';
