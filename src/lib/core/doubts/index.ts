export { DOUBTED_BELOW, findDoubts, type Candidate, type Doubt, type DoubtKnowledge, type DoubtReason } from './find';
export { findNearMisses, type NearMiss, type Pronounce } from './near-misses';
export { phoneDistance, phoneWeight } from './phones';
