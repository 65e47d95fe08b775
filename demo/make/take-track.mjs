/**
 * Takes a track out of a data folder as the demo ships it, its draft as heard and the edits of its log:
 * `node demo/make/take-track.mjs DATA_FOLDER TRACK_ID demo/tracks/interview.json`, with the server stopped.
 */
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';

const [folder, trackId, out] = process.argv.slice(2);
const db = new Database(join(folder, 'vinetap.sqlite'), { readonly: true });
const { document } = db
  .prepare('SELECT document FROM track_snapshots WHERE track_id = ? AND revision = 0')
  .get(trackId);
const entries = db.prepare('SELECT label, edits FROM track_entries WHERE track_id = ? ORDER BY revision').all(trackId);
const taken = {
  draft: JSON.parse(document),
  entries: entries.map(({ label, edits }) => ({ label, edits: JSON.parse(edits) }))
};
writeFileSync(out, `${JSON.stringify(taken)}\n`);
