export { estimateSync, FRAME_RATE_MIX_UPS, speedOfMixUp, type SyncEstimate, type SyncSegment } from './estimate';
export { lineThrough } from './line';
