/** A database in a folder of its own, for tests. */
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openDatabase, type Db } from '../store/database';
import { RecordingStore } from '../store/recordings';

export const tempFolder = (): string => mkdtempSync(join(tmpdir(), 'vinetap-unit-'));

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
