export { compareCuts, type CutComparison, type SharedStretch } from './compare';
export { SAMPLES_A_MS, type Sound } from './sound';
export { carryOver, type CarriedOver, type CutRemark } from './carry-over';
