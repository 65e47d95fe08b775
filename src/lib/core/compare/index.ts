export { draftErrors, findChanges, type Change, type DraftErrors } from './changes';
export { countWordErrors, type WordErrors } from './word-errors';
