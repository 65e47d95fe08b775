import { toSpan } from '../../src/lib/core/time';
import fc from 'fast-check';
import { openDB } from 'idb';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { asCueId, asTrackId, asWordId } from '../../src/lib/core/id';
import type { ClientCommand } from '../../src/lib/core/commands';
import {
  anyClientCommandSeed,
  anyTrack,
  commandFromSeed,
  type CommandSeed
} from '../../src/lib/core/testing/any-track';
import { makeCue, makeTrack, makeWord, plainLines, type Track } from '../../src/lib/core/track';
import { FakeServer, forgetLocks, installBrowser, type Failure } from './browser';

const bytes = (track: Track): string => JSON.stringify(track);

function shortTrack(): Track {
  const words = ['the', 'clock', 'lets', 'go'].map((text, at) =>
    makeWord({ id: `w${at}`, text, startMs: at * 500, endMs: at * 500 + 400, timing: 'heard', confidence: 0.4 })
  );
  return makeTrack({
    id: 't',
    recordingId: 'r',
    language: 'en',
    title: 'A track',
    words,
    cues: [makeCue({ id: 'c', startMs: 0, endMs: 2000, wordIds: words.map((word) => word.id) })]
  });
}

const server = new FakeServer();
installBrowser(server);
const { TrackSession } = await import('../../src/lib/client/session/track-session.svelte');

type Session = Awaited<ReturnType<typeof TrackSession.open>>;

let open: Session[] = [];
beforeEach(() => {
  server.failures = [];
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
});
afterEach(() => {
  closeAll();
  vi.useRealTimers();
});

/** Another window of the browser. */
async function openWindow(id: string) {
  const session = await TrackSession.open(asTrackId(id));
  open.push(session);
  return session;
}
function closeAll(): void {
  open.forEach((session) => session.close());
  open = [];
}

/** Turns of the event loop, for the store and the channel between windows, and then the waits between tries. */
async function advance(): Promise<void> {
  for (let turn = 0; turn < 20; turn++) await new Promise((resolve) => setImmediate(resolve));
  await vi.advanceTimersByTimeAsync(1100);
}

/** Lets everything that waits come to its end. */
async function settle(...sessions: Session[]): Promise<void> {
  let isDone = false;
  void Promise.all(sessions.map((session) => session.saved())).then(() => (isDone = true));
  for (let round = 0; !isDone; round++) {
    if (round === 200) throw new Error('the sessions do not come to an end');
    await advance();
  }
  // What the last answer set off in other windows.
  await advance();
}

describe('a session', () => {
  test('shows an edit at once, saves it, and knows what undo would take', async () => {
    const id = server.put(shortTrack());
    const session = await openWindow(id);
    expect(session.edit({ type: 'setWordText', wordId: asWordId('w1'), text: 'Clock' }).ok).toBe(true);
    expect(session.track.words[1]!.text).toBe('Clock');
    expect([session.saveState, session.revision]).toEqual(['saving', 0]);
    await settle(session);
    expect([session.saveState, session.revision]).toEqual(['saved', 1]);
    expect(session.history).toEqual({ undo: server.tracks.history(id).undo, redo: null });
    expect(bytes(server.tracks.get(id).track)).toBe(bytes(session.track));
    session.undo();
    await settle(session);
    expect(session.track.words[1]!.text).toBe('clock');
    expect(session.history.redo).not.toBeNull();
  });

  test('refuses what cannot be done, and nothing has changed', async () => {
    const session = await openWindow(server.put(shortTrack()));
    const before = session.track;
    expect(session.edit({ type: 'setWordText', wordId: asWordId('nobody'), text: 'x' })).toMatchObject({
      ok: false,
      problem: { code: 'unknown_word' }
    });
    expect(session.track).toBe(before);
    expect(session.saveState).toBe('saved');
  });

  test.each<Failure>(['request lost', 'answer lost'])(
    'sends again after: %s; the edit is there once',
    async (failure) => {
      const id = server.put(shortTrack());
      const session = await openWindow(id);
      server.failures = [failure, failure];
      session.edit({ type: 'addCue', ...toSpan({ startMs: 3000, endMs: 4000 }), lines: ['again'] });
      await settle(session);
      expect(server.tracks.get(id).revision).toBe(1);
      expect(server.tracks.get(id).track.cues).toHaveLength(2);
      expect(bytes(session.track)).toBe(bytes(server.tracks.get(id).track));
    }
  );

  test('takes up what a closed window could not send', async () => {
    const id = server.put(shortTrack());
    const first = await openWindow(id);
    server.failures = Array.from({ length: 50 }, () => 'request lost');
    first.edit({ type: 'setWordText', wordId: asWordId('w0'), text: 'A' });
    await vi.waitFor(() => expect(first.saveState).toBe('later'));
    first.close();
    server.failures = [];
    const second = await openWindow(id);
    expect(second.track.words[0]!.text).toBe('A');
    await settle(second);
    expect(server.tracks.get(id).track.words[0]!.text).toBe('A');
  });

  test('an edit whose target another editor removed is kept in a list with its text', async () => {
    const id = server.put(shortTrack());
    const session = await openWindow(id);
    server.failures = ['request lost'];
    session.edit({ type: 'setCueText', cueId: asCueId('c'), lines: ['The clock', 'goes'] });
    server.tracks.applyClientCommands(id, { revision: 0, commands: [{ type: 'removeCue', cueId: asCueId('c') }] });
    await settle(session);
    expect(session.refused).toMatchObject([{ text: 'The clock / goes' }]);
    expect(bytes(session.track)).toBe(bytes(server.tracks.get(id).track));
    await session.dropRefused(session.refused[0]!.batchId);
    expect(session.refused).toEqual([]);
  });
});

