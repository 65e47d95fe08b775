export { doubtKey, doubtSchema, type Candidate, type Doubt, type DoubtReason } from './doubt';
export { doubtIn, findDoubts, type DoubtKnowledge } from './find';
export { findNearMisses, type NearMiss, type Pronounce } from './near-misses';
export { phoneDistance, phoneWeight } from './phones';
