import { afterEach, expect, test, vi } from 'vitest';
import type { Recording } from '../../src/lib/client/api';

interface Sending {
  readonly file: File;
  readonly cutOf: string | null;
  readonly signal: AbortSignal;
  readonly onProgress: (share: number) => void;
  readonly onBroken: () => void;
  readonly end: (error?: Error) => void;
}
const sending: Sending[] = [];
let stored: { key: string; name: string; bytes: number; share: number }[] = [];
const dropped: string[] = [];
vi.mock('../../src/lib/client/sending', () => ({
  findInterrupted: () => Promise.resolve(stored),
  dropInterrupted: (key: string) => Promise.resolve(void dropped.push(key)),
  sendFile: (file: File, options: Pick<Sending, 'cutOf' | 'signal' | 'onProgress' | 'onBroken'>) =>
    new Promise<Pick<Recording, 'title'>>((resolve, reject) => {
      options.signal.addEventListener('abort', () => reject(new DOMException('Aborted', 'AbortError')));
      const end = (error?: Error): void => (error === undefined ? resolve({ title: file.name }) : reject(error));
      sending.push({ file, ...options, end });
    })
}));
const { uploads } = await import('../../src/lib/client/uploads.svelte');

const states = (): string[] => uploads.list.map(({ name, state }) => `${name} ${state}`);
const settled = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));
const files = (...names: string[]): File[] => names.map((name) => new File(['sound'], name));
afterEach(() => {
  for (const { key } of uploads.list) uploads.dismiss(key);
  sending.length = 0;
});

test('files dropped together are listed at once and sent one after the other', async () => {
  uploads.add(files('a.wav', 'b.wav', 'c.wav'), 'earlier');
  expect(states()).toEqual(['a.wav sending', 'b.wav waiting', 'c.wav waiting']);
  expect(sending[0]!.cutOf).toBe('earlier');
  sending[0]!.onProgress(0.5);
  expect(uploads.list[0]!.progress).toBe(0.5);
  for (const at of [0, 1, 2]) {
    sending[at]!.end();
    await settled();
  }
  expect(states()).toEqual(['a.wav done', 'b.wav done', 'c.wav done']);
  expect(uploads.unfinished).toEqual([]);
});

test('one is refused or cancelled alone, and the others go on', async () => {
  uploads.add(files('a.wav', 'b.wav', 'c.wav', 'd.wav'));
  sending[0]!.end(new Error('It holds no sound.'));
  await settled();
  uploads.cancel(uploads.list[2]!.key);
  expect(states()).toEqual(['a.wav refused', 'b.wav sending', 'd.wav waiting']);
  expect(uploads.list[0]!.problem).toBe('It holds no sound.');
  uploads.cancel(uploads.list[1]!.key);
  await settled();
  expect(sending[1]!.signal.aborted).toBe(true);
  expect(states()).toEqual(['a.wav refused', 'd.wav sending']);
  sending[2]!.end();
  await settled();
  expect(sending).toHaveLength(3);
  expect(states()).toEqual(['a.wav refused', 'd.wav done']);
});

test('a lost connection is said and goes on; what an earlier window began goes on when its file is chosen again', async () => {
  stored = [
    { key: 'one', name: 'a.wav', bytes: 5, share: 0.4 },
    { key: 'two', name: 'b.wav', bytes: 5, share: 0.6 }
  ];
  await uploads.look();
  await uploads.look();
  expect(states()).toEqual(['a.wav interrupted', 'b.wav interrupted']);
  expect(uploads.unfinished).toEqual([]);
  // Another file of that name is another upload.
  uploads.add([new File(['longer'], 'a.wav')]);
  expect(states()).toEqual(['a.wav interrupted', 'b.wav interrupted', 'a.wav sending']);
  uploads.add(files('b.wav'));
  expect(states()).toEqual(['a.wav interrupted', 'a.wav sending', 'b.wav waiting']);
  expect(uploads.list[2]!.progress).toBe(0.6);
  sending[0]!.onProgress(0.2);
  sending[0]!.onBroken();
  expect(states()[1]).toBe('a.wav broken');
  expect(uploads.unfinished).toHaveLength(2);
  sending[0]!.onProgress(0.3);
  expect(states()[1]).toBe('a.wav sending');
  sending[0]!.end();
  await settled();
  sending[1]!.end();
  await settled();
  uploads.cancel(uploads.list[0]!.key);
  expect(dropped).toEqual(['one']);
  expect(states()).toEqual(['a.wav done', 'b.wav done']);
});
