/** What a log costs: opening a track of two hours with and without entries, undo of large changes, one edit. */
import { asTrackId } from '../src/lib/core/id';
import { EventStream } from '../src/lib/server/events';
import { openDatabase } from '../src/lib/server/store/database';
import { LogStore } from '../src/lib/server/store/log';
import { RecordingStore } from '../src/lib/server/store/recordings';
import { TrackStore } from '../src/lib/server/store/tracks';
import { OpenTracks } from '../src/lib/server/tracks/open-tracks';
import { recue } from '../src/lib/core/cueing';
import { HOUSE_RULES, makeTrack } from '../src/lib/core/track';
import { newFolder } from '../tests/server/harness';
import { at95, median } from './figures';
import { makeTalk } from './material';
import type { Row } from './table';

const timed = (work: () => unknown): number => {
  const fromMs = performance.now();
  work();
  return performance.now() - fromMs;
};

export function logRows(): Row[] {
  const db = openDatabase(newFolder());
  new RecordingStore(db).insert({
    ...{ id: 'r', title: 'Two hours', state: 'ready', hasProxy: false, cutOf: null, durationMs: 7_200_000 },
    media: {
      ...{ mime: 'audio/wav', hasVideo: false, width: null, height: null, frameRate: null },
      ...{ channels: 1, sampleRate: 16_000, bytes: 1 }
    },
    createdAtMs: 1
  });
  const store = new TrackStore(db);
  const logs = new LogStore(db);
  const open = (): OpenTracks => new OpenTracks(store, logs, new EventStream());
  let minted = 0;
  const bare = makeTrack({ id: 't', recordingId: 'r', language: 'en', title: '', words: makeTalk(18_000), cues: [] });
  const track = { ...bare, cues: recue(bare, HOUSE_RULES, () => `c${minted++}`) };
  const putTrack = (id: string): OpenTracks => {
    const tracks = open();
    tracks.insert({ ...track, id: asTrackId(id), recordingId: 'r' }, 1);
    return tracks;
  };
  const opening = (id: string): number => median(Array.from({ length: 7 }, () => timed(() => open().get(id))));

  putTrack('none');
  const edits: number[] = [];
  for (const count of [400, 2000]) {
    const tracks = putTrack(`${count}`);
    for (let at = 0; at < count; at++) {
      const wordId = track.words[(at * 37) % track.words.length]!.id;
      edits.push(
        timed(() => tracks.applyOwn(`${count}`, () => [{ type: 'setWordText', wordId, text: `word${at}`, atMs: at }]))
      );
    }
  }
  const shifted = putTrack('shifts');
  for (let at = 0; at < 8; at++) shifted.applyOwn('shifts', () => [{ type: 'retime', shiftMs: 10, speed: 1 }]);
  const undo = Array.from({ length: 8 }, () => {
    const { revision } = shifted.get('shifts');
    return timed(() => shifted.undo('shifts', { revision }));
  });
  const none = opening('none');
  const rows: Row[] = [
    { what: 'opening a 2-hour track with no entries', value: none, unit: 'ms' },
    { what: '… with 400 entries, against that', value: opening('400') / none, unit: '×', budget: 1.5 },
    { what: '… with 2,000 entries, against that', value: opening('2000') / none, unit: '×', budget: 1.5 },
    {
      what: 'eighth undo of shifts of the whole track, against the first',
      value: undo[7]! / undo[0]!,
      unit: '×',
      budget: 1.5
    },
    { what: 'one edit of a 2-hour track, written and synced, median', value: median(edits), unit: 'ms' },
    {
      what: 'one edit of a 2-hour track, written and synced, 95th percentile',
      value: at95(edits),
      unit: 'ms',
      budget: 50
    }
  ];
  db.close();
  return rows;
}
