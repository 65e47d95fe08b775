import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { applyChanges } from '../changes';
import { findBrokenInvariant, type Track } from '../track';
import { openCommands, openTrack, openUnsent, raiseLog, TRACK_FORM } from '.';

interface Kept {
  readonly snapshots: { revision: number; document: unknown }[];
  readonly entries: { revision: number; kind: string; edits: unknown }[];
  readonly queue: { kind: string; edits?: unknown }[];
  readonly last: unknown;
}

/** A log as the first form kept it: every kind of edit, undone and done again, with a snapshot on the way. */
const kept = JSON.parse(readFileSync(new URL('fixtures/form-1.json', import.meta.url), 'utf8')) as Kept;

const snapshots = new Map(kept.snapshots.map(({ revision, document }) => [revision, openTrack(1, document)]));
const bytes = (track: Track): string => JSON.stringify(track);

test('a log of the first form opens as it was left, each entry as changes that go there and back', () => {
  const draft = snapshots.get(0)!;
  expect(draft.cues[0]).toMatchObject({
    placement: 'top left',
    carried: { format: 'vtt', settings: 'line:0 position:20%' }
  });
  expect(draft.carried).toMatchObject({ format: 'vtt', header: '- made by hand' });
  const raised = raiseLog(draft, kept.entries, snapshots);
  expect(raised.problem).toBeNull();
  expect(raised.entries).toHaveLength(kept.entries.length);
  expect(bytes(raised.track)).toBe(bytes(openTrack(1, kept.last)));
  expect(findBrokenInvariant(raised.track)).toBeNull();
  let { track } = raised;
  for (const { inverse } of [...raised.entries].reverse()) {
    const undone = applyChanges(track, inverse);
    if (!undone.ok) throw new Error(undone.problem.message);
    track = undone.value.document;
  }
  expect(bytes(track)).toBe(bytes(draft));
});

test('what a snapshot holds is what the track was, whatever its edits would make of it today', () => {
  const [draft, taken] = kept.snapshots.map(({ document }) => openTrack(1, document)) as [Track, Track];
  const { revision } = kept.snapshots[1]!;
  const other = { ...taken, title: 'As it was then' };
  const { track, problem } = raiseLog(draft, kept.entries.slice(0, revision), new Map([[revision, other]]));
  expect(problem).toBeNull();
  expect(bytes(track)).toBe(bytes(other));
});

test('an entry that can be read no more ends the log ahead of it', () => {
  const broken = kept.entries.map((entry) => (entry.revision === 5 ? { ...entry, edits: [{ type: 'melt' }] } : entry));
  const raised = raiseLog(snapshots.get(0)!, broken, new Map());
  expect(raised.entries.map(({ revision }) => revision)).toEqual([1, 2, 3, 4]);
  expect(raised.problem).toBeInstanceOf(Error);
});

test('what waited to be sent in the first form can still be sent', () => {
  const [edits] = kept.queue;
  expect(openUnsent(1, edits!.edits).map(({ type }) => type)).toEqual(['setWordText', 'setCuePlacement']);
  expect(openCommands(1, kept.entries[0]!.edits)).not.toHaveLength(0);
  expect(() => openUnsent(TRACK_FORM + 1, [])).toThrow('newer');
});
