export { assignVoices, speakersOf, voiceChanges, type Turn } from './assign';
export { SAMPLES_A_MS, tellVoices, voiceOf, voiceStretches, type VoiceSums } from './voices';
