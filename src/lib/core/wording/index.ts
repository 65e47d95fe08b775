/**
 * Bare words to text: the engine tells for each word how much likelier its language model holds an end of sentence
 * behind it than none; with pauses and a few word classes that makes stops, commas and question marks. Capitals come
 * from there, from the terms expected, and from a spelling dictionary. Repairs of one key, hesitations, figures.
 */
export { bareWord, ENGLISH, isHesitation } from '../english';
export { hesitationsOf, leaveOutHesitations } from './hesitations';
export { capitalise, capitaliseName, readDictionary, type EnglishWords } from './names';
export { asks, punctuate, sentenceAround, SENTENCE_PAUSE_MS, type Punctuation, type SpokenWord } from './sentences';
export { repairEdits, repairsDone, REPAIRS, type Repair } from './repairs';
export { figureAt, numberWord, type Figure } from './figures';
export { writeEnglish, writeInPlace, type WritingOptions, type WrittenWord } from './write';