describe('what the line answers', () => {
  const write = (session: Session, text: string) => session.edit({ type: 'setWordText', wordId: asWordId('w1'), text });

  test.each<{ name: string; failure: Failure; state: string }>([
    { name: 'sign in', failure: { status: 401, code: 'passphrase_needed' }, state: 'sign in' },
    { name: 'too many', failure: { status: 429, retryAfterSeconds: 2 }, state: 'later' },
    { name: 'a fault', failure: { status: 500 }, state: 'later' },
    { name: 'a proxy that is down', failure: { status: 503 }, state: 'later' },
    { name: 'garbage', failure: 'another page answers', state: 'later' },
    { name: 'nothing', failure: 'request lost', state: 'later' }
  ])('$name: it is said, kept, and sent again until it is done', async ({ failure, state }) => {
    const id = server.put(shortTrack());
    const session = await openWindow(id);
    server.failures = [failure, failure];
    write(session, 'Clock');
    await vi.waitFor(() => expect(session.saveState).toBe(state));
    expect(session.trouble).not.toBeNull();
    expect(session.track.words[1]!.text).toBe('Clock');
    await settle(session);
    expect([session.saveState, session.trouble, session.refused]).toEqual(['saved', null, []]);
    expect(server.tracks.get(id)).toMatchObject({ revision: 1 });
    expect(server.tracks.get(id).track.words[1]!.text).toBe('Clock');
  });

  test.each([413, 422, 400, 404])(
    '%d: it is refused into the list with its text and reason, and can be tried again',
    async (status) => {
      const id = server.put(shortTrack());
      const session = await openWindow(id);
      server.failures = [{ status }];
      write(session, 'Clock');
      await settle(session);
      expect(session.refused).toMatchObject([{ text: 'Clock', reason: `Because of ${status}.` }]);
      expect(session.track.words[1]!.text).toBe('clock');
      expect(await session.tryAgain(session.refused[0]!.batchId)).toMatchObject({ ok: true });
      await settle(session);
      expect(session.refused).toEqual([]);
      expect(server.tracks.get(id).track.words[1]!.text).toBe('Clock');
    }
  );

  test('what waits behind a refused change goes on', async () => {
    const id = server.put(shortTrack());
    const session = await openWindow(id);
    server.failures = [{ status: 422 }];
    write(session, 'lost');
    session.edit({ type: 'setTitle', title: 'Kept' });
    await settle(session);
    expect(session.refused).toHaveLength(1);
    expect(server.tracks.get(id).track.title).toBe('Kept');
  });
});

