/** A database in a folder of its own, for tests. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll } from 'vitest';
import { openDatabase, type Db } from '../store/database';
import { RecordingStore } from '../store/recordings';

const folders: string[] = [];
afterAll(() => folders.splice(0).forEach((folder) => rmSync(folder, { recursive: true, force: true })));

export function tempFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'vinetap-unit-'));
  folders.push(folder);
  return folder;
}

export function tempDatabase(folder = tempFolder()): Db {
  return openDatabase(folder);
}

/** A recording for tracks and jobs to belong to. */
export function putRecording(db: Db, id = 'r'): void {
  new RecordingStore(db).insert({
    id,
    title: 'Merrowby clock',
    state: 'ready',
    hasProxy: false,
    cutOf: null,
    durationMs: 60_000,
    media: {
      mime: 'audio/wav',
      hasVideo: false,
      width: null,
      height: null,
      frameRate: null,
      channels: 1,
      sampleRate: 16_000,
      bytes: 100
    },
    createdAtMs: 1
  });
}
