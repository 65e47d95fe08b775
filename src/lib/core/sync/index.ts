/**
 * Captions from elsewhere on the speech. For each speed that a mix-up of frame rates makes, stretches of cues are
 * tried at every offset within 75 s by sums over the speech map; the best way through the offsets may drift for free
 * and jump at a price (Viterbi); runs on one line are made exact on the onsets of speech by a robust fit. Confidence
 * is how far that stands out from the same cues backwards, and how much of them lies on speech.
 */
export {
  estimateSync,
  FRAME_RATE_MIX_UPS,
  speedOfMixUp,
  syncedSpan,
  type SyncEstimate,
  type SyncSegment
} from './estimate';
export { lineThrough } from './line';
