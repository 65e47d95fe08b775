/**
 * Tracks: words, cues, speakers, look, rules. The schemas are the types; what always holds stands in `invariants.ts`,
 * what of a track changes in `trackShape`.
 */
export * from './track';
export {
  charsPerSecond,
  rulesOfScript,
  ruleSetSchema,
  SHIPPED_RULE_SETS,
  wordsPerMinute,
  type RuleSet
} from './rule-sets';
export { findBrokenInvariant } from './invariants';
export { packedTrackSchema, packTrack, type PackedTrack } from './packed';
export {
  canonicalLanguage,
  isFromTheRight,
  isSameLanguage,
  languageName,
  languageTagSchema,
  primarySubtag
} from './language';
export { hasOwnLook, lookOfCue, lookOfVoice, placementOf, rowAndSide } from './dressing';
export {
  arrivalSchema,
  changeLook,
  changeOverrides,
  colorSchema,
  HOUSE_LOOK,
  hasOutline,
  hasShadow,
  LOOK_GROUPS,
  lookChangeSchema,
  lookSchema,
  overriddenValues,
  overrideLook,
  placementSchema,
  pointSchema,
  type Arrival,
  type Look,
  type LookChange,
  type LookOverrides,
  type Placement,
  type Point,
  type Spot
} from './look';
export {
  cueSpeaker,
  liftSign,
  liftSigns,
  lineWords,
  markedLines,
  partLines,
  plainLines,
  readingSpeed,
  signedLines,
  signLength,
  wordAtOffset,
  writtenLines
} from './lines';
export { lookUp, type Lookup } from './lookup';
export { cuesAt } from './showing';
export { spokenOrder } from './spoken';
export {
  clustersOf,
  countCharacters,
  escapeMarkup,
  formatMarkedLine,
  graphemes,
  joinLines,
  joinTokens,
  joinWords,
  lineLength,
  normalizeMarks,
  parseMarkedLine,
  setsNoSpaces,
  shareTime,
  shownWords,
  shownWordsOfAll,
  spokenLength,
  tokenize,
  type Token
} from './text';
export { joinTranslations, madeFrom } from './translation';
export { SEVERITIES, sheetSchema, type Severity, type Sheet } from './sheet';
