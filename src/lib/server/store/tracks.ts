/** What is kept of tracks beside their logs: what lists show, and versions. */
import type { LastHandedOver } from '$lib/core/handed-over';
import { type TrackId, trackIdSchema } from '$lib/core/id';
import { z } from 'zod';
import type { Track } from '$lib/core/track';
import type { Db } from './database';

export interface TrackSummary {
  readonly id: TrackId;
  readonly recordingId: string;
  /** The track that it translates. */
  readonly sourceTrackId: TrackId | null;
  readonly language: string;
  readonly kind: string;
  readonly title: string;
  readonly revision: number;
  readonly wordCount: number;
  readonly correctedCount: number;
  readonly cueCount: number;
  readonly createdAtMs: number;
  readonly state: Track['state'];
  readonly editedAtMs: number;
  readonly binnedAtMs: number | null;
  /** Open doubts as they were counted last; `null` until somebody asked for them. */
  readonly doubtCount: number | null;
  /** What breaks its rules, as it was counted last; `null` where that is not known yet. */
  readonly findingCount: number | null;
  /** `null` where nothing of it left the house. */
  readonly handedOver: LastHandedOver | null;
}

/** A named point of a track that can be gone back to. */
export interface Version {
  readonly id: string;
  readonly title: string;
  readonly revision: number;
  readonly madeAtMs: number;
}

const versionRow = z.object({ id: z.string(), title: z.string(), revision: z.number(), made_at_ms: z.number() });
function versionFromRow(raw: unknown): Version {
  const row = versionRow.parse(raw);
  return { id: row.id, title: row.title, revision: row.revision, madeAtMs: row.made_at_ms };
}

const summaryRow = z.object({
  id: trackIdSchema,
  recording_id: z.string(),
  source_track_id: trackIdSchema.nullable(),
  language: z.string(),
  kind: z.string(),
  title: z.string(),
  revision: z.number(),
  word_count: z.number(),
  corrected_count: z.number(),
  cue_count: z.number(),
  created_at_ms: z.number(),
  state: z.enum(['draft', 'ready', 'handed over']),
  edited_at_ms: z.number(),
  binned_at_ms: z.number().nullable(),
  doubt_count: z.number().nullable(),
  finding_count: z.number().nullable(),
  handed_over_version: z.number().nullable(),
  handed_over_at_ms: z.number().nullable(),
  has_changed: z.number().nullable()
});
const SUMMARIES = `SELECT tracks.*, finding_count, handed_over_at_ms, hand_overs.version AS handed_over_version,
  coalesce(track_digests.content <> hand_overs.content, 0) AS has_changed
  FROM tracks LEFT JOIN track_digests ON track_digests.track_id = tracks.id
  LEFT JOIN hand_overs ON hand_overs.track_id = tracks.id
    AND hand_overs.version = (SELECT max(version) FROM hand_overs WHERE track_id = tracks.id)`;
function summaryFromRow(raw: unknown): TrackSummary {
  const row = summaryRow.parse(raw);
  return {
    id: row.id,
    recordingId: row.recording_id,
    sourceTrackId: row.source_track_id,
    language: row.language,
    kind: row.kind,
    title: row.title,
    revision: row.revision,
    wordCount: row.word_count,
    correctedCount: row.corrected_count,
    cueCount: row.cue_count,
    createdAtMs: row.created_at_ms,
    state: row.state,
    editedAtMs: row.edited_at_ms,
    binnedAtMs: row.binned_at_ms,
    doubtCount: row.doubt_count,
    findingCount: row.finding_count,
    handedOver:
      row.handed_over_version === null
        ? null
        : { version: row.handed_over_version, atMs: row.handed_over_at_ms!, hasChanged: row.has_changed === 1 }
  };
}

/** Words shown, words corrected, cues. */
function countsOf(track: Track): [number, number, number] {
  let shown = 0;
  let corrected = 0;
  for (const word of track.words) {
    if (word.shown) shown++;
    if (word.correctedAt !== null) corrected++;
  }
  return [shown, corrected, track.cues.length];
}

const HEARD_PART = 'heard ';
/** What names the part of a hearing at a position in the log of its track. */
export const heardPart = (position: number): string => `${HEARD_PART}${position}`;

