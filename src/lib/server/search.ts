/** Text found, and replaced, in every track of the workspace. */
import { aroundHit, findHits, replaceHits, type Query } from '$lib/core/search';
import type { App } from './app';

/** Of one track; more are counted. */
const MOST_LISTED = 50;

export interface FoundInTrack {
  readonly recordingId: string;
  readonly recordingTitle: string;
  readonly trackId: string;
  readonly language: string;
  readonly count: number;
  readonly hits: readonly { wordId: string; startMs: number; before: string; found: string; after: string }[];
}

/** Every track that holds the text, in the order of the recordings. */
export function searchTracks(app: App, query: Query): FoundInTrack[] {
  return app.recordings.list({ isBinned: false }).flatMap((recording) =>
    app.trackStore.listOf(recording.id).flatMap((summary) => {
      const { words } = app.tracks.get(summary.id).track;
      const hits = findHits(words, query);
      if (hits.length === 0) return [];
      return {
        recordingId: recording.id,
        recordingTitle: recording.title,
        trackId: summary.id,
        language: summary.language,
        count: hits.length,
        hits: hits.slice(0, MOST_LISTED).map((hit) => {
          const { id, startMs } = words[hit.from]!;
          return { wordId: id, startMs, ...aroundHit(words, hit) };
        })
      };
    })
  );
}

/** Replaces in each of the tracks, as one entry of its log; gives how many places were written in each. */
export function replaceInTracks(
  app: App,
  trackIds: readonly string[],
  { query, replacement }: { readonly query: Query; readonly replacement: string }
): { trackId: string; replaced: number }[] {
  return trackIds.map((trackId) => {
    const { track, revision } = app.tracks.get(trackId);
    const hits = findHits(track.words, query);
    const commands = replaceHits(track.words, hits, replacement);
    if (commands.length > 0) app.tracks.applyClientCommands(trackId, { revision, commands });
    return { trackId, replaced: hits.length };
  });
}
