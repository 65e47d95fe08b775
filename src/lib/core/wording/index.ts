export { bareWord, ENGLISH, isHesitation } from '../english';
export { hesitationsOf, leaveOutHesitations } from './hesitations';
export { capitalise, capitaliseName, readDictionary, type EnglishWords } from './names';
export { asks, punctuate, sentenceAround, SENTENCE_PAUSE_MS, type Punctuation, type SpokenWord } from './sentences';
export { repairEdits, REPAIRS, type Repair } from './repairs';
export { figureAt, numberWord, type Figure } from './figures';
export { writeEnglish, writeInPlace, type WritingOptions, type WrittenWord } from './write';
