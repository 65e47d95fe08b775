/** New hearings of tracks that are there, until they are taken or put away. */
import { type TrackId, trackIdSchema } from '$lib/core/id';
import { z } from 'zod';
import { msSchema, type Span } from '$lib/core/time';
import { wordSchema, type Word } from '$lib/core/track';
import type { Db } from './database';

export interface Proposal {
  readonly id: string;
  readonly trackId: TrackId;
  /** What was heard anew. */
  readonly stretch: Span;
  readonly words: readonly Word[];
  readonly madeAtMs: number;
}

const rowSchema = z.object({
  id: z.string(),
  track_id: trackIdSchema,
  start_ms: msSchema,
  end_ms: msSchema,
  words: z.string(),
  made_at_ms: z.number()
});
const wordsSchema = z.array(wordSchema);

function proposalFromRow(raw: unknown): Proposal {
  const row = rowSchema.parse(raw);
  return {
    id: row.id,
    trackId: row.track_id,
    stretch: { startMs: row.start_ms, endMs: row.end_ms },
    words: wordsSchema.parse(JSON.parse(row.words)),
    madeAtMs: row.made_at_ms
  };
}

export class ProposalStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  /** One of the same id takes the place of the one before. */
  insert({ id, trackId, stretch, words, madeAtMs }: Proposal): void {
    this.#db
      .prepare(
        'INSERT OR REPLACE INTO proposals (id, track_id, start_ms, end_ms, words, made_at_ms) VALUES (?, ?, ?, ?, ?, ?)'
      )
      .run(id, trackId, stretch.startMs, stretch.endMs, JSON.stringify(words), madeAtMs);
  }

  find(trackId: TrackId, id: string): Proposal | null {
    const row = this.#db.prepare('SELECT * FROM proposals WHERE id = ? AND track_id = ?').get(id, trackId);
    return row === undefined ? null : proposalFromRow(row);
  }

  /** Newest first. */
  listOf(trackId: TrackId): Proposal[] {
    return this.#db
      .prepare('SELECT * FROM proposals WHERE track_id = ? ORDER BY made_at_ms DESC, id')
      .all(trackId)
      .map(proposalFromRow);
  }

  remove(id: string): void {
    this.#db.prepare('DELETE FROM proposals WHERE id = ?').run(id);
  }
}
