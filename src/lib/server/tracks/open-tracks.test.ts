import { asCueId, asTrackId, asWordId } from '$lib/core/id';
import { askedByClient } from '$lib/core/testing/asked';
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import type { ClientCommand } from '$lib/core/commands';
import { openTrack } from '$lib/core/stored';
import { anyCommandSeed, anyTrack, commandFromSeed } from '$lib/core/testing/any-track';
import { HOUSE_RULES, makeCue, makeTrack, makeWord, type Track } from '$lib/core/track';
import { EventStream } from '../events';
import { ApiProblem } from '../problem';
import type { Db } from '../store/database';
import { LogStore } from '../store/log';
import { TrackStore } from '../store/tracks';
import { putRecording, tempDatabase } from '../testing/temp-database';
import { OpenTracks } from './open-tracks';

const bytes = (track: Track): string => JSON.stringify(track);
const codeOf = (work: () => unknown): string => {
  try {
    work();
  } catch (error) {
    if (error instanceof ApiProblem) return `${error.status} ${error.code}`;
    throw error;
  }
  return 'done';
};
const batch = (number: number): string => `00000000-0000-4000-8000-${String(number).padStart(12, '0')}`;

let db: Db;
let store: TrackStore;
let logs: LogStore;
let events: EventStream;
let tracks: OpenTracks;
beforeEach(() => {
  db = tempDatabase();
  putRecording(db);
  store = new TrackStore(db);
  logs = new LogStore(db);
  events = new EventStream();
  tracks = new OpenTracks(store, logs, events);
  const words = ['the', 'clock', 'stops'].map((text, at) =>
    makeWord({ id: `w${at}`, text, startMs: at * 500, endMs: at * 500 + 400, timing: 'heard' })
  );
  const cue = makeCue({ id: 'c', startMs: 0, endMs: 2000, wordIds: words.map((word) => word.id) });
  tracks.insert(makeTrack({ id: 't', recordingId: 'r', language: 'en', title: 'A track', words, cues: [cue] }), 1);
});

const write = (text: string, revision = tracks.get('t').revision, batchId?: string) =>
  tracks.applyClientCommands('t', {
    revision,
    commands: [askedByClient({ type: 'setWordText', wordId: 'w1', text })],
    batchId
  });
const word = (): string => tracks.get('t').track.words[1]!.text;

describe('a track at work', () => {
  test('answers a batch that it has seen with its first answer, whatever has happened since', () => {
    const first = write('Clock', 0, batch(1));
    write('bell');
    expect(write('Clock', 0, batch(1))).toMatchObject({ revision: first.revision, commands: first.commands });
    expect(word()).toBe('bell');
    expect(tracks.get('t').revision).toBe(2);
  });

  test('refuses an edit of an old revision and says which is the present one', () => {
    write('Clock');
    expect(codeOf(() => write('bell', 0))).toBe('409 stale_revision');
    expect(word()).toBe('Clock');
  });

  test('takes all edits of a batch or none', () => {
    const edits: ClientCommand[] = [
      { type: 'setWordText', wordId: asWordId('w1'), text: 'bell' },
      { type: 'removeCue', cueId: asCueId('nobody') }
    ];
    expect(codeOf(() => tracks.applyClientCommands('t', { revision: 0, commands: edits }))).toBe('422 unknown_cue');
    expect([word(), tracks.get('t').revision]).toEqual(['clock', 0]);
  });

  test('never gives an id a second time, also one whose owner is gone', () => {
    const add = (newCueId: string) =>
      tracks.applyClientCommands('t', {
        revision: tracks.get('t').revision,
        commands: [askedByClient({ type: 'addCue', startMs: 3000, endMs: 4000, lines: [], newCueId })]
      });
    add('new');
    tracks.undo('t', { revision: 1 });
    expect(codeOf(() => add('new'))).toBe('422 id_taken');
    expect(codeOf(() => add('c'))).toBe('422 id_taken');
    expect(
      codeOf(() =>
        new OpenTracks(store, logs, events).applyClientCommands('t', {
          revision: 2,
          commands: [askedByClient({ type: 'addCue', startMs: 3000, endMs: 4000, lines: [], newCueId: 'new' })]
        })
      )
    ).toBe('422 id_taken');
  });

  test('undoes and redoes in order, says what comes next, and a new edit ends what could be redone', () => {
    expect(codeOf(() => tracks.undo('t', { revision: 0 }))).toBe('409 nothing_to_undo');
    write('Clock');
    tracks.applyClientCommands('t', { revision: 1, commands: [{ type: 'setTitle', title: 'Other' }] });
    const { history } = tracks.undo('t', { revision: 2 });
    expect(tracks.get('t').track.title).toBe('A track');
    expect(history).toEqual(tracks.history('t'));
    expect(history.undo).not.toBeNull();
    expect(history.redo).not.toBe(history.undo);
    expect(tracks.undo('t', { revision: 3 }).history.undo).toBeNull();
    expect(word()).toBe('clock');
    tracks.redo('t', { revision: 4 });
    expect(word()).toBe('Clock');
    write('bell');
    expect(tracks.history('t').redo).toBeNull();
    expect(codeOf(() => tracks.redo('t', { revision: 6 }))).toBe('409 nothing_to_redo');
  });

  test('tells everyone of each change, once', () => {
    const heard: unknown[] = [];
    events.listen(({ event }) => heard.push(event.data));
    write('Clock', 0, batch(1));
    write('Clock', 0, batch(1));
    tracks.undo('t', { revision: 1 });
    expect(heard).toEqual([
      { trackId: 't', revision: 1 },
      { trackId: 't', revision: 2 }
    ]);
  });

  test('breaks anew as one entry that undo takes back', () => {
    const before = bytes(tracks.get('t').track);
    tracks.recue('t', { ...HOUSE_RULES, oneWordPerCue: true }, ['Ada Wren']);
    expect(tracks.get('t').track).toMatchObject({ names: ['Ada Wren'], cues: { length: 3 } });
    tracks.undo('t', { revision: 1 });
    expect(bytes(tracks.get('t').track)).toBe(before);
  });

  test('keeps its counts for the list of recordings', () => {
    write('Clock');
    expect(store.findSummary('t')).toMatchObject({ revision: 1, wordCount: 3, correctedCount: 1, cueCount: 1 });
    expect(codeOf(() => tracks.get('nobody'))).toBe('404 unknown_track');
  });
});

