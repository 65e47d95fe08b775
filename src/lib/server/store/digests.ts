/** What is read off tracks behind their edits: what they say, and how much of it breaks their rules. */
import { z } from 'zod';
import type { Db } from './database';

const idRow = z.object({ id: z.string() });
const contentRow = z.object({ content: z.string().nullable() });
const countRow = z.object({ count: z.number() });

const STALE = `FROM tracks LEFT JOIN track_digests ON track_id = tracks.id
  WHERE track_digests.revision IS NULL OR track_digests.revision <> tracks.revision`;

/** Below this many characters the index of spoken text has nothing. */
export const INDEXED_LENGTH = 3;

/** A text as the index looks for it: to the letter, whatever its case and accents. */
export const phrase = (text: string): string => `"${text.replaceAll('"', '""')}"`;

export interface Digest {
  readonly revision: number;
  readonly findingCount: number;
  /** `null` where the track could not be read. */
  readonly text: string | null;
  /** A hash of all that files can say of it; `null` likewise. */
  readonly content: string | null;
}

export class DigestStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  /** Tracks whose digest is not that of their present revision, those edited last first. */
  stale(most: number): string[] {
    return this.#db
      .prepare(`SELECT tracks.id ${STALE} ORDER BY edited_at_ms DESC LIMIT ?`)
      .all(most)
      .map((row) => idRow.parse(row).id);
  }
  /** Tracks that may say a text, whatever its case and accents: those that do, and those of which it is not known. */
  maySay(text: string): ReadonlySet<string> {
    const saying = this.#db
      .prepare(
        `SELECT track_id AS id FROM track_digests
         WHERE is_readable = 0 OR id IN (SELECT rowid FROM track_texts WHERE track_texts MATCH ?)`
      )
      .all(phrase(text))
      .map((row) => idRow.parse(row).id);
    return new Set([...saying, ...this.stale(-1)]);
  }
  countStale(): number {
    return countRow.parse(this.#db.prepare(`SELECT count(*) AS count ${STALE}`).get()).count;
  }

  /** What was read off the track is to be read again, though it is the same. */
  forget(trackId: string): void {
    this.#db.prepare('UPDATE track_digests SET revision = -1 WHERE track_id = ?').run(trackId);
  }

  /** Of the track as it is at a revision; `null` where that was not read yet. */
  contentAt(trackId: string, revision: number): string | null {
    const row = this.#db
      .prepare('SELECT content FROM track_digests WHERE track_id = ? AND revision = ?')
      .get(trackId, revision);
    return row === undefined ? null : contentRow.parse(row).content;
  }

  put(trackId: string, { revision, findingCount, text, content }: Digest): void {
    this.#db
      .prepare(
        `INSERT INTO track_digests (track_id, revision, finding_count, is_readable, text, content) VALUES (?, ?, ?, ?, ?, ?)
         ON CONFLICT (track_id) DO UPDATE SET revision = excluded.revision, finding_count = excluded.finding_count,
           is_readable = excluded.is_readable, text = excluded.text, content = excluded.content`
      )
      .run(trackId, revision, findingCount, text === null ? 0 : 1, text ?? '', content);
  }
}
