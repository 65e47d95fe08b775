/**
 * What is measured of sound: waveform levels, speech regions and the pauses between chunks, cepstra, spectra, resampling, whole or as it comes,
 * loud stretches without words, and the head of a sound file.
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
export { RateConverter } from './rate';
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
export { WAVE_HEAD_BYTES, waveHead } from './wave';
