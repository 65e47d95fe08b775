export {
  draftTrack,
  SENTENCE_PAUSE_MS,
  timingTrack,
  wordFromDictionary,
  type DraftOptions,
  type HeardChunk,
  type HeardWord
} from './draft';
