export { doubtKey, doubtSchema, type Candidate, type Doubt, type DoubtReason } from './doubt';
export { DOUBTED_BELOW, findDoubts, type DoubtKnowledge } from './find';
export { findNearMisses, type NearMiss, type Pronounce } from './near-misses';
export { phoneDistance, phoneWeight } from './phones';