export class TrackStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  /** What lists show of a new track, and its draft as the first version. */
  list(track: Track, atMs: number): void {
    this.#db
      .prepare(
        `INSERT INTO tracks (id, recording_id, source_track_id, language, kind, title, state, revision, word_count, corrected_count, cue_count, created_at_ms, edited_at_ms)
         VALUES (?, ?, ?, ?, ?, ?, ?, 0, ?, ?, ?, ?, ?)`
      )
      .run(
        track.id,
        track.recordingId,
        track.sourceTrackId,
        track.language,
        track.kind,
        track.title,
        track.state,
        ...countsOf(track),
        atMs,
        atMs
      );
    this.#db
      .prepare(`INSERT INTO versions (id, track_id, title, revision, made_at_ms) VALUES (?, ?, 'Draft', 0, ?)`)
      .run(track.id, track.id, atMs);
  }

  /**
   * The track once more, under another id and for another recording, with its versions and what was judged.
   * `sourceTrackId`: what it translates there, left out the same. `isCarried`: it is taken over to the next cut.
   */
  copy(
    id: string,
    to: {
      readonly id: string;
      readonly recordingId: string;
      readonly sourceTrackId?: TrackId | undefined;
      readonly isCarried?: boolean;
    },
    atMs: number
  ): void {
    this.#db
      .prepare(
        `INSERT INTO tracks (id, recording_id, source_track_id, carried_from, language, kind, title, state, revision, word_count, corrected_count, cue_count, created_at_ms, edited_at_ms)
         SELECT ?, ?, coalesce(?, source_track_id), ?, language, kind, title, state, revision, word_count, corrected_count, cue_count, ?, ? FROM tracks WHERE id = ?`
      )
      .run(to.id, to.recordingId, to.sourceTrackId ?? null, to.isCarried === true ? id : null, atMs, atMs, id);
    // A draft's version has the id of its track.
    this.#db
      .prepare(
        `INSERT INTO versions (id, track_id, title, revision, made_at_ms)
         SELECT iif(id = track_id, ?, lower(hex(randomblob(16)))), ?, title, revision, made_at_ms FROM versions WHERE track_id = ?`
      )
      .run(to.id, to.id, id);
    this.#db
      .prepare(
        `INSERT INTO judged_doubts (track_id, key, judged_at_ms)
         SELECT ?, key, judged_at_ms FROM judged_doubts WHERE track_id = ?`
      )
      .run(to.id, id);
    this.#db
      .prepare(
        `INSERT INTO accepted_findings (track_id, key, reason, accepted_at_ms)
         SELECT ?, key, reason, accepted_at_ms FROM accepted_findings WHERE track_id = ?`
      )
      .run(to.id, id);
  }

  /** The track of a recording that was taken over from one of the cut before; `null` where there is none. */
  findCarried(recordingId: string, fromId: string): TrackId | null {
    const row = this.#db
      .prepare('SELECT id FROM tracks WHERE recording_id = ? AND carried_from = ? AND binned_at_ms IS NULL')
      .get(recordingId, fromId);
    return row === undefined ? null : z.object({ id: trackIdSchema }).parse(row).id;
  }

  /** What lists show of a track, as it is at a revision. */
  summarise(track: Track, revision: number, atMs: number): void {
    this.#db
      .prepare(
        'UPDATE tracks SET revision = ?, language = ?, kind = ?, title = ?, state = ?, word_count = ?, corrected_count = ?, cue_count = ?, edited_at_ms = ? WHERE id = ?'
      )
      .run(revision, track.language, track.kind, track.title, track.state, ...countsOf(track), atMs, track.id);
  }

  setBinned(id: string, atMs: number | null): void {
    this.#db.prepare('UPDATE tracks SET binned_at_ms = ? WHERE id = ?').run(atMs, id);
  }
  setDoubtCount(id: string, count: number): void {
    this.#db.prepare('UPDATE tracks SET doubt_count = ? WHERE id = ?').run(count, id);
  }
  /** For good, with its log. */
  remove(id: string): void {
    this.#db.prepare('DELETE FROM tracks WHERE id = ?').run(id);
  }

  findSummary(id: string): TrackSummary | null {
    const row = this.#db.prepare(`${SUMMARIES} WHERE tracks.id = ?`).get(id);
    return row === undefined ? null : summaryFromRow(row);
  }

  /** Oldest first: those in use, or those in the bin. */
  listOf(recordingId: string, options: { isBinned: boolean } = { isBinned: false }): TrackSummary[] {
    return this.#db
      .prepare(
        `${SUMMARIES} WHERE recording_id = ? AND (binned_at_ms IS NOT NULL) = ? ORDER BY created_at_ms, tracks.id`
      )
      .all(recordingId, options.isBinned ? 1 : 0)
      .map(summaryFromRow);
  }

  /** The position of the last part that a hearing put in; -1 for none. */
  lastHeardPart(id: string): number {
    const row = this.#db
      .prepare(
        `SELECT batch_id FROM log_entries WHERE document_id = ? AND kind = 'heard' ORDER BY revision DESC LIMIT 1`
      )
      .get(id);
    if (row === undefined) return -1;
    return Number(z.object({ batch_id: z.string() }).parse(row).batch_id.slice(HEARD_PART.length));
  }

  /** The first is the draft. */
  versionsOf(id: string): Version[] {
    return this.#db
      .prepare('SELECT * FROM versions WHERE track_id = ? ORDER BY revision, made_at_ms')
      .all(id)
      .map(versionFromRow);
  }

  findVersion(id: string, versionId: string): Version | null {
    const row = this.#db.prepare('SELECT * FROM versions WHERE track_id = ? AND id = ?').get(id, versionId);
    return row === undefined ? null : versionFromRow(row);
  }

  insertVersion(id: string, version: Version): void {
    this.#db
      .prepare('INSERT INTO versions (id, track_id, title, revision, made_at_ms) VALUES (?, ?, ?, ?, ?)')
      .run(version.id, id, version.title, version.revision, version.madeAtMs);
  }
}
