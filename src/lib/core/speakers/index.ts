export { assignVoices, speakersOf, voiceChanges, type Turn } from './assign';
export { tellVoices, voiceOf, voiceStretches, type VoiceSums } from './voices';
