/** Times of cues: eased into free time around them, laid on their words, and where an edge in hand catches. */
export { EASE_DEFAULTS, easeCues, type EaseResult, type EaseContext, type EaseOptions } from './ease';
export { findSnap, type Snap, type SnapContext } from './snap';
export { layOnWords, type Laid } from './lay-on-words';
