import { z } from 'zod';
import type { Db } from './database';

const rowSchema = z.object({
  id: z.string(),
  title: z.string(),
  state: z.enum(['preparing', 'ready', 'failed']),
  failure: z.string().nullable(),
  duration_ms: z.number(),
  mime: z.string(),
  has_video: z.number(),
  width: z.number().nullable(),
  height: z.number().nullable(),
  frame_rate: z.number().nullable(),
  channels: z.number(),
  sample_rate: z.number(),
  bytes: z.number(),
  has_speech_map: z.number(),
  has_proxy: z.number(),
  cut_of: z.string().nullable(),
  is_compared: z.number(),
  project_id: z.string().nullable(),
  former_titles: z.string(),
  created_at_ms: z.number(),
  binned_at_ms: z.number().nullable()
});

export interface MediaFacts {
  readonly mime: string;
  readonly hasVideo: boolean;
  readonly width: number | null;
  readonly height: number | null;
  readonly frameRate: number | null;
  readonly channels: number;
  readonly sampleRate: number;
  readonly bytes: number;
}

export interface Recording {
  readonly id: string;
  readonly title: string;
  /** What it was called before. */
  readonly formerTitles: readonly string[];
  readonly state: 'preparing' | 'ready' | 'failed';
  readonly failure: string | null;
  readonly durationMs: number;
  readonly media: MediaFacts;
  readonly hasSpeechMap: boolean;
  /** Browsers are given a copy of what was sent. */
  readonly hasProxy: boolean;
  /** The recording that this one is the next cut of. */
  readonly cutOf: string | null;
  /** With the cut before it. */
  readonly isCompared: boolean;
  readonly projectId: string | null;
  readonly createdAtMs: number;
  readonly binnedAtMs: number | null;
}

/** A row of `recordings`, whatever else stands in it. */
export function recordingFromRow(raw: unknown): Recording {
  const row = rowSchema.parse(raw);
  return {
    id: row.id,
    title: row.title,
    formerTitles: z.array(z.string()).parse(JSON.parse(row.former_titles)),
    state: row.state,
    failure: row.failure,
    durationMs: row.duration_ms,
    media: {
      mime: row.mime,
      hasVideo: row.has_video === 1,
      width: row.width,
      height: row.height,
      frameRate: row.frame_rate,
      channels: row.channels,
      sampleRate: row.sample_rate,
      bytes: row.bytes
    },
    hasSpeechMap: row.has_speech_map === 1,
    hasProxy: row.has_proxy === 1,
    cutOf: row.cut_of,
    isCompared: row.is_compared === 1,
    projectId: row.project_id,
    createdAtMs: row.created_at_ms,
    binnedAtMs: row.binned_at_ms
  };
}

export class RecordingStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  insert(
    recording: Omit<Recording, 'failure' | 'formerTitles' | 'hasSpeechMap' | 'isCompared' | 'projectId' | 'binnedAtMs'>
  ): void {
    const { media } = recording;
    this.#db
      .prepare(
        `INSERT INTO recordings (id, title, state, duration_ms, mime, has_video, width, height, frame_rate, channels, sample_rate, bytes, has_proxy, cut_of, created_at_ms)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`
      )
      .run(
        recording.id,
        recording.title,
        recording.state,
        recording.durationMs,
        media.mime,
        media.hasVideo ? 1 : 0,
        media.width,
        media.height,
        media.frameRate,
        media.channels,
        media.sampleRate,
        media.bytes,
        recording.hasProxy ? 1 : 0,
        recording.cutOf,
        recording.createdAtMs
      );
  }

  find(id: string): Recording | null {
    const row = this.#db.prepare('SELECT * FROM recordings WHERE id = ?').get(id);
    return row === undefined ? null : recordingFromRow(row);
  }

  /** Newest first: those in use, or those in the bin. */
  list(options: { isBinned: boolean }): Recording[] {
    return this.#db
      .prepare(`SELECT * FROM recordings WHERE (binned_at_ms IS NOT NULL) = ? ORDER BY created_at_ms DESC, id`)
      .all(options.isBinned ? 1 : 0)
      .map(recordingFromRow);
  }

  setReady(id: string, durationMs: number): void {
    this.#db.prepare(`UPDATE recordings SET state = 'ready', duration_ms = ? WHERE id = ?`).run(durationMs, id);
  }
  setPreparing(id: string): void {
    this.#db.prepare(`UPDATE recordings SET state = 'preparing', failure = NULL WHERE id = ?`).run(id);
  }
  setFailed(id: string, failure: string): void {
    this.#db.prepare(`UPDATE recordings SET state = 'failed', failure = ? WHERE id = ?`).run(failure, id);
  }
  setSpeechMapped(id: string): void {
    this.#db.prepare('UPDATE recordings SET has_speech_map = 1 WHERE id = ?').run(id);
  }
  setCompared(id: string): void {
    this.#db.prepare('UPDATE recordings SET is_compared = 1 WHERE id = ?').run(id);
  }
  setTitle(id: string, title: string): void {
    this.#db
      .prepare(
        `UPDATE recordings SET title = ?, former_titles = json_insert(former_titles, '$[#]', title) WHERE id = ? AND title <> ?`
      )
      .run(title, id, title);
  }
  setBinned(id: string, atMs: number | null): void {
    this.#db.prepare('UPDATE recordings SET binned_at_ms = ? WHERE id = ?').run(atMs, id);
  }
  setProject(id: string, projectId: string | null): void {
    this.#db.prepare('UPDATE recordings SET project_id = ? WHERE id = ?').run(projectId, id);
  }
  /** Later cuts of it stay, and what is known of where they share its sound. */
  remove(id: string): void {
    this.#db.transaction(() => {
      this.#db.prepare('UPDATE recordings SET cut_of = NULL WHERE cut_of = ?').run(id);
      this.#db.prepare('DELETE FROM recordings WHERE id = ?').run(id);
    })();
  }
}