test('whatever is done, undone and done again, a server that opens the track anew has the same bytes and the same history', () => {
  let count = 0;
  let entries = 0;
  // What some of the tracks translate.
  tracks.insert({ ...tracks.get('t').track, id: asTrackId('source') }, 1);
  fc.assert(
    fc.property(
      anyTrack,
      fc.array(fc.oneof({ weight: 4, arbitrary: anyCommandSeed }, fc.constantFrom('undo' as const, 'redo' as const)), {
        minLength: 5,
        maxLength: 40
      }),
      (track, steps) => {
        const id = asTrackId(`p${count++}`);
        tracks.insert({ ...track, id, recordingId: 'r' }, 1);
        steps.forEach((step, at) => {
          const { track: now, revision } = tracks.get(id);
          const outcome = codeOf(() =>
            typeof step === 'string'
              ? tracks[step](id, { revision })
              : tracks.applyOwn(id, () => [commandFromSeed(now, { ...step, mint: `${step.mint}-${at}` })])
          );
          if (outcome === 'done') entries++;
          else expect(bytes(tracks.get(id).track)).toBe(bytes(now));
        });
        const again = new OpenTracks(store, logs, events);
        expect(bytes(again.get(id).track)).toBe(bytes(tracks.get(id).track));
        expect(again.get(id).revision).toBe(tracks.get(id).revision);
        expect(again.history(id)).toEqual(tracks.history(id));
        // The draft, with every entry of the log on top, by undoing it all.
        for (let left = tracks.get(id).revision; left > 0 && tracks.history(id).undo !== null; left--)
          tracks.undo(id, { revision: tracks.get(id).revision });
        expect(bytes(tracks.get(id).track)).toBe(bytes({ ...track, id, recordingId: 'r' }));
      }
    ),
    { numRuns: 40 }
  );
  expect(entries).toBeGreaterThan(300);
});

