/** Projects: recordings that belong together. */
import { z } from 'zod';
import type { Db } from './database';

const projectRow = z.object({ id: z.string(), name: z.string(), recording_count: z.number() });

/** What a project is called. */
export const projectNameSchema = z.object({ name: z.string().trim().min(1).max(100) });

export interface Project {
  readonly id: string;
  readonly name: string;
  /** Of those that are in use. */
  readonly recordingCount: number;
}

export class ProjectStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  /** In the order of their names. */
  list(): Project[] {
    return this.#db
      .prepare(
        `SELECT id, name,
           (SELECT count(*) FROM recordings WHERE project_id = projects.id AND binned_at_ms IS NULL) AS recording_count
         FROM projects ORDER BY fold(name), created_at_ms`
      )
      .all()
      .map((raw) => {
        const row = projectRow.parse(raw);
        return { id: row.id, name: row.name, recordingCount: row.recording_count };
      });
  }

  find(id: string): Project | null {
    return this.list().find((project) => project.id === id) ?? null;
  }

  insert(id: string, name: string, atMs: number): void {
    this.#db.prepare('INSERT INTO projects (id, name, created_at_ms) VALUES (?, ?, ?)').run(id, name, atMs);
  }
  rename(id: string, name: string): void {
    this.#db.prepare('UPDATE projects SET name = ? WHERE id = ?').run(name, id);
  }
  /** Its recordings stay, in no project. */
  remove(id: string): void {
    this.#db.prepare('DELETE FROM projects WHERE id = ?').run(id);
  }
}
