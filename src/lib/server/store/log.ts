/** Logs of documents as they are kept: a snapshot now and then, and one entry for every change between. */
import { z } from 'zod';
import type { Db } from './database';

/**
 * `heard`: what a hearing adds while others work, which undo passes over. `break`: what was beyond could not be read, and
 * the document goes on from there.
 */
const ENTRY_KINDS = ['edit', 'undo', 'redo', 'heard', 'break'] as const;
export type EntryKind = (typeof ENTRY_KINDS)[number];

/** What an entry is, without what it did. */
export interface EntryHead {
  readonly revision: number;
  readonly kind: EntryKind;
  readonly targetRevision: number | null;
  readonly label: string;
}

/** As it lies in the database: what was asked and done has yet to be read. */
export interface RawEntry extends EntryHead {
  readonly form: number;
  readonly batchId: string | null;
  readonly commands: unknown;
  readonly changes: unknown;
  readonly madeAtMs: number;
}

export interface NewEntry extends EntryHead {
  readonly batchId: string | null;
  readonly commands: string;
  readonly changes: string;
  readonly inverse: string;
  readonly madeAtMs: number;
}

export interface RawSnapshot {
  readonly revision: number;
  readonly form: number;
  readonly content: unknown;
}

/** Entries that could not be read: they lie in the log still. */
export interface LogBreak {
  readonly fromRevision: number;
  readonly toRevision: number;
  readonly problem: string;
  readonly foundAtMs: number;
}

const headRow = z.object({
  revision: z.number(),
  kind: z.enum(ENTRY_KINDS),
  target_revision: z.number().nullable(),
  label: z.string()
});
const entryRow = headRow.extend({
  form: z.number(),
  batch_id: z.string().nullable(),
  commands: z.string(),
  changes: z.string(),
  made_at_ms: z.number()
});
const snapshotRow = z.object({ revision: z.number(), form: z.number(), content: z.string() });
const breakRow = z.object({
  from_revision: z.number(),
  to_revision: z.number(),
  problem: z.string(),
  found_at_ms: z.number()
});

function headFromRow(raw: unknown): EntryHead {
  const row = headRow.parse(raw);
  return { revision: row.revision, kind: row.kind, targetRevision: row.target_revision, label: row.label };
}

/** What the database holds was JSON when it was written; a page that has rotted since is told as what it is. */
function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (cause) {
    throw new Error('what is kept is no JSON any more', { cause });
  }
}

function entryFromRow(raw: unknown): RawEntry {
  const row = entryRow.parse(raw);
  return {
    ...headFromRow(raw),
    form: row.form,
    batchId: row.batch_id,
    commands: parsed(row.commands),
    changes: parsed(row.changes),
    madeAtMs: row.made_at_ms
  };
}

/** Newest snapshots that are kept besides the draft's. */
const KEPT_SNAPSHOTS = 4;

const ENTRY = 'revision, form, kind, target_revision, batch_id, label, commands, changes, made_at_ms';

