/**
 * Takes a track out of a data folder as the demo ships it, its draft as heard and the edits of its log:
 * `node demo/make/take-track.mjs DATA_FOLDER TRACK_ID demo/tracks/interview.json`, with the server stopped.
 */
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';

const [folder, trackId, out] = process.argv.slice(2);
const db = new Database(join(folder, 'vinetap.sqlite'), { readonly: true });
const { form, content } = db
  .prepare('SELECT form, content FROM log_snapshots WHERE document_id = ? AND revision = 0')
  .get(trackId);
const entries = db
  .prepare('SELECT form, commands FROM log_entries WHERE document_id = ? ORDER BY revision')
  .all(trackId);
if (entries.some((entry) => entry.form !== form))
  throw new Error('the log was not brought up to one form: open the track once in the application');
const taken = {
  form,
  draft: JSON.parse(content),
  entries: entries.map(({ commands }) => ({ edits: JSON.parse(commands) }))
};
writeFileSync(out, `${JSON.stringify(taken)}\n`);
