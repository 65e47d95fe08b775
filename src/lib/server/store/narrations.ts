/** What is being spoken, and its words so far. */
import { z } from 'zod';
import { liveWordSchema, type LiveWord } from '$lib/core/narration';
import { msSchema, type Span } from '$lib/core/time';
import type { Db } from './database';

export interface Narration {
  readonly id: string;
  readonly title: string;
  readonly language: string;
  /** What is read; empty where it is spoken freely. */
  readonly script: string;
  /** What was said anew. */
  readonly leftOut: readonly Span[];
  readonly createdAtMs: number;
}

export const leftOutSchema = z
  .array(z.object({ startMs: msSchema, endMs: msSchema }).refine(({ startMs, endMs }) => startMs < endMs))
  .max(10_000);

const rowSchema = z.object({
  id: z.string(),
  title: z.string(),
  language: z.string(),
  script: z.string(),
  left_out: z.string().transform((text) => leftOutSchema.parse(JSON.parse(text))),
  created_at_ms: z.number()
});

function fromRow(raw: unknown): Narration {
  const { left_out: leftOut, created_at_ms: createdAtMs, ...rest } = rowSchema.parse(raw);
  return { ...rest, leftOut, createdAtMs };
}

export class NarrationStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  insert({ id, title, language, script, leftOut, createdAtMs }: Narration): void {
    this.#db
      .prepare('INSERT INTO narrations VALUES (?, ?, ?, ?, ?, ?)')
      .run(id, title, language, script, JSON.stringify(leftOut), createdAtMs);
  }

  find(id: string): Narration | null {
    const row = this.#db.prepare('SELECT * FROM narrations WHERE id = ?').get(id);
    return row === undefined ? null : fromRow(row);
  }

  /** Oldest first. */
  list(): Narration[] {
    return this.#db.prepare('SELECT * FROM narrations ORDER BY created_at_ms, id').all().map(fromRow);
  }

  setLeftOut(id: string, leftOut: readonly Span[]): void {
    this.#db.prepare('UPDATE narrations SET left_out = ? WHERE id = ?').run(JSON.stringify(leftOut), id);
  }

  remove(id: string): void {
    this.#db.prepare('DELETE FROM narrations WHERE id = ?').run(id);
  }

  /** From a place on. */
  words(id: string, from = 0): LiveWord[] {
    return this.#db
      .prepare(
        'SELECT text, start_ms AS startMs, end_ms AS endMs FROM narrated_words WHERE narration_id = ? AND position >= ? ORDER BY position'
      )
      .all(id, from)
      .map((row) => liveWordSchema.parse(row));
  }

  addWords(id: string, words: readonly LiveWord[]): void {
    const count = z
      .number()
      .parse(this.#db.prepare('SELECT count(*) FROM narrated_words WHERE narration_id = ?').pluck().get(id));
    const insert = this.#db.prepare('INSERT INTO narrated_words VALUES (?, ?, ?, ?, ?)');
    this.#db.transaction(() =>
      words.forEach(({ text, startMs, endMs }, at) => insert.run(id, count + at, text, startMs, endMs))
    )();
  }
}
