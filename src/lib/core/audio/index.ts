export { compand, expand, LEVEL_BUCKET_MS, LEVEL_BYTES, LevelMeter, levelsBetween, quietStretches } from './levels';
export {
  cutAtPauses,
  leastLikelySpeech,
  SPEECH_DEFAULTS,
  speechRegions,
  type ChunkOptions,
  type SpeechMap
} from './speech';
