/** Tracks as they are kept: a snapshot every so many revisions, and one entry for every change between. */
import { z } from 'zod';
import { editSchema, type Edit } from '$lib/core/edits';
import { trackSchema, type Track } from '$lib/core/track';
import type { Db } from './database';

const SNAPSHOT_EVERY = 200;

export interface TrackSummary {
  readonly id: string;
  readonly recordingId: string;
  readonly language: string;
  readonly kind: string;
  readonly title: string;
  readonly revision: number;
  readonly wordCount: number;
  readonly correctedCount: number;
  readonly cueCount: number;
  readonly createdAtMs: number;
}

export interface TrackEntry {
  readonly revision: number;
  /** `heard`: a hearing that goes on while the track is worked on. The draft is the first snapshot and these. */
  readonly kind: 'edit' | 'undo' | 'redo' | 'heard';
  readonly targetRevision: number | null;
  readonly batchId: string | null;
  readonly label: string;
  readonly edits: readonly Edit[];
  readonly inverses: readonly Edit[];
  readonly madeAtMs: number;
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
  id: z.string(),
  recording_id: z.string(),
  language: z.string(),
  kind: z.string(),
  title: z.string(),
  revision: z.number(),
  word_count: z.number(),
  corrected_count: z.number(),
  cue_count: z.number(),
  created_at_ms: z.number()
});
const entryRow = z.object({
  revision: z.number(),
  kind: z.enum(['edit', 'undo', 'redo', 'heard']),
  target_revision: z.number().nullable(),
  batch_id: z.string().nullable(),
  label: z.string(),
  edits: z.string(),
  inverses: z.string(),
  made_at_ms: z.number()
});
const snapshotRow = z.object({ revision: z.number(), document: z.string() });
const editsSchema = z.array(editSchema);

function summaryFromRow(raw: unknown): TrackSummary {
  const row = summaryRow.parse(raw);
  return {
    id: row.id,
    recordingId: row.recording_id,
    language: row.language,
    kind: row.kind,
    title: row.title,
    revision: row.revision,
    wordCount: row.word_count,
    correctedCount: row.corrected_count,
    cueCount: row.cue_count,
    createdAtMs: row.created_at_ms
  };
}

