/**
 * What is not as it should be in a track. One table of small checks makes the page, the sheets, the API and the
 * documentation; a sheet says how each counts. What would mend a finding is tried before it is done. What was found is told in a report.
 */
export type { Check, NumberOf } from './check';
export { figuresOf, type Column, type Figures } from './figures';
export {
  findingSchema,
  GROUPS,
  knowOnly,
  MISSING,
  type CueFinding,
  type Finding,
  type Group,
  type Knowledge,
  type Need
} from './finding';
export { isMendedUnseen, mend, type Mended } from './mend';
export { GROUP_NAMES, SEVERITY_NAMES } from './names';
export { isOffWords, OFF_WORDS_MS } from './off-words';
export { nameSheet, reportPaper, tellSheet, type ReportRequest } from './report';
export { checkCue, checkCues } from './rules';
export { Checker, checkTrack, type NotChecked, type Report } from './run';
export {
  checksOf,
  formatSheetsFile,
  keptSheetSchema,
  numbersOf,
  ownSheetSchema,
  parseSheetsFile,
  severityOf,
  SHIPPED_SHEETS,
  strictSheetSchema,
  type KeptSheet,
  type OwnSheet
} from './sheet';
export { CHECKS, describeCheck, findCheck, type CheckFacts } from './table';
