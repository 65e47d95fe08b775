import { expect, test } from 'vitest';
import { tempDatabase, tempFolder, putRecording } from '../testing/temp-database';
import { FolderInUse, openDatabase } from './database';
import { RecordingStore } from './recordings';

test('a folder is opened again with what it holds, its migrations done once', () => {
  const folder = tempFolder();
  const first = tempDatabase(folder);
  putRecording(first);
  const version = first.pragma('user_version', { simple: true });
  first.close();
  const again = openDatabase(folder);
  expect(again.pragma('user_version', { simple: true })).toBe(version);
  expect(new RecordingStore(again).find('r')).toMatchObject({ title: 'Merrowby clock', hasSpeechMap: false });
  expect(again.pragma('foreign_keys', { simple: true })).toBe(1);
  expect(again.pragma('journal_mode', { simple: true })).toBe('wal');
  again.close();
});

test('a folder of a newer version is left alone', () => {
  const folder = tempFolder();
  const db = tempDatabase(folder);
  db.pragma('user_version = 9999');
  db.close();
  expect(() => openDatabase(folder)).toThrow(/newer Vine Tap \(schema 9999/);
});

test('a folder has one owner until it lets go', () => {
  const folder = tempFolder();
  const mine = openDatabase(folder);
  expect(() => openDatabase(folder)).toThrow(FolderInUse);
  mine.close();
  openDatabase(folder).close();
});

test('the bin holds what was put into it, apart from what is in use', () => {
  const db = tempDatabase();
  const store = new RecordingStore(db);
  putRecording(db, 'a');
  putRecording(db, 'b');
  store.setBinned('a', 5);
  expect(store.list({ isBinned: false }).map(({ id }) => id)).toEqual(['b']);
  expect(store.list({ isBinned: true }).map(({ id, binnedAtMs }) => [id, binnedAtMs])).toEqual([['a', 5]]);
  store.setBinned('a', null);
  expect(store.list({ isBinned: false })).toHaveLength(2);
  db.close();
});
