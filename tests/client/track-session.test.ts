import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { ClientEdit } from '../../src/lib/core/edits';
import { anyClientEditSeed, anyTrack, editFromSeed, type EditSeed } from '../../src/lib/core/testing/any-track';
import { makeCue, makeTrack, makeWord, type Track } from '../../src/lib/core/track';
import { FakeServer, installBrowser, type Failure } from './browser';

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
  const session = await TrackSession.open(id);
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
    expect(session.edit({ type: 'setWordText', wordId: 'w1', text: 'Clock' })).toBe(true);
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
    expect(session.edit({ type: 'setWordText', wordId: 'nobody', text: 'x' })).toBe(false);
    expect(session.track).toBe(before);
    expect(session.saveState).toBe('saved');
  });

  test.each<Failure>(['request lost', 'answer lost'])(
    'sends again after: %s; the edit is there once',
    async (failure) => {
      const id = server.put(shortTrack());
      const session = await openWindow(id);
      server.failures = [failure, failure];
      session.edit({ type: 'addCue', startMs: 3000, endMs: 4000, lines: ['again'] });
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
    first.edit({ type: 'setWordText', wordId: 'w0', text: 'A' });
    await vi.waitFor(() => expect(first.saveState).toBe('unreachable'));
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
    session.edit({ type: 'setCueText', cueId: 'c', lines: ['The clock', 'goes'] });
    server.tracks.applyClientEdits(id, { revision: 0, edits: [{ type: 'removeCue', cueId: 'c' }] });
    await settle(session);
    expect(session.rejected).toMatchObject([{ text: 'The clock / goes' }]);
    expect(bytes(session.track)).toBe(bytes(server.tracks.get(id).track));
    await session.dropRejected(session.rejected[0]!.batchId);
    expect(session.rejected).toEqual([]);
  });
});

type Step =
  | {
      readonly kind: 'edit';
      readonly by: 'first window' | 'second window' | 'another editor';
      readonly seed: EditSeed;
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
      seed: anyClientEditSeed
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
              server.tracks.applyClientEdits(id, { revision, edits: [editFromSeed(now, seed) as ClientEdit] });
              count++;
            } catch {
              // Refused: nothing of it is in the log.
            }
          } else if (windows[step.by].edit(editFromSeed(windows[step.by].track, seed) as ClientEdit)) {
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
      const logged = server.store.entriesAfter(id, 0).map(({ batchId }) => batchId);
      const rejected = windows['first window'].rejected.map(({ batchId }) => batchId);
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