describe('a browser that keeps nothing', () => {
  test('is told of, and what is done is sent from memory, in order', async () => {
    const id = server.put(shortTrack());
    const { indexedDB: kept } = globalThis;
    vi.stubGlobal('indexedDB', {
      open: () => {
        throw new DOMException('no room', 'QuotaExceededError');
      }
    });
    vi.resetModules();
    const { TrackSession: Unkept } = await import('../../src/lib/client/session/track-session.svelte');
    const session = await Unkept.open(asTrackId(id));
    open.push(session);
    server.failures = ['request lost'];
    session.edit({
      type: 'addCue',
      ...toSpan({ startMs: 3000, endMs: 4000 }),
      lines: ['first'],
      newCueId: asCueId('n')
    });
    session.edit({ type: 'setCueText', cueId: asCueId('n'), lines: ['then this'] });
    await settle(session);
    expect(session.notKept).toContain('no room');
    expect(server.tracks.get(id).revision).toBe(2);
    expect(bytes(session.track)).toBe(bytes(server.tracks.get(id).track));
    vi.stubGlobal('indexedDB', kept);
    vi.resetModules();
  });
});

describe('what an earlier version left in the queue', () => {
  async function putRows(...rows: object[]): Promise<void> {
    const db = await openDB('vinetap', 1);
    for (const row of rows) await db.add('queue', row);
    db.close();
  }

  test('is sent where it can be read, else shown; it never keeps a track from opening', async () => {
    const id = server.put(shortTrack());
    await openWindow(id);
    closeAll();
    const edits = [{ type: 'setWordText', wordId: 'w1', text: 'Clock', atMs: 5 }];
    await putRows(
      { kind: 'edits', trackId: id, batchId: '00000000-0000-4000-8000-000000000001', edits },
      { kind: 'edits', trackId: id, batchId: 'x', edits: [{ type: 'melt', wordId: 'w2' }] },
      { what: 'nobody knows', trackId: id }
    );
    const session = await openWindow(id);
    await settle(session);
    expect(server.tracks.get(id).track.words[1]!.text).toBe('Clock');
    const texts = session.refused.map(({ text }) => text).join();
    for (const text of ['melt', 'nobody knows']) expect(texts).toContain(text);
    expect(session.refused.every(({ commands }) => commands === null)).toBe(true);
  });
});

describe('text being typed', () => {
  const typing = (text: string) => ({
    commands: [{ type: 'setCueText' as const, cueId: asCueId('c'), lines: [text] }],
    text
  });

  test('goes into the track before anything else is done', async () => {
    const session = await openWindow(server.put(shortTrack()));
    let text: string | null = 'the clock stops';
    const draft = session.draft('cue', () => {
      if (text !== null) draft.commit(typing(text));
      text = null;
    });
    session.edit({ type: 'setTitle', title: 'Other' });
    expect(plainLines(session.track, session.track.cues[0]!)).toEqual(['the clock stops']);
    await settle(session);
    session.undo();
    session.undo();
    await settle(session);
    expect(plainLines(session.track, session.track.cues[0]!)).toEqual(['the clock lets go']);
  });

  test('is taken up again by the next window, once, when its own is gone at any key', async () => {
    const id = server.put(shortTrack());
    const session = await openWindow(id);
    const draft = session.draft('cue', () => undefined);
    draft.mirror(typing('the clock st'));
    draft.mirror(typing('the clock stops'));
    // Gone without a word, as when the power fails.
    vi.resetModules();
    const { TrackSession: Later } = await import('../../src/lib/client/session/track-session.svelte');
    forgetLocks('vinetap:window:');
    const later = await Later.open(asTrackId(id));
    open.push(later);
    expect(plainLines(later.track, later.track.cues[0]!)).toEqual(['the clock stops']);
    await settle(later);
    expect(server.tracks.get(id).revision).toBe(1);
    const third = await openWindow(id);
    await settle(third);
    expect(server.tracks.get(id).revision).toBe(1);
  });

  test('of a living window is left to it', async () => {
    const id = server.put(shortTrack());
    const session = await openWindow(id);
    session.draft('cue', () => undefined).mirror(typing('half a'));
    const other = await openWindow(id);
    expect(plainLines(other.track, other.track.cues[0]!)).toEqual(['the clock lets go']);
  });

  test('whose cue somebody else removed is kept in the list', async () => {
    const id = server.put(shortTrack());
    const session = await openWindow(id);
    const draft = session.draft('cue', () => undefined);
    draft.mirror(typing('what I typed'));
    server.tracks.applyClientCommands(id, { revision: 0, commands: [{ type: 'removeCue', cueId: asCueId('c') }] });
    await vi.waitFor(() => expect(session.track.cues).toEqual([]));
    expect(draft.commit(typing('what I typed')).ok).toBe(false);
    await vi.waitFor(() => expect(session.refused).toMatchObject([{ text: 'what I typed' }]));
  });
});

