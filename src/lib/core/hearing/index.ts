export { withAlternatives, type WeighedWord } from './alternatives';
export {
  draftTrack,
  fittedTrack,
  growDraft,
  NO_GROWTH,
  timingTrack,
  wordFromDictionary,
  wordsOfChunks,
  type DraftManner,
  type DraftOptions,
  type GrownParts,
  type Growth,
  type HeardChunk
} from './draft';
export { proposedPassages, takePassages, type ProposedPassage } from './proposal';
export { rankReadings, type Reading, type Search } from './readings';
export type { HeardWord } from '../heard-word';
