/** What a page of the list of recordings costs with fifty and with five thousand of them. */
import { joinWords, makeTrack } from '../src/lib/core/track';
import { openDatabase } from '../src/lib/server/store/database';
import { DigestStore } from '../src/lib/server/store/digests';
import { LibraryStore, type LibraryQuery } from '../src/lib/server/store/library';
import { RecordingStore } from '../src/lib/server/store/recordings';
import { TrackStore } from '../src/lib/server/store/tracks';
import { newFolder } from '../tests/server/harness';
import { median } from './figures';
import { makeTalk } from './material';
import type { Row } from './table';

const PAGE: LibraryQuery = {
  ...{ isBinned: false, text: '', language: null, work: null, projectId: null },
  ...{ sort: 'added', isReversed: false, offset: 0, limit: 50 }
};
const ASKED: Readonly<Record<string, Partial<LibraryQuery>>> = {
  'the newest': {},
  'by title, from the middle': { sort: 'title', offset: 2500 },
  'last edited, of one language, in work': { sort: 'edited', language: 'it', work: 'draft' },
  'found by spoken words': { text: 'word4321' }
};

function filled(count: number): LibraryStore {
  const db = openDatabase(newFolder());
  const recordings = new RecordingStore(db);
  const tracks = new TrackStore(db);
  const digests = new DigestStore(db);
  const words = makeTalk(400);
  const text = joinWords(words);
  db.transaction(() => {
    for (let at = 0; at < count; at++) {
      const id = `r${at}`;
      recordings.insert({
        ...{ id, title: `Winding day ${(at * 7919) % count}`, state: 'ready', hasProxy: false, cutOf: null },
        ...{ durationMs: 60_000 + at, createdAtMs: at },
        media: {
          ...{ mime: 'audio/wav', hasVideo: false, width: null, height: null, frameRate: null },
          ...{ channels: 1, sampleRate: 16_000, bytes: 1 }
        }
      });
      const language = ['en', 'it', 'fr'][at % 3]!;
      const track = makeTrack({ id: `t${at}`, recordingId: id, language, title: '', words, cues: [] });
      tracks.list(track, at);
      digests.put(track.id, { revision: 0, findingCount: 3, text: `${text} word${at}`, content: null });
    }
  })();
  return new LibraryStore(db);
}

export function libraryRows(): Row[] {
  const [few, many] = [filled(50), filled(5000)];
  const page = (library: LibraryStore, query: Partial<LibraryQuery>): number =>
    median(
      Array.from({ length: 15 }, () => {
        const fromMs = performance.now();
        library.page({ ...PAGE, ...query });
        return performance.now() - fromMs;
      })
    );
  return Object.entries(ASKED).flatMap(([what, query]): Row[] => {
    const ms = page(many, query);
    return [
      { what: `a page of 5,000 recordings: ${what}`, value: ms, unit: 'ms' },
      { what: '… against 50 recordings', value: ms / page(few, query), unit: '×' }
    ];
  });
}
