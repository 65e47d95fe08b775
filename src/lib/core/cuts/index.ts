/**
 * A new cut beside the one before. Both sounds become fingerprints of 32 bits each 32 ms (Haitsma and Kalker). Frames
 * that agree on an offset vote for it; candidates are grown as far as they hold, and the cheapest way through them
 * (Viterbi) says which stretch of the new cut is which of the old. Waveforms then give the offset to the sample and
 * the borders to some milliseconds, and follow what fingerprints cannot hold on to: a bell that dies away, silence.
 * `carryOver` lays a track on it.
 */
export { compareCuts, type CutComparison, type SharedStretch } from './compare';
export type { Sound } from './sound';
export { carryOver, type CarriedOver, type CutRemark } from './carry-over';
