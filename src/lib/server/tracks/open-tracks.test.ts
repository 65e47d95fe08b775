import fc from 'fast-check';
import { beforeEach, describe, expect, test } from 'vitest';
import type { ClientCommand } from '$lib/core/commands';
import { anyCommandSeed, anyTrack, commandFromSeed } from '$lib/core/testing/any-track';
import { HOUSE_RULES, makeCue, makeTrack, makeWord, type Track } from '$lib/core/track';
import { EventStream } from '../events';
import { ApiProblem } from '../problem';
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

let store: TrackStore;
let logs: LogStore;
let events: EventStream;
let tracks: OpenTracks;
beforeEach(() => {
  const db = tempDatabase();
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
  tracks.applyClientCommands('t', { revision, commands: [{ type: 'setWordText', wordId: 'w1', text }], batchId });
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
      { type: 'setWordText', wordId: 'w1', text: 'bell' },
      { type: 'removeCue', cueId: 'nobody' }
    ];
    expect(codeOf(() => tracks.applyClientCommands('t', { revision: 0, commands: edits }))).toBe('422 unknown_cue');
    expect([word(), tracks.get('t').revision]).toEqual(['clock', 0]);
  });

  test('never gives an id a second time, also one whose owner is gone', () => {
    const add = (newCueId: string) =>
      tracks.applyClientCommands('t', {
        revision: tracks.get('t').revision,
        commands: [{ type: 'addCue', startMs: 3000, endMs: 4000, lines: [], newCueId }]
      });
    add('new');
    tracks.undo('t', { revision: 1 });
    expect(codeOf(() => add('new'))).toBe('422 id_taken');
    expect(codeOf(() => add('c'))).toBe('422 id_taken');
    expect(
      codeOf(() =>
        new OpenTracks(store, logs, events).applyClientCommands('t', {
          revision: 2,
          commands: [{ type: 'addCue', startMs: 3000, endMs: 4000, lines: [], newCueId: 'new' }]
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
    tracks.recue('t', { ...HOUSE_RULES, oneWordPerCue: true });
    expect(tracks.get('t').track.cues).toHaveLength(3);
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
  fc.assert(
    fc.property(
      anyTrack,
      fc.array(fc.oneof({ weight: 4, arbitrary: anyCommandSeed }, fc.constantFrom('undo' as const, 'redo' as const)), {
        minLength: 5,
        maxLength: 40
      }),
      (track, steps) => {
        const id = `p${count++}`;
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