function entryFromRow(raw: unknown): TrackEntry {
  const row = entryRow.parse(raw);
  return {
    revision: row.revision,
    kind: row.kind,
    targetRevision: row.target_revision,
    batchId: row.batch_id,
    label: row.label,
    edits: editsSchema.parse(JSON.parse(row.edits)),
    inverses: editsSchema.parse(JSON.parse(row.inverses)),
    madeAtMs: row.made_at_ms
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

  /** A new track: its draft is the snapshot of revision 0 and the first version. */
  insert(track: Track, atMs: number): void {
    this.#db.transaction(() => {
      this.#db
        .prepare(
          `INSERT INTO tracks (id, recording_id, source_track_id, language, kind, title, revision, word_count, corrected_count, cue_count, created_at_ms)
           VALUES (?, ?, ?, ?, ?, ?, 0, ?, ?, ?, ?)`
        )
        .run(
          track.id,
          track.recordingId,
          track.sourceTrackId,
          track.language,
          track.kind,
          track.title,
          ...countsOf(track),
          atMs
        );
      this.#db
        .prepare('INSERT INTO track_snapshots (track_id, revision, document) VALUES (?, 0, ?)')
        .run(track.id, JSON.stringify(track));
      this.#db
        .prepare(`INSERT INTO versions (id, track_id, title, revision, made_at_ms) VALUES (?, ?, 'Draft', 0, ?)`)
        .run(track.id, track.id, atMs);
    })();
  }

  /** Does all of it or nothing. */
  atOnce<T>(work: () => T): T {
    return this.#db.transaction(work)();
  }

  /** The track once more, under another id and for another recording, with its log, its versions and what was judged. */
  copy(id: string, to: { readonly id: string; readonly recordingId: string }, atMs: number): void {
    this.#db.transaction(() => {
      this.#db
        .prepare(
          `INSERT INTO tracks (id, recording_id, source_track_id, language, kind, title, revision, word_count, corrected_count, cue_count, created_at_ms)
           SELECT ?, ?, source_track_id, language, kind, title, revision, word_count, corrected_count, cue_count, ? FROM tracks WHERE id = ?`
        )
        .run(to.id, to.recordingId, atMs, id);
      this.#db
        .prepare(
          `INSERT INTO track_snapshots (track_id, revision, document)
           SELECT ?, revision, json_set(document, '$.id', ?, '$.recordingId', ?) FROM track_snapshots WHERE track_id = ?`
        )
        .run(to.id, to.id, to.recordingId, id);
      this.#db
        .prepare(
          `INSERT INTO track_entries (track_id, revision, kind, target_revision, batch_id, label, edits, inverses, made_at_ms)
           SELECT ?, revision, kind, target_revision, batch_id, label, edits, inverses, made_at_ms FROM track_entries WHERE track_id = ?`
        )
        .run(to.id, id);
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
    })();
  }

  /** One row a change; with it, now and then, the whole track as it is afterwards. */
  append(track: Track, entry: TrackEntry): void {
    this.#db.transaction(() => {
      this.#db
        .prepare(
          `INSERT INTO track_entries (track_id, revision, kind, target_revision, batch_id, label, edits, inverses, made_at_ms)
           VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`
        )
        .run(
          track.id,
          entry.revision,
          entry.kind,
          entry.targetRevision,
          entry.batchId,
          entry.label,
          JSON.stringify(entry.edits),
          JSON.stringify(entry.inverses),
          entry.madeAtMs
        );
      this.#db
        .prepare(
          'UPDATE tracks SET revision = ?, title = ?, word_count = ?, corrected_count = ?, cue_count = ? WHERE id = ?'
        )
        .run(entry.revision, track.title, ...countsOf(track), track.id);
      if (entry.revision % SNAPSHOT_EVERY === 0) {
        this.#db
          .prepare('INSERT INTO track_snapshots (track_id, revision, document) VALUES (?, ?, ?)')
          .run(track.id, entry.revision, JSON.stringify(track));
      }
    })();
  }

  findSummary(id: string): TrackSummary | null {
    const row = this.#db.prepare('SELECT * FROM tracks WHERE id = ?').get(id);
    return row === undefined ? null : summaryFromRow(row);
  }

  listOf(recordingId: string): TrackSummary[] {
    return this.#db
      .prepare('SELECT * FROM tracks WHERE recording_id = ? ORDER BY created_at_ms, id')
      .all(recordingId)
      .map(summaryFromRow);
  }

  /** The newest snapshot at or before a revision. */
  getSnapshot(id: string, atMost = Number.MAX_SAFE_INTEGER): { readonly revision: number; readonly track: Track } {
    const row = snapshotRow.parse(
      this.#db
        .prepare(
          'SELECT revision, document FROM track_snapshots WHERE track_id = ? AND revision <= ? ORDER BY revision DESC LIMIT 1'
        )
        .get(id, atMost)
    );
    return { revision: row.revision, track: trackSchema.parse(JSON.parse(row.document)) };
  }

  entriesAfter(id: string, revision: number): TrackEntry[] {
    return this.#db
      .prepare('SELECT * FROM track_entries WHERE track_id = ? AND revision > ? ORDER BY revision')
      .all(id, revision)
      .map(entryFromRow);
  }

  /** The position of the last part that a hearing put in; -1 for none. */
  lastHeardPart(id: string): number {
    const row = this.#db
      .prepare(
        `SELECT batch_id FROM track_entries WHERE track_id = ? AND kind = 'heard' ORDER BY revision DESC LIMIT 1`
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

  findByBatch(id: string, batchId: string): TrackEntry | null {
    const row = this.#db.prepare('SELECT * FROM track_entries WHERE track_id = ? AND batch_id = ?').get(id, batchId);
    return row === undefined ? null : entryFromRow(row);
  }
}
