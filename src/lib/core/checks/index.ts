/**
 * What is not as it should be in a track. One table of small checks makes the page, the sheets, the API and the
 * documentation; a sheet says how each counts. What would mend a finding is tried before it is done.
 */
export type { Check, NumberOf } from './check';
export {
  GROUPS,
  knowOnly,
  SEVERITIES,
  type CueFinding,
  type Finding,
  type Group,
  type Knowledge,
  type Need,
  type Severity
} from './finding';
export { isMendedUnseen, mend, type Mended } from './mend';
export { isOffWords, OFF_WORDS_MS } from './off-words';
export { checkCue, checkCues } from './rules';
export { Checker, checkTrack, type NotChecked, type Report } from './run';
export {
  checksOf,
  namedSheetSchema,
  numbersOf,
  severityOf,
  sheetSchema,
  SHIPPED_SHEETS,
  type NamedSheet,
  type Sheet
} from './sheet';
export { CHECKS, findCheck } from './table';
