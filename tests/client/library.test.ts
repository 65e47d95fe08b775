import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { LibraryQuery, ListedRecording } from '../../src/lib/client/api';

/** What the server holds, and what it was asked. */
let held: { id: string; title: string }[] = [];
let asked: { query: LibraryQuery; offset: number }[] = [];
let failing = false;
let behind = 0;
/** Answers wait for this where a test says so. */
let gate: Promise<void> = Promise.resolve();

const listed = ({ text, isReversed }: LibraryQuery) => {
  const found = held.filter(({ title }) => title.includes(text));
  return isReversed ? found.toReversed() : found;
};
vi.mock('../../src/lib/client/api', () => ({
  api: {
    library: async (query: LibraryQuery, { offset, limit }: { offset: number; limit: number }) => {
      asked.push({ query, offset });
      const answer = listed(query);
      await gate;
      if (failing) throw new Error('The server cannot be reached.');
      return {
        recordings: answer.slice(offset, offset + limit) as unknown as ListedRecording[],
        ...{ total: answer.length, languages: ['en'], notSearchedYet: behind }
      };
    },
    libraryIds: (query: LibraryQuery) => Promise.resolve(listed(query).map(({ id }) => id)),
    projects: () => Promise.resolve([{ id: 'p', name: 'The tower', recordingCount: 2 }])
  }
}));
const { Library } = await import('../../src/lib/client/library.svelte');

beforeEach(() => {
  vi.useFakeTimers();
  held = Array.from({ length: 230 }, (_, at) => ({
    id: `r${at}`,
    title: at % 10 === 0 ? `Bell ${at}` : `Clock ${at}`
  }));
  [asked, failing, behind, gate] = [[], false, 0, Promise.resolve()];
});
afterEach(() => vi.useRealTimers());

/** Lets everything that waits, by time or for an answer, go on. */
const settled = (): Promise<unknown> => vi.advanceTimersByTimeAsync(1000);
async function opened(): Promise<InstanceType<typeof Library>> {
  const library = new Library();
  library.refresh({ isSoon: false });
  await settled();
  return library;
}
const chosen = (library: InstanceType<typeof Library>): string[] => [...library.chosen];
const click = { shiftKey: false, ctrlKey: false };

describe('pages', () => {
  test('are fetched as rows come into sight, each once; rows elsewhere are not there yet', async () => {
    const library = await opened();
    expect(library.total).toBe(230);
    expect(library.row(3)?.id).toBe('r3');
    expect(library.row(120)).toBeNull();
    library.see(90, 110);
    await settled();
    expect(library.row(90)?.id).toBe('r90');
    expect(library.row(110)?.id).toBe('r110');
    library.see(95, 105);
    await settled();
    expect(asked.map(({ offset }) => offset)).toEqual([0, 50, 100]);
    library.see(220, 229);
    await settled();
    expect(library.row(229)?.id).toBe('r229');
    expect(library.row(230)).toBeNull();
  });

  test('in sight are fetched anew when something changes; what is there stands until they come', async () => {
    const library = await opened();
    library.see(60, 80);
    await settled();
    held = held.slice(1);
    let open = (): void => undefined;
    gate = new Promise((resolve) => (open = resolve));
    for (let change = 0; change < 5; change++) library.refresh();
    await settled();
    expect(library.row(60)?.id).toBe('r60');
    open();
    await settled();
    expect(library.row(60)?.id).toBe('r61');
    expect(library.total).toBe(229);
    // Five changes are one request; pages out of sight are forgotten, for they may be old.
    expect(asked.filter(({ offset }) => offset === 50)).toHaveLength(2);
    expect(library.row(0)).toBeNull();
    expect(library.projects.map(({ name }) => name)).toEqual(['The tower']);
  });

  test('that come late, for what is no longer looked for, are not shown', async () => {
    const library = await opened();
    let open = (): void => undefined;
    gate = new Promise((resolve) => (open = resolve));
    library.look({ text: 'Clock' });
    await settled();
    gate = Promise.resolve();
    library.look({ text: 'Bell' });
    await settled();
    expect(library.row(0)?.title).toBe('Bell 0');
    open();
    await settled();
    expect(library.row(0)?.title).toBe('Bell 0');
    expect(library.total).toBe(23);
  });

  test('that fail say why, and the next that come take that back', async () => {
    const library = await opened();
    failing = true;
    library.refresh();
    await settled();
    expect(library.failure).toBe('The server cannot be reached.');
    expect(library.row(0)?.id).toBe('r0');
    failing = false;
    library.refresh();
    await settled();
    expect(library.failure).toBeNull();
  });
});

describe('looking', () => {
  test('begins at the first row, lets go of what was chosen, and keeps the order when everything is shown again', async () => {
    const library = await opened();
    await library.choose(7, click);
    library.look({ isReversed: true });
    await settled();
    expect(library.row(0)?.id).toBe('r229');
    expect([library.at, library.chosen.size, library.isNarrowed]).toEqual([0, 0, false]);
    library.look({ text: 'Bell' });
    expect(library.isNarrowed).toBe(true);
    await settled();
    library.lookAtAll();
    await settled();
    expect(library.query).toMatchObject({ text: '', isReversed: true });
    expect(library.total).toBe(230);
  });

  test('goes on until what was edited just now is searched too', async () => {
    const library = await opened();
    behind = 3;
    library.look({ text: 'Bell' });
    await vi.advanceTimersByTimeAsync(200);
    expect(library.notSearchedYet).toBe(3);
    const before = asked.length;
    behind = 0;
    await settled();
    expect(asked.length).toBeGreaterThan(before);
    expect(library.notSearchedYet).toBe(0);
  });
});

describe('choosing', () => {
  test('is as in any list: a click one, Shift a range from there, Ctrl one more or one less', async () => {
    const library = await opened();
    await library.choose(4, click);
    await library.choose(9, click);
    expect(chosen(library)).toEqual(['r9']);
    await library.choose(6, { shiftKey: true, ctrlKey: false });
    expect(chosen(library)).toEqual(['r6', 'r7', 'r8', 'r9']);
    // The range is from the row that was clicked, wherever Shift went before.
    await library.choose(11, { shiftKey: true, ctrlKey: false });
    expect(chosen(library)).toEqual(['r9', 'r10', 'r11']);
    await library.choose(10, { shiftKey: false, ctrlKey: true });
    await library.choose(1, { shiftKey: false, ctrlKey: true });
    expect(chosen(library)).toEqual(['r9', 'r11', 'r1']);
    library.letGo();
    expect(chosen(library)).toEqual([]);
  });

  test('reaches over pages that were never seen, and all of what is looked for', async () => {
    const library = await opened();
    await library.choose(2, click);
    library.see(200, 210);
    await settled();
    await library.choose(205, { shiftKey: true, ctrlKey: false });
    expect(library.chosen.size).toBe(204);
    expect(library.chosen.has('r120')).toBe(true);
    library.look({ text: 'Bell' });
    await settled();
    await library.chooseAll();
    expect(library.chosen.size).toBe(23);
  });

  test('a row that is not there yet chooses nothing', async () => {
    const library = await opened();
    await library.choose(3, click);
    await library.choose(180, click);
    expect(chosen(library)).toEqual(['r3']);
    expect(library.at).toBe(3);
  });
});
