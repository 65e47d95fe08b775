/** Who speaks when: Gaussians of cepstra and pitch, joined by a criterion; voices to words. */
export { assignVoices, speakersOf, voiceChanges, type Turn } from './assign';
export { tellVoices, voiceOf, voiceStretches, type VoiceSums } from './voices';
