import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { putRecording, tempFolder } from '../testing/temp-database';
import { ARRIVING, FolderRefusal, openFolder } from './data-folder';
import { DATABASE, FolderInUse } from './database';

let folder: string;
beforeEach(() => {
  folder = tempFolder();
  vi.spyOn(console, 'warn').mockImplementation(() => undefined);
});
afterEach(() => void vi.unstubAllEnvs());

const put = (...path: string[]): void => {
  mkdirSync(dirname(join(folder, ...path)), { recursive: true });
  writeFileSync(join(folder, ...path), 'somebody’s');
};
const has = (...path: string[]): boolean => existsSync(join(folder, ...path));
const inside = (...path: string[]): string[] => (has(...path) ? readdirSync(join(folder, ...path)) : []);

/** A folder that a server has used, with a recording. */
function used(...ids: string[]): void {
  const db = openFolder(folder);
  for (const id of ids) {
    putRecording(db, id);
    put('recordings', id, 'media');
  }
  db.close();
}

test('a folder that holds somebody else’s media is refused, and stays as it is', () => {
  put('recordings', 'holiday', 'film.mp4');
  put('uploads', 'letter.txt');
  expect(() => openFolder(folder)).toThrow(/choose another folder/);
  expect([has('recordings', 'holiday', 'film.mp4'), has('uploads', 'letter.txt'), has(DATABASE)]).toEqual([
    true,
    true,
    false
  ]);
});

test('other files beside ours are nobody’s business', () => {
  put('notes.txt');
  used('r');
  used();
  expect([has('notes.txt'), has('recordings', 'r', 'media')]).toEqual([true, true]);
});

test.each<[string, (db: string) => void]>([
  ['that is gone', (db) => rmSync(db)],
  [
    'that is empty',
    (db) => {
      rmSync(db);
      const other = tempFolder();
      openFolder(other).close();
      writeFileSync(db, readFileSync(join(other, DATABASE)));
    }
  ]
])('a database %s is a question: nothing of the media is touched', (_, change) => {
  used('r');
  change(join(folder, DATABASE));
  expect(() => openFolder(folder)).toThrow(FolderRefusal);
  expect(has('recordings', 'r', 'media')).toBe(true);
});

test('a database that is older than the media is a question, which can be answered', () => {
  used('r');
  put('recordings', 'later', 'media');
  expect(() => openFolder(folder)).toThrow(/does not know 1 of the folders/);
  expect(has('recordings', 'later', 'media')).toBe(true);
  vi.stubEnv('VINETAP_UNKNOWN_MEDIA', 'aside');
  openFolder(folder).close();
  expect(inside('recordings')).toEqual(['r']);
  const aside = inside('set-aside').filter((name) => name !== 'note.txt');
  expect(aside).toEqual([expect.stringMatching(/^later-/)]);
  expect(inside('set-aside', aside[0]!)).toEqual(['media']);
  expect(readFileSync(join(folder, 'set-aside', 'note.txt'), 'utf8')).toContain('recordings/later');
});

test('uploads and copies that were never ended go; what is not ours among them is moved aside', () => {
  used('r');
  const upload = '11111111-2222-4333-8444-555555555555';
  put('uploads', upload);
  put('uploads', 'letter.txt');
  put('recordings', 'r', 'proxy.1.part');
  put('recordings', 'half', ARRIVING);
  used();
  expect(inside('uploads')).toEqual([]);
  expect(inside('recordings', 'r')).toEqual(['media']);
  expect(inside('set-aside').sort()).toEqual([
    expect.stringMatching(/^half-/),
    expect.stringMatching(/^letter\.txt-/),
    'note.txt'
  ]);
});

test('a database of another folder is told from its own', () => {
  used('r');
  const other = tempFolder();
  openFolder(other).close();
  writeFileSync(join(folder, 'vine-tap.json'), readFileSync(join(other, 'vine-tap.json')));
  expect(() => openFolder(folder)).toThrow(/belongs to another folder/);
});

test('a folder has one owner, whatever is deleted beside its database', () => {
  const mine = openFolder(folder);
  for (const name of inside()) if (name !== DATABASE) rmSync(join(folder, name), { recursive: true });
  expect(() => openFolder(folder)).toThrow(FolderInUse);
  mine.close();
});