describe('what could not be read again', () => {
  const retime = (shiftMs: number) => tracks.applyOwn('t', () => [{ type: 'retime', shiftMs, speed: 1 }]);

  test('is refused before it is written: times without end, a hundred thousand cues, names that are none', () => {
    retime(3_599_990_000);
    expect(codeOf(() => retime(3_599_990_000))).toBe('422 bad_times');
    const words = Array.from({ length: 100_001 }, (_, at) =>
      makeWord({ id: `x${at}`, text: 'x', startMs: at * 10, endMs: at * 10 + 5, timing: 'heard' })
    );
    const long = makeTrack({ id: 'long', recordingId: 'r', language: 'en', title: '', words, cues: [] });
    tracks.insert(long, 1);
    const own = { ...HOUSE_RULES, oneWordPerCue: true };
    const cues = words.map(({ id, startMs, endMs }, at) => makeCue({ id: `y${at}`, startMs, endMs, wordIds: [id] }));
    const setCues = () => tracks.applyOwn('long', () => [{ type: 'setCues', cues, rules: own }]);
    expect(codeOf(setCues)).toBe('422 out_of_bounds');
    expect(codeOf(() => tracks.insert({ ...long, id: asTrackId('l'), language: 'x'.repeat(300) }, 1))).toBe(
      '422 out_of_bounds'
    );
    expect(tracks.get('long').revision).toBe(0);
    const again = new OpenTracks(store, logs, events);
    expect([again.get('t').revision, again.get('long').revision]).toEqual([1, 0]);
  });

  test.each([
    ['rotten', 'not even JSON'],
    ['of a kind that nobody knows', '[{"type":"melt"}]'],
    ['not of this track', '[{"type":"set","list":"words","items":[{"at":0,"id":"nobody","to":{"text":"x"}}]}]']
  ])('an entry that is %s: the track opens as it was before it, goes on, and says so', (_, changes) => {
    const error = vi.spyOn(console, 'error').mockImplementation(() => undefined);
    for (const text of ['One', 'Two', 'Three']) write(text);
    db.prepare('UPDATE log_entries SET changes = ? WHERE revision = 2').run(changes);
    const again = new OpenTracks(store, logs, events);
    expect(again.get('t').track.words[1]!.text).toBe('One');
    expect(again.get('t').revision).toBe(4);
    expect(again.breaks('t')).toMatchObject([{ fromRevision: 2, toRevision: 3 }]);
    expect(codeOf(() => again.entriesAfter('t', 1))).toBe('409 log_broken');
    again.applyOwn('t', () => [{ type: 'setTitle', title: 'On' }]);
    expect(again.history('t').undo).not.toBeNull();
    const third = new OpenTracks(store, logs, events);
    expect(third.get('t')).toMatchObject({ revision: 5, track: { title: 'On' } });
    expect(third.breaks('t')).toHaveLength(1);
    expect(third.entriesAfter('t', 4).entries.map(({ revision }) => revision)).toEqual([5]);
    // What lies beyond is there still.
    expect(db.prepare('SELECT count(*) FROM log_entries').pluck().get()).toBe(5);
    error.mockRestore();
  });

  test('a snapshot that cannot be read is done without; a track of which nothing can be read says so', () => {
    write('Clock');
    logs.putSnapshot('t', { revision: 1, form: 2, content: '{"half":' + 'true' + '}' });
    expect(new OpenTracks(store, logs, events).get('t').track.words[1]!.text).toBe('Clock');
    db.prepare(`UPDATE log_snapshots SET content = '{}'`).run();
    expect(codeOf(() => new OpenTracks(store, logs, events).get('t'))).toBe('422 unreadable');
  });
});

describe('a log of an earlier form', () => {
  const kept = JSON.parse(readFileSync('src/lib/core/stored/fixtures/form-1.json', 'utf8')) as {
    snapshots: { revision: number; document: object }[];
    entries: Record<'revision' | 'kind' | 'target_revision' | 'batch_id' | 'label' | 'edits', never>[];
    last: object;
    history: object;
  };

  function putLog(): void {
    db.exec('DELETE FROM log_entries; DELETE FROM log_snapshots');
    for (const { revision, document } of kept.snapshots)
      logs.putSnapshot('t', { revision, form: 1, content: JSON.stringify(document) });
    for (const { revision, kind, target_revision: target, batch_id: batchId, label, edits } of kept.entries)
      db.prepare(`INSERT INTO log_entries VALUES ('t', ?, 1, ?, ?, ?, ?, ?, '[]', '[]', 1)`).run(
        revision,
        kind,
        target,
        batchId,
        label,
        JSON.stringify(edits)
      );
    tracks = new OpenTracks(store, logs, events);
  }

  test('opens as it was left, is undone to its draft, and is brought up once', () => {
    putLog();
    expect(bytes(tracks.get('t').track)).toBe(bytes(openTrack(1, kept.last)));
    expect(tracks.history('t')).toEqual(kept.history);
    expect(logs.hasFormer('t', 2)).toBe(false);
    const last = new OpenTracks(store, logs, events);
    expect(bytes(last.get('t').track)).toBe(bytes(tracks.get('t').track));
    while (last.history('t').undo !== null) last.undo('t', { revision: last.get('t').revision });
    // What was heard meanwhile is nobody's to take back.
    expect(last.get('t').track.title).toBe(openTrack(1, kept.snapshots[0]!.document).title);
    expect(codeOf(() => tracks.trackAt('t', 0))).toBe('done');
  });

  test('that breaks off opens as far as it can be read', () => {
    putLog();
    const error = vi.spyOn(console, 'error').mockImplementation(() => undefined);
    db.exec(`DELETE FROM log_snapshots WHERE revision > 0`);
    db.prepare(`UPDATE log_entries SET commands = '[{"type":"melt"}]' WHERE revision = 5`).run();
    expect(tracks.get('t').revision).toBe(kept.entries.length + 1);
    expect(tracks.breaks('t')).toMatchObject([{ fromRevision: 5, toRevision: kept.entries.length }]);
    error.mockRestore();
  });
});

test('undo of a large change costs what it takes back, not what came after it', () => {
  for (let count = 0; count < 8; count++) tracks.applyOwn('t', () => [{ type: 'retime', shiftMs: 10, speed: 1 }]);
  const read = vi.spyOn(logs, 'entriesAfter');
  const found = vi.spyOn(logs, 'findEntry');
  for (let count = 0; count < 8; count++) tracks.undo('t', { revision: tracks.get('t').revision });
  expect(read).not.toHaveBeenCalled();
  expect(found).toHaveBeenCalledTimes(8);
});
