export {
  draftTrack,
  SENTENCE_PAUSE_MS,
  wordFromDictionary,
  type DraftOptions,
  type HeardChunk,
  type HeardWord
} from './draft';
