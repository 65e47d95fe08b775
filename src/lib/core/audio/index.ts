/**
 * What is measured of sound: waveform levels, speech regions and the pauses between chunks, cepstra, spectra, resampling, and
 * loud stretches without words.
 */
export { CEPSTRA, CepstralAnalyser, FRAME_STEP, logPitch, SAMPLES_A_MS } from './cepstra';
export { transform } from './fft';
export {
  compand,
  expand,
  LEVEL_BUCKET_MS,
  LEVEL_BYTES,
  LevelMeter,
  levelsBetween,
  quietStretches,
  rmsOf
} from './levels';
export { downsample, upsample } from './resample';
export { findSounds, SOUND_PALETTE } from './sounds';
export { SPECTRUM_BANDS, SPECTRUM_STEP_MS, speechSpectrum } from './spectrum';
export {
  chunksBetweenPauses,
  leastLikelySpeech,
  SPEECH_DEFAULTS,
  speechRegions,
  type ChunkOptions,
  type SpeechMap
} from './speech';
