/**
 * From heard chunks to a draft, whole or growing while it is heard: each chunk is settled up to its last whole
 * sentence. A passage heard again is searched three times, and the lists of the n best are joined by their votes
 * (`readings.ts`). Where a new hearing differs from a track is found against the track as it stands.
 */
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
export { ANY_LANGUAGE, hearsLanguage } from './languages';
export { proposedPassages, takePassages, type ProposedPassage } from './proposal';
export { rankReadings, type Reading, type Search } from './readings';
export type { HeardWord } from '../heard-word';
