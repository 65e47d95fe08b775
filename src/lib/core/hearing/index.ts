export {
  draftTrack,
  fittedTrack,
  timingTrack,
  wordFromDictionary,
  wordsOfChunks,
  type DraftOptions,
  type HeardChunk,
  type HeardWord
} from './draft';
export { rankReadings, type Reading, type Search } from './readings';
