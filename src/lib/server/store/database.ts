/** The database: one SQLite file in the data folder, numbered migrations, one owner at a time. */
import { join } from 'node:path';
import Database from 'better-sqlite3';
import foundation from './migrations/001-foundation.sql?raw';
import vocabulary from './migrations/002-vocabulary.sql?raw';
import proxies from './migrations/003-proxies.sql?raw';
import hearingOn from './migrations/004-hearing-on.sql?raw';
import reading from './migrations/005-reading.sql?raw';
import ruleSets from './migrations/006-rule-sets.sql?raw';
import cuts from './migrations/007-cuts.sql?raw';
import documents from './migrations/008-documents.sql?raw';
import jobs from './migrations/009-jobs.sql?raw';
import library from './migrations/010-library.sql?raw';
import looks from './migrations/011-looks.sql?raw';
import checks from './migrations/012-checks.sql?raw';
import handedOver from './migrations/013-handed-over.sql?raw';
import destinations from './migrations/014-destinations.sql?raw';
import publishing from './migrations/015-publishing.sql?raw';
import trims from './migrations/016-trims.sql?raw';
import narrations from './migrations/017-narrations.sql?raw';
import translating from './migrations/018-translating.sql?raw';

export type Db = Database.Database;

/** In order; one that has landed is never changed. */
const MIGRATIONS: readonly string[] = [
  foundation,
  vocabulary,
  proxies,
  hearingOn,
  reading,
  ruleSets,
  cuts,
  documents,
  jobs,
  library,
  looks,
  checks,
  handedOver,
  destinations,
  publishing,
  trims,
  narrations,
  translating
];

/** Says in one sentence that the data folder has an owner already. */
export class FolderInUse extends Error {}

/** The database's file in its folder. */
export const DATABASE = 'vinetap.sqlite';

/** For this process alone, until it ends, however it ends: the lock is the operating system's, on the file itself. Throws `FolderInUse`. */
export function openDatabase(folder: string): Db {
  const db = new Database(join(folder, DATABASE), { timeout: 0 });
  try {
    // Ahead of the first look into the file: from then on it is nobody else's.
    db.pragma('locking_mode = EXCLUSIVE');
    db.pragma('journal_mode = WAL');
    db.exec('BEGIN EXCLUSIVE; COMMIT');
  } catch (cause) {
    db.close();
    if (!(cause instanceof Database.SqliteError) || !cause.code.startsWith('SQLITE_BUSY')) throw cause;
    throw new FolderInUse(
      `Another Vine Tap server is using the data folder ${folder}; stop it, or set VINETAP_DATA to another folder.`,
      { cause }
    );
  }
  db.pragma('synchronous = FULL');
  db.pragma('foreign_keys = ON');
  db.function('fold', { deterministic: true }, (text: unknown) => fold(String(text)));
  migrate(db);
  return db;
}

/** As texts are compared and sorted in lists: without case and without accents. */
const fold = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/\p{Mn}/gu, '')
    .toLowerCase();

function migrate(db: Db): void {
  const at = db.pragma('user_version', { simple: true }) as number;
  if (at > MIGRATIONS.length)
    throw new Error(
      `The data folder was written by a newer Vine Tap (schema ${at}, this one knows ${MIGRATIONS.length}).`
    );
  MIGRATIONS.slice(at).forEach((sql, step) => {
    db.transaction(() => {
      db.exec(sql);
      db.pragma(`user_version = ${at + step + 1}`);
    })();
  });
}
