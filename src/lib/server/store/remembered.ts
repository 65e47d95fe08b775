/** What was translated by hand, in all tracks: found again by its words. */
import { z } from 'zod';
import type { Db } from './database';
import { languagesOf, type LanguagePair } from './glossary';

const rememberedRow = z.object({ source: z.string(), target: z.string() });
const staleRow = z.object({ id: z.string() });

export class RememberedStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  /** Translations between two languages that say something else since they were remembered, the bin left out. */
  stale(pair: LanguagePair): string[] {
    const [from, to] = languagesOf(pair);
    const isOf = (column: string): string => `(${column} = ? OR ${column} LIKE ? || '-%')`;
    return this.#db
      .prepare(
        `SELECT target.id FROM tracks AS target JOIN tracks AS source ON source.id = target.source_track_id
         LEFT JOIN remembered_tracks AS known ON known.track_id = target.id
         WHERE target.binned_at_ms IS NULL AND ${isOf('source.language')} AND ${isOf('target.language')}
           AND (known.revision IS NOT target.revision OR known.source_revision IS NOT source.revision)`
      )
      .all(from, from, to, to)
      .map((row) => staleRow.parse(row).id);
  }

  replace(
    track: { readonly id: string; readonly revision: number; readonly sourceRevision: number },
    rows: readonly { readonly key: string; readonly source: string; readonly target: string }[]
  ): void {
    this.#db.transaction(() => {
      this.#db.prepare('DELETE FROM remembered WHERE track_id = ?').run(track.id);
      const insert = this.#db.prepare('INSERT INTO remembered (key, source, target, track_id) VALUES (?, ?, ?, ?)');
      for (const { key, source, target } of rows) insert.run(key, source, target, track.id);
      this.#db
        .prepare('INSERT OR REPLACE INTO remembered_tracks (track_id, revision, source_revision) VALUES (?, ?, ?)')
        .run(track.id, track.revision, track.sourceRevision);
    })();
  }

  /** What has most of the words, the most first. */
  find(words: readonly string[], pair: LanguagePair, most: number): { source: string; target: string }[] {
    if (words.length === 0) return [];
    const [from, to] = languagesOf(pair);
    return this.#db
      .prepare(
        `SELECT remembered.source, remembered.target FROM remembered
         JOIN tracks AS target ON target.id = remembered.track_id AND target.binned_at_ms IS NULL
         JOIN tracks AS source ON source.id = target.source_track_id
         WHERE remembered MATCH ? AND (source.language = ? OR source.language LIKE ? || '-%')
           AND (target.language = ? OR target.language LIKE ? || '-%')
         ORDER BY rank LIMIT ?`
      )
      .all(words.map((word) => `"${word.replaceAll('"', '')}"`).join(' OR '), from, from, to, to, most)
      .map((row) => rememberedRow.parse(row));
  }
}
