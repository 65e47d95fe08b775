export { compareCuts, type CutComparison, type SharedStretch } from './compare';
export type { Sound } from './sound';
export { carryOver, type CarriedOver, type CutRemark } from './carry-over';