type Step =
  | {
      readonly kind: 'edit';
      readonly by: 'first window' | 'second window' | 'another editor';
      readonly seed: CommandSeed;
    }
  | { readonly kind: 'undo' | 'redo'; readonly by: 'first window' | 'second window' }
  | { readonly kind: 'fail'; readonly failure: Failure }
  | { readonly kind: 'wait' };

const anyStep: fc.Arbitrary<Step> = fc.oneof(
  {
    weight: 6,
    arbitrary: fc.record({
      kind: fc.constant('edit' as const),
      by: fc.constantFrom('first window' as const, 'second window' as const, 'another editor' as const),
      seed: anyClientCommandSeed
    })
  },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constantFrom('undo' as const, 'redo' as const),
      by: fc.constantFrom('first window' as const, 'second window' as const)
    })
  },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constant('fail' as const),
      failure: fc.constantFrom<Failure>('request lost', 'answer lost')
    })
  },
  { weight: 2, arbitrary: fc.constant({ kind: 'wait' as const }) }
);

test('whatever two windows and another editor do over a failing line, all end with the server’s bytes and no edit is lost or doubled', async () => {
  let made = 0;
  await fc.assert(
    fc.asyncProperty(anyTrack, fc.array(anyStep, { minLength: 3, maxLength: 25 }), async (track, steps) => {
      vi.stubGlobal('indexedDB', new IDBFactory());
      const id = server.put(track);
      const windows = { 'first window': await openWindow(id), 'second window': await openWindow(id) };
      const batches = new Set<string>();
      const queued = vi.spyOn(crypto, 'randomUUID');
      let count = 0;
      for (const [at, step] of steps.entries()) {
        if (step.kind === 'wait') await advance();
        else if (step.kind === 'fail') server.failures.push(step.failure);
        else if (step.kind !== 'edit') windows[step.by][step.kind]();
        else {
          // Ids as minted by each: no two editors mint the same.
          const seed = { ...step.seed, mint: `${step.seed.mint}-${at}` };
          if (step.by === 'another editor') {
            const { track: now, revision } = server.tracks.get(id);
            try {
              server.tracks.applyClientCommands(id, {
                revision,
                commands: [commandFromSeed(now, seed) as ClientCommand]
              });
              count++;
            } catch {
              // Refused: nothing of it is in the log.
            }
          } else if (windows[step.by].edit(commandFromSeed(windows[step.by].track, seed)).ok) {
            count++;
            batches.add(queued.mock.results.at(-1)!.value as string);
          }
        }
      }
      queued.mockRestore();
      server.failures = [];
      await settle(...Object.values(windows));
      made += count;

      const { track: kept, revision } = server.tracks.get(id);
      for (const [name, session] of Object.entries(windows)) {
        expect(session.revision, name).toBe(revision);
        expect(bytes(session.track), name).toBe(bytes(kept));
      }
      const logged = server.tracks.entriesAfter(id, 0).entries.map(({ batchId }) => batchId);
      const rejected = windows['first window'].refused.map(({ batchId }) => batchId);
      for (const batchId of batches) {
        const times = logged.filter((one) => one === batchId).length + rejected.filter((one) => one === batchId).length;
        expect(times, 'in the log or in the list of what could not be applied').toBe(1);
      }
      closeAll();
    }),
    { numRuns: 150 }
  );
  expect(made).toBeGreaterThan(400);
});
