/** What was sent to a video site, and which of its videos a recording is shown as. */
import { z } from 'zod';
import { trackIdSchema } from '$lib/core/id';
import type { Db } from './database';

const publicationSchema = z
  .object({
    id: z.string(),
    trackId: trackIdSchema,
    videoId: z.string(),
    /** By which the site knows it. */
    captionId: z.string(),
    language: z.string(),
    name: z.string(),
    file: z.string(),
    content: z.string(),
    /** Of what was handed over of the track. */
    version: z.int(),
    /** Since 1970, UTC. */
    publishedAtMs: z.number()
  })
  .readonly();
export type Publication = z.infer<typeof publicationSchema>;

const COLUMNS = `publications.id, track_id AS trackId, video_id AS videoId, caption_id AS captionId, publications.language, name, file,
  content, version, published_at_ms AS publishedAtMs`;

export class PublicationStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  videoOf(recordingId: string): string | null {
    const row = this.#db.prepare('SELECT video_id AS id FROM site_videos WHERE recording_id = ?').get(recordingId);
    return row === undefined ? null : z.object({ id: z.string() }).parse(row).id;
  }
  setVideo(recordingId: string, videoId: string | null): void {
    if (videoId === null) this.#db.prepare('DELETE FROM site_videos WHERE recording_id = ?').run(recordingId);
    else
      this.#db
        .prepare('INSERT INTO site_videos VALUES (?, ?) ON CONFLICT DO UPDATE SET video_id = excluded.video_id')
        .run(recordingId, videoId);
  }

  insert({
    id,
    trackId,
    videoId,
    captionId,
    language,
    name,
    file,
    content,
    version,
    publishedAtMs
  }: Publication): void {
    this.#db
      .prepare('INSERT INTO publications VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)')
      .run(id, trackId, videoId, captionId, language, name, file, content, version, publishedAtMs);
  }
  find(id: string): Publication | null {
    const row = this.#db.prepare(`SELECT ${COLUMNS} FROM publications WHERE id = ?`).get(id);
    return row === undefined ? null : publicationSchema.parse(row);
  }
  /** Of the tracks of a recording on a video, the newest first. */
  listOf(recordingId: string, videoId: string): readonly Publication[] {
    return this.#db
      .prepare(
        `SELECT ${COLUMNS} FROM publications JOIN tracks ON tracks.id = track_id
         WHERE recording_id = ? AND video_id = ? ORDER BY published_at_ms DESC, publications.id`
      )
      .all(recordingId, videoId)
      .map((row) => publicationSchema.parse(row));
  }
}
