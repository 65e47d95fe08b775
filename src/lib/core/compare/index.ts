/** What differs between two versions of a track, word by word, and the word error rate of one against the other. */
export { draftErrors, findChanges, type Change, type DraftErrors } from './changes';
export { changesSinceDraft, type SinceDraft } from './since-draft';
export { countWordErrors, type WordErrors } from './word-errors';
