/** The list of recordings: found, told apart by how far their work is, sorted, a page at a time. */
import { z } from 'zod';
import type { Db } from './database';
import { INDEXED_LENGTH, phrase } from './digests';
import { recordingFromRow, type Recording } from './recordings';

/** How far the work on a recording is. */
export const WORK_STATES = [
  'failed',
  'preparing',
  'unheard',
  'hearing',
  'draft',
  'ready',
  'handed over',
  'changed'
] as const;
export type WorkState = (typeof WORK_STATES)[number];

export const LIBRARY_SORTS = ['added', 'edited', 'title', 'length'] as const;

export interface LibraryQuery {
  readonly isBinned: boolean;
  /** In its title, or spoken in one of its tracks; empty: any. */
  readonly text: string;
  /** A track is in it, by its primary subtag. */
  readonly language: string | null;
  readonly work: WorkState | null;
  /** `none`: in no project. */
  readonly projectId: string | null;
  readonly sort: (typeof LIBRARY_SORTS)[number];
  readonly isReversed: boolean;
  readonly offset: number;
  /** `null`: all of them. */
  readonly limit: number | null;
}

export interface Listed {
  readonly recording: Recording;
  readonly work: WorkState;
  /** Words around what was looked for, where it was spoken. */
  readonly spoken: string | null;
}

export interface LibraryPage {
  readonly listed: readonly Listed[];
  /** How many there are on all pages. */
  readonly total: number;
}

/** What each order is by, and whether its usual direction is down. */
const ORDERS: Readonly<Record<LibraryQuery['sort'], { readonly by: string; readonly isDown: boolean }>> = {
  added: { by: 'created_at_ms', isDown: true },
  edited: {
    by: 'coalesce((SELECT max(edited_at_ms) FROM used_tracks WHERE recording_id = recordings.id), created_at_ms)',
    isDown: true
  },
  title: { by: 'fold(title)', isDown: false },
  length: { by: 'duration_ms', isDown: true }
};
function orderOf({ sort, isReversed }: LibraryQuery): string {
  const { by, isDown } = ORDERS[sort];
  return `${by} ${isDown === isReversed ? 'ASC' : 'DESC'}, id`;
}

const TABLES = `
WITH used_tracks AS NOT MATERIALIZED (SELECT *, id AS track_id FROM tracks WHERE binned_at_ms IS NULL),
listed AS (
  SELECT *, CASE
    WHEN state <> 'ready' THEN state
    WHEN EXISTS (SELECT 1 FROM jobs WHERE recording_id = recordings.id AND kind = 'hear' AND state IN ('queued', 'running'))
      THEN 'hearing'
    -- A new cut is not heard anew: tracks are taken over to it.
    WHEN NOT EXISTS (SELECT 1 FROM used_tracks WHERE recording_id = recordings.id)
      THEN iif(cut_of IS NULL, 'unheard', 'draft')
    -- What was handed over, and what of it says something else now.
    WHEN EXISTS (
      SELECT 1 FROM used_tracks JOIN track_digests USING (track_id) JOIN hand_overs USING (track_id)
      WHERE recording_id = recordings.id AND track_digests.content <> hand_overs.content
        AND version = (SELECT max(version) FROM hand_overs AS all_of_it WHERE all_of_it.track_id = used_tracks.track_id)
    ) THEN 'changed'
    WHEN NOT EXISTS (
      SELECT 1 FROM used_tracks WHERE recording_id = recordings.id AND track_id NOT IN (SELECT track_id FROM hand_overs)
    ) THEN 'handed over'
    WHEN EXISTS (SELECT 1 FROM used_tracks WHERE recording_id = recordings.id AND state = 'draft') THEN 'draft'
    ELSE 'ready' END AS work
  FROM recordings
)`;

const idRow = z.object({ id: z.string() });
const totalRow = z.object({ total: z.number() });
const workRow = z.object({ work: z.enum(WORK_STATES) });
const languageRow = z.object({ language: z.string() });
const spokenRow = z.object({ spoken: z.string() });

export class LibraryStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  page(query: LibraryQuery): LibraryPage {
    const { where, values } = conditions(query);
    const { total } = totalRow.parse(
      this.#db.prepare(`${TABLES} SELECT count(*) AS total FROM listed AS recordings WHERE ${where}`).get(...values)
    );
    const rows = this.#db
      .prepare(
        `${TABLES} SELECT * FROM listed AS recordings WHERE ${where} ORDER BY ${orderOf(query)} LIMIT ? OFFSET ?`
      )
      .all(...values, query.limit ?? -1, query.offset);
    const listed = rows.map((row) => {
      const recording = recordingFromRow(row);
      return { recording, work: workRow.parse(row).work, spoken: this.#spoken(recording.id, query.text) };
    });
    return { listed, total };
  }

  /** Of all pages. */
  ids(query: LibraryQuery): string[] {
    const { where, values } = conditions(query);
    return this.#db
      .prepare(`${TABLES} SELECT id FROM listed AS recordings WHERE ${where} ORDER BY ${orderOf(query)}`)
      .all(...values)
      .map((row) => idRow.parse(row).id);
  }

  /** Of the tracks of recordings that are in use. */
  languages(): string[] {
    return this.#db
      .prepare(
        `SELECT DISTINCT language FROM tracks JOIN recordings ON recordings.id = recording_id
         WHERE tracks.binned_at_ms IS NULL AND recordings.binned_at_ms IS NULL ORDER BY language`
      )
      .all()
      .map((row) => languageRow.parse(row).language);
  }

  #spoken(recordingId: string, text: string): string | null {
    if (text.length < INDEXED_LENGTH) return null;
    const row = this.#db
      .prepare(
        `SELECT snippet(track_texts, 0, '', '', '…', 48) AS spoken FROM track_texts
         JOIN track_digests ON track_digests.id = track_texts.rowid
         JOIN tracks ON tracks.id = track_id
         WHERE track_texts MATCH ? AND recording_id = ? AND tracks.binned_at_ms IS NULL LIMIT 1`
      )
      .get(phrase(text), recordingId);
    return row === undefined ? null : spokenRow.parse(row).spoken;
  }
}

function conditions({ isBinned, text, language, work, projectId }: LibraryQuery): { where: string; values: string[] } {
  const parts = [`binned_at_ms IS ${isBinned ? 'NOT ' : ''}NULL`];
  const values: string[] = [];
  const add = (sql: string, ...bound: string[]): void => {
    parts.push(sql);
    values.push(...bound);
  };
  if (text !== '') {
    const spoken =
      text.length < INDEXED_LENGTH
        ? 'instr(fold(text), fold(?)) > 0'
        : 'track_digests.id IN (SELECT rowid FROM track_texts WHERE track_texts MATCH ?)';
    add(
      `(instr(fold(title), fold(?)) > 0 OR id IN (
         SELECT recording_id FROM track_digests JOIN used_tracks USING (track_id) WHERE ${spoken}))`,
      text,
      text.length < INDEXED_LENGTH ? text : phrase(text)
    );
  }
  if (language !== null)
    add(
      `id IN (SELECT recording_id FROM used_tracks WHERE language = ? OR language LIKE ? || '-%')`,
      language,
      language
    );
  if (work !== null) add('work = ?', work);
  if (projectId === 'none') add('project_id IS NULL');
  else if (projectId !== null) add('project_id = ?', projectId);
  return { where: parts.join(' AND '), values };
}
