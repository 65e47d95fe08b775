/**
 * What deserves a look in a track, each with candidates: words the recogniser was unsure of, names by their sound,
 * spelling, doubles, holes. A doubt's key holds its reason, its words and their text: what was judged is remembered by
 * it.
 */
export { doubtKey, doubtSchema, type Candidate, type Doubt, type DoubtReason } from './doubt';
export { doubtIn, findDoubts, MAY_REPEAT, type DoubtKnowledge } from './find';
export { findNearMisses, type NearMiss, type Pronounce } from './near-misses';
export { phoneDistance, phoneWeight } from './phones';
