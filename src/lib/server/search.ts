/** Text found, and replaced, in every track of the workspace. */
import type { TrackId, WordId } from '$lib/core/id';
import { aroundHit, findHits, replaceHits, wantedText, type Query } from '$lib/core/search';
import type { Word } from '$lib/core/track';
import { ApiProblem } from './problem';
import { INDEXED_LENGTH, type DigestStore } from './store/digests';
import type { RecordingStore } from './store/recordings';
import type { TrackStore } from './store/tracks';
import type { OpenTracks } from './tracks/open-tracks';

/** Of one track; more are counted. */
const MOST_LISTED = 50;

export interface FoundInTrack {
  readonly recordingId: string;
  readonly recordingTitle: string;
  readonly trackId: TrackId;
  readonly language: string;
  readonly count: number;
  readonly hits: readonly { wordId: WordId; startMs: number; before: string; found: string; after: string }[];
}

/** Of a track that could not be read. */
export interface UnsearchedTrack {
  readonly trackId: TrackId;
  readonly reason: string;
}

interface Parts {
  readonly recordings: RecordingStore;
  readonly trackStore: TrackStore;
  readonly tracks: OpenTracks;
  readonly digests: DigestStore;
}

/** Every track that holds the text, in the order of the recordings, and those that could not be looked through. */
export function searchTracks(
  { recordings, trackStore, tracks, digests }: Parts,
  query: Query
): { readonly found: readonly FoundInTrack[]; readonly notSearched: readonly UnsearchedTrack[] } {
  const notSearched: UnsearchedTrack[] = [];
  const wordsOf = (trackId: TrackId): readonly Word[] => {
    try {
      return tracks.get(trackId).track.words;
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      notSearched.push({ trackId, reason: error.message });
      return [];
    }
  };
  // Only tracks that may say it are opened; how something sounds no index knows.
  const text = wantedText(query);
  const may = query.soundsLike || text.length < INDEXED_LENGTH ? null : digests.maySay(text);
  const found = recordings.list({ isBinned: false }).flatMap((recording) =>
    trackStore.listOf(recording.id).flatMap((summary) => {
      if (may?.has(summary.id) === false) return [];
      const words = wordsOf(summary.id);
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
  return { found, notSearched };
}

/** Replaces in each of the tracks, as one entry of its log; gives how many places were written in each. */
export function replaceInTracks(
  { tracks }: Pick<Parts, 'tracks'>,
  trackIds: readonly TrackId[],
  { query, replacement }: { readonly query: Query; readonly replacement: string }
): { trackId: TrackId; replaced: number }[] {
  return trackIds.map((trackId) => {
    const { track, revision } = tracks.get(trackId);
    const hits = findHits(track.words, query);
    const commands = replaceHits(track.words, hits, replacement);
    if (commands.length > 0) tracks.applyClientCommands(trackId, { revision, commands });
    return { trackId, replaced: hits.length };
  });
}
