/**
 * Names and phrases to expect: reading the list or notes, their pronunciations, a phrase language model that is mixed
 * into the general one, and writing what was heard of them.
 */
export { termsInNotes, type FoundTerm } from './notes';
export { phonesFromIpa } from './arpabet';
export { phraseModel } from './phrase-model';
export { MOST_TERMS, readTerms, spellTerms, spokenForms, writeTerms, type ReadTerms, type Term } from './terms';
