export { termsInNotes, type FoundTerm } from './notes';
export { phonesFromIpa } from './arpabet';
export { phraseModel } from './phrase-model';
export { MOST_TERMS, readTerms, spellTerms, spokenForms, writeTerms, type ReadTerms, type Term } from './terms';
