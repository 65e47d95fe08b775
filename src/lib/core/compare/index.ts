export { comparedWords, countWordErrors, type WordErrors } from './word-errors';
