/**
 * Translations: rows of source and target cues, sentences over cues and back, the form for the clipboard and its reading,
 * texts without times laid on rows.
 */
export { alignToRows, BREAKS, type AlignedWord, type Alignment, type Break, type Run } from './alignment';
export { anchorsIn, figuresIn, namesIn, plainDigits } from './anchors';
export { withSourceAbove } from './beside';
export { makeTranslation, type BeginOptions } from './begin';
export { clipboardParts, rowNumber, type ClipboardPart } from './clipboard';
export { layOnPlaces, placeOfSource, type LaidToken, type LayingPlace, type Room } from './laying';
export { readPasted, type Pasted, type PastedRow, type PasteProblem } from './pasted';
export { countStates, rowsOf, type Row, type RowState } from './rows';
export { sentencesOf, type Sentence, type SentencePiece } from './sentences';
export { finishFromEngine, prepareForEngine, type Prepared } from './engine-text';
export {
  cuesForRows,
  draftRows,
  markOf,
  mayDraft,
  typeCue,
  writeRowText,
  type TranslatedSentence,
  type WrittenCue
} from './drafting';
export { layCaptions, speechOfCues } from './captions';
export { glossaryTermSchema, hasTerm, termsIn, termsNotUsed, type GlossaryTerm } from './glossary';
export { memoryKey, recall, wordsForMemory, type Recalled, type Remembered } from './memory';
export { typeset } from './typeset';
