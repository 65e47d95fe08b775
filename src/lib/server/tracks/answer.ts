import type { SavedTrack } from './open-tracks';
import { cueSpeaker, markedLines, type Track } from '$lib/core/track';
import { cueSettings } from '$lib/core/formats';

/** A change of a track as the API tells it. */
export const savedAnswer = ({ commands, ...saved }: SavedTrack) => ({ ...saved, edits: commands });

/** A track as the API tells it: absent fields say what is usual. */
export function trackAnswer(track: Track, revision: number) {
  return {
    id: track.id,
    recordingId: track.recordingId,
    language: track.language,
    kind: track.kind,
    title: track.title,
    state: track.state,
    revision,
    look: track.look,
    rules: track.rules,
    sheet: track.sheet,
    names: track.names,
    words: track.words.map((word) => ({
      id: word.id,
      text: word.text,
      startMs: word.startMs,
      endMs: word.endMs,
      confidence: word.confidence,
      timing: word.timing,
      correctedAt: word.correctedAt,
      ...(word.speakerId !== null && { speakerId: word.speakerId }),
      ...(word.kind === 'sound' && { sound: true }),
      ...(word.kind === 'hole' && { hole: true }),
      ...(!word.shown && { shown: false })
    })),
    cues: track.cues.map((cue) => {
      const speakerId = cueSpeaker(track, cue);
      const settings = cueSettings(track, cue);
      return {
        id: cue.id,
        startMs: cue.startMs,
        endMs: cue.endMs,
        lines: markedLines(track, cue),
        wordIds: cue.wordIds,
        ...(speakerId !== null && { speakerId }),
        ...(settings !== '' && { settings }),
        ...(cue.placement !== null && { placement: cue.placement }),
        ...(cue.look !== null && { look: cue.look }),
        ...(cue.sourceCueIds.length > 0 && { sourceCueIds: cue.sourceCueIds }),
        ...(cue.translation !== null && { translation: cue.translation })
      };
    }),
    speakers: track.speakers,
    ...(track.sourceTrackId !== null && { sourceTrackId: track.sourceTrackId }),
    ...(track.lookFrom !== null && { lookFrom: track.lookFrom }),
    ...(track.sheetFrom !== null && { sheetFrom: track.sheetFrom })
  };
}
