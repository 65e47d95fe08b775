/** The engine that hears no words: empty cues where there is speech, for any language. */
import { ANY_LANGUAGE } from '$lib/core/hearing';
import type { EngineFacts } from './recogniser';

export const TIMING_ENGINE: EngineFacts = {
  id: 'timing-only',
  name: 'Timing only: empty cues on the speech',
  kind: 'local',
  available: true,
  languages: [ANY_LANGUAGE],
  hears: false,
  fits: false,
  sendsSound: false
};
