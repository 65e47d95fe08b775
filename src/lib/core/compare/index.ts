/** What differs between two versions of a track, word by word, and the word error rate of one against the other. */
export { draftErrors, findChanges, type Change, type DraftErrors } from './changes';
export { changedCues, changesSince, type ChangedCue, type ChangesSince } from './since';
export { countWordErrors, type WordErrors } from './word-errors';