export class LogStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  /** Does all of it or nothing. */
  atOnce<T>(work: () => T): T {
    return this.#db.transaction(work)();
  }

  /** A new log, whose draft this is. */
  begin(id: string, kind: string, form: number, content: string): void {
    this.atOnce(() => {
      this.#db.prepare('INSERT INTO documents (id, kind) VALUES (?, ?)').run(id, kind);
      this.putSnapshot(id, { revision: 0, form, content });
    });
  }

  /** The log once more, its documents with other values in the fields that say which they are. */
  copy(id: string, identity: Readonly<Record<string, string>> & { readonly id: string }): void {
    const newId = identity.id;
    this.atOnce(() => {
      this.#db.prepare('INSERT INTO documents (id, kind) SELECT ?, kind FROM documents WHERE id = ?').run(newId, id);
      const fields = Object.entries(identity).flatMap(([field, value]) => [`$.${field}`, value]);
      this.#db
        .prepare(
          `INSERT INTO log_snapshots (document_id, revision, form, content)
           SELECT ?, revision, form, json_set(content${', ?'.repeat(fields.length)}) FROM log_snapshots WHERE document_id = ?`
        )
        .run(newId, ...fields, id);
      for (const [table, columns] of [
        ['log_entries', `${ENTRY}, inverse`],
        ['retired_ids', 'id'],
        ['log_breaks', 'from_revision, to_revision, problem, found_at_ms']
      ])
        this.#db
          .prepare(
            `INSERT INTO ${table} (document_id, ${columns}) SELECT ?, ${columns} FROM ${table} WHERE document_id = ?`
          )
          .run(newId, id);
    });
  }

  append(id: string, form: number, entry: NewEntry, retiredIds: readonly string[]): void {
    this.#db
      .prepare(
        `INSERT INTO log_entries (document_id, revision, form, kind, target_revision, batch_id, label, commands, changes, inverse, made_at_ms)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`
      )
      .run(
        id,
        entry.revision,
        form,
        entry.kind,
        entry.targetRevision,
        entry.batchId,
        entry.label,
        entry.commands,
        entry.changes,
        entry.inverse,
        entry.madeAtMs
      );
    this.retire(id, retiredIds);
  }

  retire(id: string, ids: readonly string[]): void {
    const insert = this.#db.prepare('INSERT OR IGNORE INTO retired_ids (document_id, id) VALUES (?, ?)');
    for (const one of ids) insert.run(id, one);
  }

  isRetired(id: string, itemId: string): boolean {
    return this.#db.prepare('SELECT 1 FROM retired_ids WHERE document_id = ? AND id = ?').get(id, itemId) !== undefined;
  }

  /** Writes an entry of an earlier form anew. */
  rewrite(id: string, revision: number, form: number, entry: Pick<NewEntry, 'commands' | 'changes' | 'inverse'>): void {
    this.#db
      .prepare(
        'UPDATE log_entries SET form = ?, commands = ?, changes = ?, inverse = ? WHERE document_id = ? AND revision = ?'
      )
      .run(form, entry.commands, entry.changes, entry.inverse, id, revision);
  }

  putSnapshot(
    id: string,
    { revision, form, content }: { readonly revision: number; readonly form: number; readonly content: string }
  ): void {
    this.#db
      .prepare('INSERT OR REPLACE INTO log_snapshots (document_id, revision, form, content) VALUES (?, ?, ?, ?)')
      .run(id, revision, form, content);
  }

  /** Removes snapshots that are neither the draft nor among the newest. */
  thinSnapshots(id: string): void {
    this.#db
      .prepare(
        `DELETE FROM log_snapshots WHERE document_id = ? AND revision > 0 AND revision NOT IN
         (SELECT revision FROM log_snapshots WHERE document_id = ? ORDER BY revision DESC LIMIT ?)`
      )
      .run(id, id, KEPT_SNAPSHOTS);
  }

  /** Snapshots at or before a revision, the newest first, each read when it is asked for. */
  *snapshotsFrom(id: string, atMost = Number.MAX_SAFE_INTEGER): Generator<RawSnapshot> {
    const revisions = this.#db
      .prepare('SELECT revision FROM log_snapshots WHERE document_id = ? AND revision <= ? ORDER BY revision DESC')
      .pluck()
      .all(id, atMost);
    for (const revision of revisions) {
      const row = snapshotRow.parse(
        this.#db
          .prepare('SELECT revision, form, content FROM log_snapshots WHERE document_id = ? AND revision = ?')
          .get(id, revision)
      );
      yield { revision: row.revision, form: row.form, content: parsed(row.content) };
    }
  }

  /** All entries without what they did, in order. */
  heads(id: string): EntryHead[] {
    return this.#db
      .prepare('SELECT revision, kind, target_revision, label FROM log_entries WHERE document_id = ? ORDER BY revision')
      .all(id)
      .map(headFromRow);
  }

  /** In order, each read when it is asked for. */
  *entriesAfter(id: string, revision: number): Generator<RawEntry> {
    const rows = this.#db
      .prepare(`SELECT ${ENTRY} FROM log_entries WHERE document_id = ? AND revision > ? ORDER BY revision`)
      .all(id, revision);
    for (const row of rows) yield entryFromRow(row);
  }

  findEntry(id: string, revision: number): (RawEntry & { readonly inverse: unknown }) | null {
    const row = this.#db
      .prepare(`SELECT ${ENTRY}, inverse FROM log_entries WHERE document_id = ? AND revision = ?`)
      .get(id, revision);
    if (row === undefined) return null;
    return { ...entryFromRow(row), inverse: parsed(z.object({ inverse: z.string() }).parse(row).inverse) };
  }

  findByBatch(id: string, batchId: string): RawEntry | null {
    const row = this.#db
      .prepare(`SELECT ${ENTRY} FROM log_entries WHERE document_id = ? AND batch_id = ?`)
      .get(id, batchId);
    return row === undefined ? null : entryFromRow(row);
  }

  /** Bytes of the changes after a revision: what opening has to replay. */
  bytesAfter(id: string, revision: number): number {
    return z
      .number()
      .parse(
        this.#db
          .prepare('SELECT total(length(changes)) FROM log_entries WHERE document_id = ? AND revision > ?')
          .pluck()
          .get(id, revision)
      );
  }

  /** Whether entries are of an earlier form, but for those that are known to be past reading. */
  hasFormer(id: string, form: number): boolean {
    const former = this.#db.prepare(
      `SELECT 1 FROM log_entries e WHERE document_id = ? AND form < ? AND NOT EXISTS
       (SELECT 1 FROM log_breaks b WHERE b.document_id = e.document_id AND revision BETWEEN from_revision AND to_revision)
       LIMIT 1`
    );
    return former.get(id, form) !== undefined;
  }

  putBreak(id: string, found: LogBreak): void {
    this.#db
      .prepare(
        'INSERT INTO log_breaks (document_id, from_revision, to_revision, problem, found_at_ms) VALUES (?, ?, ?, ?, ?)'
      )
      .run(id, found.fromRevision, found.toRevision, found.problem, found.foundAtMs);
  }

  breaks(id: string): LogBreak[] {
    return this.#db
      .prepare('SELECT * FROM log_breaks WHERE document_id = ? ORDER BY from_revision')
      .all(id)
      .map((raw) => {
        const row = breakRow.parse(raw);
        return {
          fromRevision: row.from_revision,
          toRevision: row.to_revision,
          problem: row.problem,
          foundAtMs: row.found_at_ms
        };
      });
  }
}
